import { pointToLeg, type Point } from '../math';

/** Where a brush went, page px, and its radius. */
export interface Swept {
  readonly course: readonly Point[];
  readonly radius: number;
}

/** How far a place lies from a course of straight legs, page px. */
export const wayTo = (course: readonly Point[], x: number, y: number): number =>
  course.reduce((least, to, k) => {
    const from = course[Math.max(0, k - 1)];
    return Math.min(least, Math.sqrt(pointToLeg(x, y, from.x, from.y, to.x, to.y)));
  }, Infinity);
