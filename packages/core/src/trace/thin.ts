import { inOneGo } from '../math';
import { around, type Inked } from './inked';

/** Which neighbourhoods lose their px, in the first and in the second half of a pass: bits clockwise from the px above. */
const GOES = [goesIn(0), goesIn(1)] as const;

/**
 * Thins ink to lines of one px that hang together as the ink does, from all sides alike: Guo & Hall, "Parallel thinning with
 * two-subiteration algorithms" (Communications of the ACM, 1989), algorithm A1. Only px on the border are looked at. Yields
 * after every half pass how far it has come, 0..1, as far as that can be told.
 */
export function* thinning({ width, height, on }: Inked): Generator<number, Inked> {
  const left = on.slice();
  const steps = around(width);
  // Each half looks only at px whose neighbours changed since it last did; bits 2 and 4 mark who waits for which half.
  const waiting: [number[], number[]] = [[], []];
  const wait = (i: number) => {
    if (!(left[i] & 2)) waiting[0].push(i);
    if (!(left[i] & 4)) waiting[1].push(i);
    left[i] |= 6;
  };
  for (let i = width; i < left.length - width; i++) {
    if (!left[i]) continue;
    if (left[i - 1] && left[i + 1] && left[i - width] && left[i + width] && steps.every((step) => left[i + step]))
      continue;
    wait(i);
  }
  let passes = 0;
  for (let half: 0 | 1 = 0; waiting[0].length + waiting[1].length > 0; half = half === 0 ? 1 : 0) {
    yield 1 - 1 / ++passes;
    const goes = GOES[half];
    const asked = waiting[half];
    waiting[half] = [];
    const gone: number[] = [];
    for (const i of asked) {
      if (!left[i]) continue;
      left[i] &= half === 0 ? ~2 : ~4;
      let bits = 0;
      for (let k = 0; k < 8; k++) if (left[i + steps[k]]) bits |= 1 << k;
      if (goes[bits]) gone.push(i);
    }
    for (const i of gone) left[i] = 0;
    for (const i of gone) for (const step of steps) if (left[i + step]) wait(i + step);
  }
  return { width, height, on: left };
}

/** The same in one go. */
export const thinned = (inked: Inked): Inked => inOneGo(thinning(inked));

function goesIn(half: 0 | 1): Uint8Array {
  const table = new Uint8Array(256);
  for (let bits = 0; bits < 256; bits++) {
    const [p2, p3, p4, p5, p6, p7, p8, p9] = Array.from({ length: 8 }, (_, k) => (bits >> k) & 1);
    const pieces = (1 - p2) * (p3 | p4) + (1 - p4) * (p5 | p6) + (1 - p6) * (p7 | p8) + (1 - p8) * (p9 | p2);
    const one = (p9 | p2) + (p3 | p4) + (p5 | p6) + (p7 | p8);
    const other = (p2 | p3) + (p4 | p5) + (p6 | p7) + (p8 | p9);
    const fewest = Math.min(one, other);
    const side = half === 0 ? (p6 | p7 | (1 - p9)) & p8 : (p2 | p3 | (1 - p5)) & p4;
    if (pieces === 1 && fewest >= 2 && fewest <= 3 && side === 0) table[bits] = 1;
  }
  return table;
}
