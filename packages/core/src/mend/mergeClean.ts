import Flatbush from 'flatbush';
import { courseOf, directionAt, endOf, lengthOf, placeAlong, placeOf, pointAt, startedAt } from '../curve';
import { outlineOf, type Outline } from '../ink';
import { isInRing, type Point } from '../math';
import type { Stroke } from '../stroke';
import { pieceOf } from './cut';

/** Page px along a line between places that are looked at. */
const STEP = 0.5;
/** Hidden stretches shorter than this, page px, are left: a cut would gain nothing. */
const LEAST = 2;
/** Places across a line's width, and round its tip, that are looked at. */
const ACROSS = [-1, -0.6, -0.2, 0.2, 0.6, 1];
const ROUND = 12;

/** The ink of lines that hide what lies under them: fully opaque ones. */
export class Cover {
  private readonly outlines: readonly Outline[];
  private readonly tree: Flatbush | undefined;

  constructor(strokes: readonly Stroke[]) {
    this.outlines = strokes
      .filter(({ nib }) => (nib.opacity ?? 1) === 1 && !nib.edge)
      .map((stroke) => outlineOf(stroke));
    if (this.outlines.length === 0) return;
    const tree = new Flatbush(this.outlines.length);
    for (const { box } of this.outlines) tree.add(box.minX, box.minY, box.maxX, box.maxY);
    tree.finish();
    this.tree = tree;
  }

  hides(at: Point): boolean {
    return (
      this.tree
        ?.search(at.x, at.y, at.x, at.y)
        .some((k) => this.outlines[k].rings.some((ring) => isInRing(ring, at))) === true
    );
  }
}

/**
 * What is left of a line that lies under others: it is cut where their ink hides it from edge to edge, flush inside them, so
 * that the inked area stays the same. Nothing where nothing of it is hidden. `shown` is what its layer shows it as.
 */
export function cutUnder<S extends Stroke>(stroke: S, cover: Cover, shown: Stroke = stroke): S[] | undefined {
  const { spine } = stroke;
  const whole = courseOf(spine);
  const steps = Math.max(2, Math.ceil(lengthOf(whole) / STEP));
  const hidden = hiddenAlong(shown, cover, steps);
  if (!hidden.includes(true)) return undefined;
  if (!hidden.includes(false)) return [];
  if (spine.closed) {
    const start = placeAlong(whole, (hidden.indexOf(true) * lengthOf(whole)) / steps);
    const opened = <L extends Stroke>(line: L): L => ({
      ...line,
      spine: { ...startedAt(line.spine, start), closed: false },
      ends: ['flat', 'flat'],
    });
    return cutUnder(opened(stroke), cover, opened(shown));
  }
  const at = (k: number) => (k <= 0 ? 0 : k >= steps ? endOf(spine) : placeAlong(whole, (k * lengthOf(whole)) / steps));
  const pieces: S[] = [];
  let from = 0;
  for (let k = 0; k <= steps; k++) {
    if (!hidden[k]) continue;
    const first = k;
    while (k < steps && hidden[k + 1]) k++;
    const isEnd = first === 0 || k === steps;
    if (!isEnd && ((k - first) * lengthOf(whole)) / steps < LEAST) continue;
    if (first > from)
      pieces.push(
        pieceOf(stroke, { at: at(from), end: from === 0 ? stroke.ends[0] : 'flat' }, { at: at(first), end: 'flat' }),
      );
    from = k;
  }
  if (from === 0 && pieces.length === 0 && !hidden[0]) return undefined;
  if (from < steps)
    pieces.push(
      pieceOf(
        stroke,
        { at: at(from), end: from === 0 ? stroke.ends[0] : 'flat' },
        { at: at(steps), end: stroke.ends[1] },
      ),
    );
  return pieces;
}

/** Where a line is hidden from edge to edge; at its ends with its tip. */
function hiddenAlong({ spine, ends }: Stroke, cover: Cover, steps: number): boolean[] {
  const course = courseOf(spine);
  const length = lengthOf(course);
  return Array.from({ length: steps + 1 }, (_, k) => {
    const place = placeOf(spine, k === steps ? endOf(spine) : placeAlong(course, (k * length) / steps));
    const { x, y, width } = pointAt(spine, place);
    const half = width / 2;
    const isTip = !spine.closed && ((k === 0 && ends[0] !== 'flat') || (k === steps && ends[1] !== 'flat'));
    if (isTip)
      return Array.from({ length: ROUND }, (_, n) => (2 * Math.PI * n) / ROUND).every((angle) =>
        cover.hides({ x: x + half * Math.cos(angle), y: y + half * Math.sin(angle) }),
      );
    const { x: dx, y: dy } = directionAt(spine, place);
    return ACROSS.every((share) => cover.hides({ x: x - dy * half * share, y: y + dx * half * share }));
  });
}
