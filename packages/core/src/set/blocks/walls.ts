import { PageError } from '../../gate';
import type { Vector } from '../../math';
import type { Solid } from '../solid';
import type { Opening, WallBlock } from '../types';
import { laidAlong, prism, type Corner } from './prism';

/** m that an opening keeps from the edges of its wall and from others. */
const LEAST = 0.01;

const [X, BACK, Z]: readonly [Vector, Vector, Vector] = [
  [1, 0, 0],
  [0, -1, 0],
  [0, 0, 1],
];

/** The sides of an opening from its left foot over the top to its right foot. */
function overTop({ at: [along, foot], size: [width, height], arched }: Opening): Corner[] {
  const [left, right] = [along - width / 2, along + width / 2];
  const spring = foot + height - (arched ? width / 2 : 0);
  const shoulder: Corner = arched
    ? { x: left, y: spring, round: { x: along, y: spring, ccw: false } }
    : { x: left, y: spring };
  const upright = spring > foot + 1e-9;
  return [
    ...(upright ? [{ x: left, y: foot }] : []),
    shoulder,
    { x: right, y: spring },
    ...(upright ? [{ x: right, y: foot }] : []),
  ];
}

/** A wall with its openings: those that stand on its foot are doors, cut out of its outline. */
export function wall({ size: [width, depth, height], openings }: WallBlock): Solid {
  const doors = openings.filter(isDoor).sort((a, b) => a.at[0] - b.at[0]);
  const outline: Corner[] = [
    { x: -width / 2, y: 0 },
    ...doors.flatMap(overTop),
    { x: width / 2, y: 0 },
    { x: width / 2, y: height },
    { x: -width / 2, y: height },
  ];
  const windows = openings.filter((opening) => !isDoor(opening)).map(overTop);
  return prism([outline, ...windows], depth, laidAlong(X, Z, BACK, [0, depth / 2, 0]));
}

const isDoor = ({ at }: Opening): boolean => at[1] < LEAST;

/** Throws a PageError that says which opening does not fit its wall. */
export function checkOpenings({ size: [width, , height], openings }: WallBlock): void {
  openings.forEach((opening, k) => {
    const { at, size, arched } = opening;
    const name = `Opening ${k + 1}`;
    if (Math.abs(at[0]) + size[0] / 2 > width / 2 - LEAST || at[1] + size[1] > height - LEAST)
      throw new PageError(`${name} does not fit the wall: make it smaller, or move it inwards.`);
    if (arched && size[1] < size[0] / 2)
      throw new PageError(`${name} is too low for its arch: half as high as it is wide is the least.`);
    for (const other of openings.slice(0, k))
      if (
        Math.abs(other.at[0] - at[0]) < (other.size[0] + size[0]) / 2 + LEAST &&
        other.at[1] < at[1] + size[1] + LEAST &&
        at[1] < other.at[1] + other.size[1] + LEAST
      )
        throw new PageError(`${name} runs into another one: move them apart.`);
  });
}
