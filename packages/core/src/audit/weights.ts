import { flattenSpine, STRIDE } from '../curve';
import { ofKind, pxToMm, type Page } from '../page';
import { TECHNICAL_WIDTHS } from '../rack';
import type { StrokeEntity } from '../stroke';
import { seenOn } from './seen';
import { BREATH } from './finding';

/** How long all lines are that are nearest to one width of technical pens. */
export interface WeightShare {
  /** mm: a width of ISO 9175-1. */
  readonly pen: number;
  /** mm of line. */
  readonly length: number;
}

const LOOSE = 1;
const known = new WeakMap<StrokeEntity, { readonly ppi: number; readonly lengths: readonly number[] }>();

/** How the weights of lines are spread, in mm as printed, by the widths of technical pens (ISO 9175-1: steps of √2). */
export function weightsOf(page: Page, scale = 1): WeightShare[] {
  const work = weighing(page, scale);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

/** The same, line by line; tells the share that is done. */
export function* weighing(page: Page, scale: number): Generator<number, WeightShare[]> {
  const sums = TECHNICAL_WIDTHS.map(() => 0);
  const by = page.size.ppi / scale;
  const seenAs = seenOn(page);
  const strokes = ofKind(page, 'stroke');
  for (const [k, stroke] of strokes.entries()) {
    if (k % BREATH === 0) yield k / strokes.length;
    const seen = stroke.fills ? undefined : seenAs(stroke);
    if (seen?.kind !== 'stroke') continue;
    let last = known.get(seen);
    if (last?.ppi !== by) known.set(seen, (last = { ppi: by, lengths: lengthsOf(seen, by) }));
    last.lengths.forEach((length, k) => (sums[k] += length));
  }
  return TECHNICAL_WIDTHS.map((pen, k) => ({ pen, length: sums[k] }));
}

function lengthsOf({ spine }: StrokeEntity, ppi: number): number[] {
  const lengths = TECHNICAL_WIDTHS.map(() => 0);
  const line = flattenSpine(spine, LOOSE);
  for (let i = STRIDE; i < line.length; i += STRIDE) {
    const width = pxToMm((line[i + 2] + line[i - 1]) / 2, ppi);
    lengths[nearest(width)] += pxToMm(Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]), ppi);
  }
  return lengths;
}

/** Widths rise by the same factor: what is nearest is nearest in that. */
function nearest(width: number): number {
  let best = 0;
  for (const [k, pen] of TECHNICAL_WIDTHS.entries())
    if (Math.abs(Math.log(width / pen)) < Math.abs(Math.log(width / TECHNICAL_WIDTHS[best]))) best = k;
  return best;
}
