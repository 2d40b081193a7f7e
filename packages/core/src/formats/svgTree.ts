import { XMLValidator } from 'fast-xml-parser';
import { PageError } from '../gate';
import { xmlTree, type XmlElement } from './xmlTree';

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

export type SvgElement = XmlElement;

/**
 * The root of an SVG text. Throws a PageError with the reason when it is not an SVG, is cut short, runs scripts, or reaches
 * for anything outside itself.
 */
export function parseSvg(text: string): SvgElement {
  if (/<!ENTITY/i.test(text))
    throw new PageError('This SVG declares entities of its own. Save it as plain SVG and bring it in again.');
  if (XMLValidator.validate(text) !== true) throw new PageError('This SVG is damaged or cut short.');
  const root = xmlTree(text).find(({ name }) => name === 'svg');
  if (!root) throw new PageError('This file is not an SVG picture.');
  refuseActive(root);
  return root;
}

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
