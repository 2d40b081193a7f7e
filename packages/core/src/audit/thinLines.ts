import { flattenSpine, STRIDE } from '../curve';
import { mmToPx, pxToMm, type Page } from '../page';
import type { StrokeEntity } from '../stroke';
import { BREATH, type Finding, type PressSettings } from './finding';

/** Page px that a course may stray where its widths are looked at. */
const LOOSE = 0.5;
/** A thin place inside a line counts from this length on, mm as printed: shorter ones are a matter of the hand. */
const STRETCH_MM = 1;

interface Thin {
  readonly x: number;
  readonly y: number;
  /** The thinnest that it gets, page px. */
  readonly width: number;
}

/** Where a line is thinner than `least` page px for a stretch, its pointed tips left out; nothing where it never is. */
export function thinPlace({ spine, fills }: StrokeEntity, least: number, stretch: number): Thin | undefined {
  if (fills) return undefined;
  const { points } = spine;
  // Nodes bound what lies between them, nearly always: a line that is wide at all of them is not walked.
  let narrowest = Infinity;
  for (let i = 2; i < points.length; i += STRIDE) narrowest = Math.min(narrowest, points[i]);
  if (narrowest >= least) return undefined;
  const line = flattenSpine(spine, LOOSE);
  const last = line.length - STRIDE;
  let worst: (Thin & { readonly length: number }) | undefined;
  for (let i = 0; i <= last; i += STRIDE) {
    if (line[i + 2] >= least) continue;
    const begin = i;
    let [length, thinnest] = [0, line[i + 2]];
    for (; i + STRIDE <= last && line[i + STRIDE + 2] < least; i += STRIDE) {
      length += Math.hypot(line[i + 3] - line[i], line[i + 4] - line[i + 1]);
      thinnest = Math.min(thinnest, line[i + 5]);
    }
    const isTip = (begin === 0) !== (i === last) && !spine.closed;
    const k = begin + STRIDE * Math.round((i - begin) / STRIDE / 2);
    if (!isTip && length >= stretch && (!worst || length > worst.length))
      worst = { x: line[k], y: line[k + 1], width: thinnest, length };
  }
  return worst;
}

const known = new WeakMap<StrokeEntity, { readonly by: string; readonly found: Thin | undefined }>();

/** Lines that print too thin, or not at all, at this size. */
export function* thinLines(
  page: Page,
  strokes: readonly StrokeEntity[],
  settings: PressSettings,
): Generator<Finding | undefined> {
  const { scale, leastMm } = settings;
  const { ppi } = page.size;
  const least = mmToPx(leastMm, ppi) / scale;
  const stretch = mmToPx(STRETCH_MM, ppi) / scale;
  const by = `${least} ${stretch}`;
  for (const [k, stroke] of strokes.entries()) {
    if (k % BREATH === BREATH - 1) yield undefined;
    let last = known.get(stroke);
    if (last?.by !== by) known.set(stroke, (last = { by, found: thinPlace(stroke, least, stretch) }));
    if (!last.found) continue;
    const { x, y, width } = last.found;
    const mm = pxToMm(width, ppi) * scale;
    yield {
      ...{ id: `thin line:${stroke.id}`, kind: 'thin line', at: { x, y } },
      words: `A line gets down to ${mm < 0.01 ? 'nothing' : `${mm.toFixed(2)} mm`}; ${leastMm} mm is the least that prints.`,
      mending: { as: 'thicken', id: stroke.id, width: least },
    };
  }
}
