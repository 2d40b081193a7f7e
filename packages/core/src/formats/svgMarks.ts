import { marksAt, type Mark, type MarkShape, type Shade } from '../drawn';
import { OUTLINE_TOLERANCE } from '../ink';
import { boxesMeet, boxOfRings, oddRings, withinRings, withoutRings } from '../math';

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

/** A part of the file: one mark, as it was drawn or with parts of it cut away, or what stands for several. */
type Part = { readonly mark: Mark; readonly rings?: readonly Float64Array[] } | { readonly words: readonly string[] };

/**
 * Marks as paths, lowest first. What a mark cuts away is gone from all that lies beneath it here: as geometry, since programs
 * that print know no masks; masked only where it cuts softly.
 */
export function markedPaths(marks: readonly Mark[], names: SvgNames): string[] {
  let parts: Part[] = [];
  // A file is as fine as it can be.
  for (const mark of marksAt(marks, Infinity)) {
    if (!mark.cuts) parts.push({ mark });
    else if (mark.opacity < 1)
      parts = [
        {
          words: cutAway(allWritten(parts, names), mark, names),
        },
      ];
    else parts = cutOut(parts, mark, names);
  }
  return allWritten(parts, names);
}

/** Parts one after the other; those that one clip holds stand in one group. */
function allWritten(parts: readonly Part[], names: SvgNames): string[] {
  const lines: string[] = [];
  for (let from = 0; from < parts.length;) {
    const clip = clipOf(parts[from]);
    let end = from + 1;
    while (clip && end < parts.length && clipOf(parts[end]) === clip) end++;
    const inside = parts.slice(from, end).flatMap((part) => written(part, names));
    lines.push(...(inside.length > 0 ? within(clip, inside, names) : []));
    from = end;
  }
  return lines;
}

const clipOf = (part: Part): MarkShape | undefined => ('words' in part ? undefined : part.mark.clip);

/** A part without what clips it. */
function written(part: Part, names: SvgNames): readonly string[] {
  if ('words' in part) return part.words;
  const { mark } = part;
  const rings = part.rings ?? mark.rings(OUTLINE_TOLERANCE);
  if (rings.length === 0) return [];
  const whole: Mark = { ...mark, rule: part.rings ? 'nonzero' : mark.rule, rings: () => rings };
  if (!mark.shade) return [`<path ${inkOf(whole)}/>`];
  const name = names.next();
  return [gradient(mark.shade, name), `<path ${inkOf(whole, `url(#${name})`)}/>`];
}

/** A gradient in page px (SVG 1.1, §13.2). */
function gradient({ ramp, stops }: Shade, name: string): string {
  const { shape, from, to } = ramp;
  const colours = stops.map(({ at, color, opacity = 1 }) => {
    const through = opacity === 1 ? '' : ` stop-opacity="${decimals(opacity, 4)}"`;
    return `<stop offset="${decimals(at, 4)}" stop-color="${color}"${through}/>`;
  });
  const units = `id="${name}" gradientUnits="userSpaceOnUse"`;
  const [x, y, u, v] = [from.x, from.y, to.x, to.y].map((value) => decimals(value, 2));
  return shape === 'straight'
    ? `<linearGradient ${units} x1="${x}" y1="${y}" x2="${u}" y2="${v}">${colours.join('')}</linearGradient>`
    : `<radialGradient ${units} cx="${x}" cy="${y}" r="${decimals(Math.hypot(to.x - from.x, to.y - from.y), 2)}">${colours.join('')}</radialGradient>`;
}

/** Parts without what lies in the rings of a mark. */
function cutOut(parts: readonly Part[], nick: Mark, names: SvgNames): Part[] {
  const whole = nonzero(nick.rings(OUTLINE_TOLERANCE), nick.rule);
  const { clip } = nick;
  const gone = clip ? withinRings(whole, nonzero(clip.rings(OUTLINE_TOLERANCE), clip.rule)) : whole;
  const reach = boxOfRings(gone);
  return parts.map((part) => {
    if ('words' in part) return { words: cutAway(part.words, nick, names) };
    const rings = part.rings ?? part.mark.rings(OUTLINE_TOLERANCE);
    if (!boxesMeet(boxOfRings(rings), reach)) return part;
    return { mark: part.mark, rings: withoutRings(nonzero(rings, part.rings ? 'nonzero' : part.mark.rule), gone) };
  });
}

/** Rings that are filled alike by the non-zero rule. */
const nonzero = (rings: readonly Float64Array[], rule: MarkShape['rule']): readonly Float64Array[] =>
  rule === 'evenodd' ? oddRings(rings) : rings;

/** A mark's rings and how they are filled, as attributes of a path. */
export function inkOf(mark: Mark, paint: string = mark.color): string {
  const through = mark.opacity === 1 ? '' : ` fill-opacity="${decimals(mark.opacity, 4)}"`;
  return `fill="${paint}"${through}${ruleOf(mark, 'fill-rule')} d="${dataOf(mark)}"`;
}

/** Elements of which only what lies in `clip` shows (SVG 1.1, §14.3.5). */
function within(clip: MarkShape | undefined, inside: readonly string[], names: SvgNames): readonly string[] {
  if (!clip) return inside;
  const { name, isKnown } = names.ofClip(clip);
  const shape = `<clipPath id="${name}"><path${ruleOf(clip, 'clip-rule')} d="${dataOf(clip)}"/></clipPath>`;
  return [...(isKnown ? [] : [shape]), `<g clip-path="url(#${name})">`, ...inside, '</g>'];
}

/** Far beyond anything that is drawn: a mask ends where its box does. */
const ALL = 'x="-1000000" y="-1000000" width="2000000" height="2000000"';

/** SVG 1.1, §14.4: what is white in the mask stays, what is black is gone. */
function cutAway(parts: readonly string[], mark: Mark, names: SvgNames): string[] {
  if (parts.length === 0) return [];
  const name = names.next();
  const gone = `<path fill="#000000" fill-opacity="${mark.opacity}"${ruleOf(mark, 'fill-rule')} d="${dataOf(mark)}"/>`;
  const hole = within(mark.clip, [gone], names).join('');
  return [
    `<mask id="${name}" maskUnits="userSpaceOnUse" ${ALL}><rect ${ALL} fill="#ffffff"/>${hole}</mask>`,
    `<g mask="url(#${name})">`,
    ...parts,
    '</g>',
  ];
}

const ruleOf = ({ rule }: MarkShape, name: string): string => (rule === 'evenodd' ? ` ${name}="evenodd"` : '');

const dataOf = (shape: MarkShape): string => shape.rings(OUTLINE_TOLERANCE).map(pathData).join('');

/** A closed path through x, y pairs, to 1/100 px, written in steps from point to point without growing error. */
function pathData(points: Float64Array): string {
  let x = Math.round(points[0] * 100);
  let y = Math.round(points[1] * 100);
  const parts = [`M${x / 100} ${y / 100}l`];
  for (let i = 2; i < points.length; i += 2) {
    const nextX = Math.round(points[i] * 100);
    const nextY = Math.round(points[i + 1] * 100);
    if (nextX === x && nextY === y) continue;
    parts.push(`${(nextX - x) / 100} ${(nextY - y) / 100} `);
    x = nextX;
    y = nextY;
  }
  return `${parts.join('').trimEnd()}z`;
}

export const decimals = (value: number, places: number): number => Number(value.toFixed(places));
