import type { Mark, MarkShape, Shade } from '../drawn';
import { CURVE_RINGS } from './curves';
import { PATH_PARTS, ringData } from './svgData';
import { clipped, filledOf, type Part, type Piece } from './walk';

/** Names inside one file, each once; a shape that clips has one name wherever it does. */
export class SvgNames {
  private count = 0;
  private readonly clips = new Map<MarkShape, string>();

  constructor(private readonly word: string) {}

  next(): string {
    return `${this.word}-${++this.count}`;
  }

  /** The name of a clip, and whether the file has it already. */
  ofClip(clip: MarkShape): { readonly name: string; readonly isKnown: boolean } {
    const known = this.clips.get(clip);
    if (known !== undefined) return { name: known, isKnown: true };
    const name = this.next();
    this.clips.set(clip, name);
    return { name, isKnown: false };
  }
}

/** Parts as paths, lowest first; those that one clip holds stand in one group. */
export const markedPaths = (parts: readonly Part[], names: SvgNames): string[] =>
  clipped(parts).flatMap((run) => {
    const inside = coloured(run.parts.map((part) => written(part, names)));
    return inside.length > 0 ? within(run.clip, inside, names) : [];
  });

/** Lines of one element, and the fill that it would have said; those of a part may say their own. */
interface Written {
  readonly fill?: string;
  readonly lines: readonly string[];
}

/** Path data are hundredths of a px. */
const IN_PARTS = ` transform="scale(${1 / PATH_PARTS})"`;

/** Elements one after the other: where many follow each other in one colour, a group says it. */
function coloured(all: readonly Written[]): string[] {
  const lines: string[] = [];
  for (let from = 0; from < all.length;) {
    const { fill } = all[from];
    let end = from + 1;
    while (end < all.length && all[end].fill === fill) end++;
    const inside = all.slice(from, end).flatMap((one) => one.lines);
    if (fill === undefined || inside.length === 0) lines.push(...inside);
    else lines.push(`<g fill="${fill}"${IN_PARTS}>`, ...inside, '</g>');
    from = end;
  }
  return lines;
}

/** A part without what clips it. */
function written(part: Part, names: SvgNames): Written {
  if ('beneath' in part) return { lines: cutAway(markedPaths(part.beneath, names), part.cut, names) };
  const { mark } = part;
  const data = dataOf(part);
  if (data === '') return { lines: [] };
  const rule = ruleOf(part.rings ? 'nonzero' : mark.rule, 'fill-rule');
  if (!mark.shade) return { fill: mark.color, lines: [`<path${through(mark)}${rule} d="${data}"/>`] };
  const name = names.next();
  return {
    lines: [gradient(mark.shade, name), `<path fill="url(#${name})"${through(mark)}${rule}${IN_PARTS} d="${data}"/>`],
  };
}

const through = ({ opacity }: Mark): string => (opacity === 1 ? '' : ` fill-opacity="${decimals(opacity, 4)}"`);

/** A gradient in the parts of a px that its path is written in (SVG 1.1, §13.2). */
function gradient({ ramp, stops }: Shade, name: string): string {
  const { shape, from, to } = ramp;
  const colours = stops.map(({ at, color, opacity = 1 }) => {
    const seen = opacity === 1 ? '' : ` stop-opacity="${decimals(opacity, 4)}"`;
    return `<stop offset="${decimals(at, 4)}" stop-color="${color}"${seen}/>`;
  });
  const units = `id="${name}" gradientUnits="userSpaceOnUse" gradientTransform="scale(${PATH_PARTS})"`;
  const [x, y, u, v] = [from.x, from.y, to.x, to.y].map((value) => decimals(value, 2));
  return shape === 'straight'
    ? `<linearGradient ${units} x1="${x}" y1="${y}" x2="${u}" y2="${v}">${colours.join('')}</linearGradient>`
    : `<radialGradient ${units} cx="${x}" cy="${y}" r="${decimals(Math.hypot(to.x - from.x, to.y - from.y), 2)}">${colours.join('')}</radialGradient>`;
}

/** Elements of which only what lies in `clip` shows (SVG 1.1, §14.3.5). */
function within(clip: MarkShape | undefined, inside: readonly string[], names: SvgNames): readonly string[] {
  if (!clip) return inside;
  const { name, isKnown } = names.ofClip(clip);
  const shape = `<clipPath id="${name}"><path${IN_PARTS}${ruleOf(clip.rule, 'clip-rule')} d="${shapeData(clip)}"/></clipPath>`;
  return [...(isKnown ? [] : [shape]), `<g clip-path="url(#${name})">`, ...inside, '</g>'];
}

/** Far beyond anything that is drawn: a mask ends where its box does. */
const ALL = 'x="-1000000" y="-1000000" width="2000000" height="2000000"';

/** SVG 1.1, §14.4: what is white in the mask stays, what is black is gone. */
function cutAway(parts: readonly string[], mark: Mark, names: SvgNames): string[] {
  if (parts.length === 0) return [];
  const name = names.next();
  const gone = `<path fill="#000000" fill-opacity="${mark.opacity}"${IN_PARTS}${ruleOf(mark.rule, 'fill-rule')} d="${shapeData(mark)}"/>`;
  const hole = within(mark.clip, [gone], names).join('');
  return [
    `<mask id="${name}" maskUnits="userSpaceOnUse" ${ALL}><rect ${ALL} fill="#ffffff"/>${hole}</mask>`,
    `<g mask="url(#${name})">`,
    ...parts,
    '</g>',
  ];
}

const ruleOf = (rule: MarkShape['rule'], name: string): string => (rule === 'evenodd' ? ` ${name}="evenodd"` : '');

const dataOf = (piece: Piece): string => filledOf(piece, CURVE_RINGS).rings.map(ringData).join('');

const shapeData = (shape: MarkShape): string => shape.rings(CURVE_RINGS).map(ringData).join('');

export const decimals = (value: number, places: number): number => Number(value.toFixed(places));
