import { rampAt, type Ramp } from '../area';
import type { Point } from '../math';

/** How a comb goes from light to dark: shares of the paper that its rows cover, 0..1, at the beginning and the end of a way. */
export interface CombTone {
  readonly ramp: Ramp;
  readonly light: number;
  readonly dark: number;
  /** What makes it lighter: thinner rows, fewer rows, or rows that break off. */
  readonly by: 'weight' | 'closer' | 'broken';
}

/** The share that is asked for about a place. */
export const toneAt = ({ ramp, light, dark }: CombTone, { x, y }: Point): number =>
  light + (dark - light) * rampAt(ramp, x, y);

/** Places along a row at which it is asked whether it is there, in spacings. */
const STEP = 0.5;
/** Length of a dash and the gap after it, in spacings. */
const DASH = 7;
/** By how much the tone at which rows of a further set end differs from row to row. */
const RAGGED = 0.08;
/** Pieces shorter than a share of a spacing are left out. */
const LEAST = 0.4;

/** A row of which parts may be missing; measures are those of its path. */
export interface Toned {
  readonly place: (at: number) => Point;
  readonly spacing: number;
  /** The share that rows at full weight and spacing cover. */
  readonly full: number;
  /** The share under which this set of rows is not there. */
  readonly from: number;
  readonly k: number;
  /** 0..1, another for each row. */
  readonly phase: number;
}

/** The parts of a row, from measure to measure, that a tone leaves. */
export function tonedParts(
  tone: CombTone,
  row: Toned,
  [from, to]: readonly [number, number],
): (readonly [number, number])[] {
  const { place, spacing, full, k, phase } = row;
  const level = tone.by === 'closer' ? fold(k) : 0;
  // Rows that end where it gets light do not end all at the same place.
  const first = row.from > 0 ? row.from + RAGGED * (phase - 0.5) : 0;
  // Above 0 where the row is there.
  const room = (at: number): number => {
    const share = toneAt(tone, place(at));
    return Math.min(share - first, share / full - level - 1e-9);
  };
  const parts = stretches(room, from, to, Math.max(STEP * spacing, (to - from) / 400));
  const dashed = tone.by === 'broken' ? parts.flatMap((part) => dashes(part)) : parts;
  return dashed.filter(([a, b]) => b - a > LEAST * spacing);

  function dashes([a, b]: readonly [number, number]): (readonly [number, number])[] {
    const step = DASH * spacing;
    // Round ends reach beyond a dash, and cover as much as this length of it.
    const round = (Math.PI / 4) * full * spacing;
    const found: [number, number][] = [];
    for (let n = Math.floor(a / step - phase); (n + phase) * step < b; n++) {
      const start = (n + phase) * step;
      const long = Math.min(1, Math.max(0, toneAt(tone, place(start + step / 2)) / full));
      const [low, high] = [Math.max(a, start), Math.min(b, start + long * step - round)];
      const last = found.at(-1);
      if (last && low - last[1] < round + 1e-6) last[1] = Math.max(last[1], high);
      else if (high > low) found.push([low, high]);
    }
    return found;
  }
}

/** The stretches on which a number is above 0; between two places it is taken to go evenly. */
function stretches(room: (at: number) => number, from: number, to: number, step: number): [number, number][] {
  const count = Math.max(1, Math.ceil((to - from) / step));
  const found: [number, number][] = [];
  let start: number | undefined;
  let [lastAt, last] = [from, room(from)];
  if (last > 0) start = from;
  for (let n = 1; n <= count; n++) {
    const at = from + ((to - from) * n) / count;
    const value = room(at);
    const crossing = lastAt + ((at - lastAt) * last) / (last - value);
    if (value > 0 && start === undefined) start = crossing;
    if (value <= 0 && start !== undefined) {
      found.push([start, crossing]);
      start = undefined;
    }
    [lastAt, last] = [at, value];
  }
  if (start !== undefined) found.push([start, to]);
  return found;
}

/** Whole numbers as shares that fill 0..1 evenly, every second one first (van der Corput 1935). */
function fold(k: number): number {
  let [rest, share, part] = [Math.abs(k), 0, 0.5];
  while (rest > 0) {
    if (rest % 2 === 1) share += part;
    rest = Math.floor(rest / 2);
    part /= 2;
  }
  return share;
}
