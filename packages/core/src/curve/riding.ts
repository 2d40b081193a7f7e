/**
 * What a hand rides while it is drawn: a path, unrolled to a straight measure (about page px along it, rising all the way).
 * Weights are fitted over the measure, then laid on the path itself, so the course is the path's own.
 */
export interface Riding {
  /** Page px that a hand must turn back before the line does. */
  readonly slack: number;
  /**
   * The measure of the place that the hand is taken to from (x, y), page px; `near` is the one of its last place, from where
   * it has `moved` page px.
   */
  measure(x: number, y: number, near: number | undefined, moved: number): number;
  /** Appends the place of a measure, and a width. */
  start(measure: number, width: number, out: number[]): void;
  /** Appends the handles and the end of a cubic of triples measure, 0, width, whose start is at `offset`, as they lie on the path. */
  lay(unrolled: ArrayLike<number>, offset: number, out: number[]): void;
}

/** Where a hand is, page px, to which measure it was taken, and which way it goes: 1 where the measure rises, −1 where it falls. */
export interface Ridden {
  readonly x: number;
  readonly y: number;
  readonly at: number;
  readonly sign: number;
}

/** The next place of a hand. Where it turns back by less than the slack it stays where it was. */
export function ride(riding: Riding, x: number, y: number, before: Ridden | undefined): Ridden {
  const moved = before ? Math.hypot(x - before.x, y - before.y) : Infinity;
  const at = riding.measure(x, y, before?.at, moved);
  if (!before) return { x, y, at, sign: 0 };
  const step = at - before.at;
  if (step * before.sign >= 0) return { x, y, at, sign: before.sign || Math.sign(step) };
  return Math.abs(step) > riding.slack ? { x, y, at, sign: -before.sign } : { ...before, x, y };
}
