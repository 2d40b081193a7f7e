/**
 * A hand that is calmed while it moves. `points` are triples x, y, weight; the first `settled` of them stay as they are
 * whatever comes, the rest is what would be there if the pen were lifted now.
 */
export interface HandCalmer {
  readonly size: number;
  readonly points: Float64Array;
  /** The length of the way so far, page px, and how much of it is certain. */
  readonly length: number;
  readonly sureLength: number;
  lengthAt(index: number): number;
  /** Takes a place in page px with its weight, at a time in ms. */
  add(x: number, y: number, weight: number, time: number): void;
  /** Calms what the points added since the last time can have changed. */
  update(): void;
  /** How many of the first points stay, once `margin` page px lie behind them too; `from` of them are known to. */
  settled(margin: number, from: number): number;
}
