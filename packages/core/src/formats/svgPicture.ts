import { PageError } from '../gate';
import { parseSvg } from './svgTree';

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
export const checkSvgPicture = (text: string): { readonly width: number; readonly height: number } =>
  sizeOfRoot(parseSvg(text).attributes);

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
