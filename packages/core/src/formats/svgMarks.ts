import { marksAt, type Mark, type MarkShape, type Shade } from '../drawn';
import { OUTLINE_TOLERANCE } from '../ink';
import { boxesMeet, boxOfRings, oddRings, withoutRings } from '../math';

/** Gives names inside one file, each once. */
export type NameSource = () => string;

export function namesFrom(word: string): NameSource {
  let count = 0;
  return () => `${word}-${++count}`;
}

/** A part of the file: one mark, as it was drawn or with parts of it cut away, or what stands for several. */
type Part = { readonly mark: Mark; readonly rings?: readonly Float64Array[] } | { readonly words: readonly string[] };

/**
 * Marks as paths, lowest first. What a mark cuts away is gone from all that lies beneath it here: as geometry, since programs
 * that print know no masks; masked only where it cuts softly or within a clip.
 */
export function markedPaths(marks: readonly Mark[], names: NameSource): string[] {
  let parts: Part[] = [];
  // A file is as fine as it can be.
  for (const mark of marksAt(marks, Infinity)) {
    if (!mark.cuts) parts.push({ mark });
    else if (mark.opacity < 1 || mark.clip)
      parts = [
        {
          words: cutAway(
            parts.flatMap((part) => written(part, names)),
            mark,
            names,
          ),
        },
      ];
    else parts = cutOut(parts, mark, names);
  }
  return parts.flatMap((part) => written(part, names));
}

function written(part: Part, names: NameSource): readonly string[] {
  if ('words' in part) return part.words;
  const { mark } = part;
  const rings = part.rings ?? mark.rings(OUTLINE_TOLERANCE);
  if (rings.length === 0) return [];
  const whole: Mark = { ...mark, rule: part.rings ? 'nonzero' : mark.rule, rings: () => rings };
  if (!mark.shade) return within(mark.clip, `<path ${inkOf(whole)}/>`, names);
  const name = names();
  return [gradient(mark.shade, name), ...within(mark.clip, `<path ${inkOf(whole, `url(#${name})`)}/>`, names)];
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
function cutOut(parts: readonly Part[], nick: Mark, names: NameSource): Part[] {
  const gone = nonzero(nick.rings(OUTLINE_TOLERANCE), nick.rule);
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

/** A path of which only what lies in `clip` shows (SVG 1.1, §14.3.5). */
function within(clip: MarkShape | undefined, path: string, names: NameSource): string[] {
  if (!clip) return [path];
  const name = names();
  return [
    `<clipPath id="${name}"><path${ruleOf(clip, 'clip-rule')} d="${dataOf(clip)}"/></clipPath>`,
    `<g clip-path="url(#${name})">${path}</g>`,
  ];
}

/** Far beyond anything that is drawn: a mask ends where its box does. */
const ALL = 'x="-1000000" y="-1000000" width="2000000" height="2000000"';

/** SVG 1.1, §14.4: what is white in the mask stays, what is black is gone. */
function cutAway(parts: readonly string[], mark: Mark, names: NameSource): string[] {
  if (parts.length === 0) return [];
  const name = names();
  const gone = `<path fill="#000000" fill-opacity="${mark.opacity}"${ruleOf(mark, 'fill-rule')} d="${dataOf(mark)}"/>`;
  const hole = within(mark.clip, gone, names).join('');
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
