import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { PageError } from '../gate';

const FORBIDDEN = new Set([
  'script',
  'foreignObject',
  'iframe',
  'audio',
  'video',
  'handler',
  'set',
  'animate',
  'animateTransform',
]);

/** An element of an SVG: its name without a prefix, its attributes and what lies in it. */
export interface SvgElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly SvgElement[];
  readonly text: string;
}

/**
 * The root of an SVG text. Throws a PageError with the reason when it is not an SVG, is cut short, runs scripts, or reaches
 * for anything outside itself.
 */
export function parseSvg(text: string): SvgElement {
  if (/<!ENTITY/i.test(text))
    throw new PageError('This SVG declares entities of its own. Save it as plain SVG and bring it in again.');
  if (XMLValidator.validate(text) !== true) throw new PageError('This SVG is damaged or cut short.');
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    preserveOrder: true,
    processEntities: false,
  });
  const nodes: unknown = parser.parse(text);
  const root = elementsOf(nodes).find(({ name }) => name === 'svg');
  if (!root) throw new PageError('This file is not an SVG picture.');
  refuseActive(root);
  return root;
}

function elementsOf(nodes: unknown): SvgElement[] {
  if (!Array.isArray(nodes)) return [];
  return nodes.flatMap((node: unknown) => {
    if (typeof node !== 'object' || node === null) return [];
    const entries = Object.entries(node);
    const attributes = entries.find(([key]) => key === ':@')?.[1];
    return entries
      .filter(([key]) => key !== ':@' && key !== '#text')
      .map(([key, inner]) => ({
        name: key.replace(/^.*:/, ''),
        attributes: Object.fromEntries(Object.entries(attributes ?? {}).map(([k, v]) => [k, String(v)])),
        children: elementsOf(inner),
        text: textOf(inner),
      }));
  });
}

const textOf = (nodes: unknown): string =>
  Array.isArray(nodes)
    ? nodes
        .map((node: unknown) =>
          typeof node === 'object' && node !== null && '#text' in node ? String(node['#text']) : '',
        )
        .join('')
    : '';

function refuseActive(element: SvgElement): void {
  if (FORBIDDEN.has(element.name))
    throw new PageError(
      `This SVG holds <${element.name}>, which can run or load things. Save it as plain SVG and bring it in again.`,
    );
  for (const [name, value] of Object.entries(element.attributes)) {
    if (/^on/i.test(name))
      throw new PageError('This SVG runs a script when it is touched. Save it as plain SVG and bring it in again.');
    const isLink = /(^|:)href$/i.test(name) && !/^\s*(#|data:image\/(png|jpeg|webp|gif);)/i.test(value);
    if (isLink || reachesOut(value)) refuseOutside();
  }
  if (element.name === 'style' && (reachesOut(element.text) || /@import/i.test(element.text))) refuseOutside();
  element.children.forEach(refuseActive);
}

const reachesOut = (value: string): boolean => /url\(\s*['"]?\s*(?!#|['"]|data:image\/)/i.test(value);

function refuseOutside(): never {
  throw new PageError('This SVG reaches for something outside itself. Embed its pictures and bring it in again.');
}
