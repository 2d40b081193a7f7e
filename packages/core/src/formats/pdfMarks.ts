import type { Mark, MarkShape, Shade } from '../drawn';
import { CURVE_RINGS, curvesOf, inParts, isStraight } from './curves';
import { channelsOf, isInkBlack, type Channels } from '../nib';
import { clipped, filledOf, type Part, type Piece } from './walk';

/** Numbers of a page are whole parts of a px, so many to a px. */
export const PDF_PARTS = 25;

/** What content refers to: names of what is kept beside it. */
export interface PdfResources {
  /** The name of a state with an opacity, 0..1, and a way of blending. */
  state(opacity: number, blend?: 'Multiply'): string;
  /** The name of a state in which only as much of a content shows as another is light. */
  masked(content: string): string;
  /** The name of a content that is put together on its own before it is laid down. */
  group(content: string): string;
  /** The name of colours, or greys, that go over into each other: channels of 0..1 for each stop. */
  shading(shade: Shade, stops: readonly (readonly number[])[]): string;
}

/** How parts are written. */
export interface PdfInk {
  readonly resources: PdfResources;
  /** Whether colours that are meant as black are black ink alone. */
  readonly pureBlack: boolean;
}

/** Parts as operators of a content stream (ISO 32000-1, 8.5), lowest first, in parts of a px. */
export const pdfParts = (parts: readonly Part[], ink: PdfInk): string =>
  clipped(parts)
    .map((run) => {
      const inside = painted(run.parts, ink);
      return run.clip && inside !== '' ? `q\n${clipTo(run.clip)}${inside}Q\n` : inside;
    })
    .join('');

/**
 * Parts one after the other: a colour and an opacity stand until they change. Each path is written from where it begins, which
 * the one before is the start of: small numbers pack well.
 */
function painted(parts: readonly Part[], ink: PdfInk): string {
  const lines: string[] = [];
  let stands: Standing | undefined;
  const close = () => {
    if (stands) lines.push('Q\n');
    stands = undefined;
  };
  for (const part of parts) {
    if ('beneath' in part) {
      close();
      lines.push(cutAway(part.beneath, part.cut, ink));
      continue;
    }
    const { mark } = part;
    const curves = curvesIn(part);
    if (curves.length === 0) continue;
    if (mark.shade) {
      close();
      lines.push(shaded(mark.shade, part, ink));
      continue;
    }
    if (!stands) lines.push('q\n');
    stands ??= { colour: '', opacity: 1, x: 0, y: 0 };
    if (mark.opacity !== stands.opacity) lines.push(`/${ink.resources.state(mark.opacity)} gs\n`);
    const colour = inColour(channelsOf(mark.color), ink.pureBlack);
    if (colour !== stands.colour) lines.push(colour);
    const [x, y] = curves[0];
    lines.push(`1 0 0 1 ${x - stands.x} ${y - stands.y} cm\n`);
    for (const one of curves) lines.push(curvePath(one, x, y));
    lines.push(ruleOf(part) === 'evenodd' ? 'f*\n' : 'f\n');
    stands = { colour, opacity: mark.opacity, x, y };
  }
  close();
  return lines.join('');
}

/** What holds where a part is written: its colour, how much of it shows, and where numbers count from. */
interface Standing {
  readonly colour: string;
  readonly opacity: number;
  readonly x: number;
  readonly y: number;
}

const ruleOf = ({ mark, rings }: Piece): MarkShape['rule'] => (rings ? 'nonzero' : mark.rule);

/** A colour to fill with: greys are grey alone, so that they take black ink and no other (ISO 32000-1, 8.6.4.2). */
export function inColour(channels: Channels, pureBlack: boolean): string {
  const [red, green, blue] = coloursIn(channels, pureBlack);
  return red === green && green === blue ? `${red} g\n` : `${red} ${green} ${blue} rg\n`;
}

/** Channels as PDF has them, 0..1. */
const coloursIn = (channels: Channels, pureBlack: boolean): number[] =>
  pureBlack && isInkBlack(channels) ? [0, 0, 0] : channels.map((value) => Number((value / 255).toFixed(4)));

/** A gradient within a path (ISO 32000-1, 8.7.4). */
function shaded(shade: Shade, part: Piece, { resources, pureBlack }: PdfInk): string {
  const { opacity } = part.mark;
  const colours = shade.stops.map(({ color }) => coloursIn(channelsOf(color), pureBlack));
  const isGrey = colours.every(([red, green, blue]) => red === green && green === blue);
  const name = resources.shading(shade, isGrey ? colours.map(([grey]) => [grey]) : colours);
  const through = shade.stops.map((stop) => [stop.opacity ?? 1]);
  const data = curvesIn(part)
    .map((one) => curvePath(one))
    .join('');
  const clip = `${data}${ruleOf(part) === 'evenodd' ? 'W*' : 'W'} n\n`;
  const state = opacity < 1 ? `/${resources.state(opacity)} gs\n` : '';
  const mask = through.some(([share]) => share < 1)
    ? `/${resources.masked(`${clip}/${resources.shading(shade, through)} sh\n`)} gs\n`
    : '';
  return `q\n${mask}${state}${clip}/${name} sh\nQ\n`;
}

/** What lies beneath, less the share that a mark takes away: a mask that is light where all of it stays. */
function cutAway(beneath: readonly Part[], cut: Mark, ink: PdfInk): string {
  const inside = pdfParts(beneath, ink);
  if (inside === '') return '';
  const hole = `${Number((1 - cut.opacity).toFixed(4))} g\n${shapePath(cut)}${cut.rule === 'evenodd' ? 'f*' : 'f'}\n`;
  const clippedHole = cut.clip ? `q\n${clipTo(cut.clip)}${hole}Q\n` : hole;
  const mask = ink.resources.masked(`1 g\n${ALL}f\n${clippedHole}`);
  return `q\n/${mask} gs\n/${ink.resources.group(inside)} Do\nQ\n`;
}

/** Far beyond anything that is drawn. */
const ALL = '-100000000 -100000000 200000000 200000000 re\n';

const clipTo = (clip: MarkShape): string => `${shapePath(clip)}${clip.rule === 'evenodd' ? 'W*' : 'W'} n\n`;

const shapePath = (shape: MarkShape): string =>
  curvesOfRings(shape.rings(CURVE_RINGS))
    .map((one) => curvePath(one))
    .join('');

const curvesIn = (piece: Piece): Int32Array[] => curvesOfRings(filledOf(piece, CURVE_RINGS).rings);

const curvesOfRings = (rings: readonly Float64Array[]): Int32Array[] =>
  rings.filter((ring) => ring.length >= 6).map((ring) => inParts(curvesOf(ring), PDF_PARTS));

/** Curves of a closed ring, in parts, as a path whose numbers count from a place. */
function curvePath(at: Int32Array, fromX = 0, fromY = 0): string {
  const place = (k: number) => `${at[k] - fromX} ${at[k + 1] - fromY}`;
  let data = `${place(0)} m\n`;
  for (let k = 6; k < at.length; k += 6)
    if (!isStraight(at, k)) data += `${place(k - 4)} ${place(k - 2)} ${place(k)} c\n`;
    else if (at[k] !== at[k - 6] || at[k + 1] !== at[k - 5]) data += `${place(k)} l\n`;
  return `${data}h\n`;
}

/** A number as PDF takes it: without an exponent. */
export const decimal = (value: number): string => String(Number(value.toFixed(6)));
