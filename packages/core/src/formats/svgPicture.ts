import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { PageError } from '../page';

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
const PX_PER_UNIT: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
};

/**
 * The size in px of an SVG that may be brought in as a rough. Throws a PageError with the reason when it is not an SVG, is
 * cut short, runs scripts, or reaches for anything outside itself.
 */
export function checkSvgPicture(text: string): { readonly width: number; readonly height: number } {
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
  return sizeOfRoot(root.attributes);
}

interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
  readonly text: string;
}

function elementsOf(nodes: unknown): Element[] {
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

function refuseActive(element: Element): void {
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

function sizeOfRoot(attributes: Readonly<Record<string, string>>): { width: number; height: number } {
  const box = attributes.viewBox
    ?.trim()
    .split(/[\s,]+/)
    .map(Number);
  const width = lengthOf(attributes.width) ?? box?.[2];
  const height = lengthOf(attributes.height) ?? box?.[3];
  if (width === undefined || height === undefined || !(width > 0 && height > 0))
    throw new PageError('This SVG does not say how large it is: it needs a width and a height, or a viewBox.');
  return { width, height };
}

function lengthOf(value: string | undefined): number | undefined {
  const match = value?.trim().match(/^(\d*\.?\d+(?:e[+-]?\d+)?)([a-z]*)$/i);
  if (!match) return undefined;
  const factor = PX_PER_UNIT[match[2].toLowerCase()];
  return factor === undefined ? undefined : Number(match[1]) * factor;
}
