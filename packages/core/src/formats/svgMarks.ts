import type { Mark, MarkShape } from '../drawn';
import { OUTLINE_TOLERANCE } from '../ink';

/** Gives names inside one file, each once. */
export type NameSource = () => string;

export function namesFrom(word: string): NameSource {
  let count = 0;
  return () => `${word}-${++count}`;
}

/** Marks as paths, lowest first. What a mark cuts away is masked out of all that lies beneath it here. */
export function markedPaths(marks: readonly Mark[], names: NameSource): string[] {
  let parts: string[] = [];
  for (const mark of marks) {
    if (mark.cuts) parts = cutAway(parts, mark, names);
    else parts.push(...within(mark.clip, `<path ${inkOf(mark)}/>`, names));
  }
  return parts;
}

/** A mark's rings and how they are filled, as attributes of a path. */
export function inkOf(mark: Mark): string {
  const through = mark.opacity === 1 ? '' : ` fill-opacity="${decimals(mark.opacity, 4)}"`;
  return `fill="${mark.color}"${through}${ruleOf(mark, 'fill-rule')} d="${dataOf(mark)}"`;
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
