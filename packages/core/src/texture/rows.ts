import { pointAt, segmentLengths, type EllipsePath, type Spine } from '../curve';
import { PageError } from '../gate';
import { echoThrough, fromMiddle, trackOf, type RailsShape, type RaysShape, type RipplesShape } from '../guides';
import { distance, isInLoop, type Point } from '../math';
import { planeRows } from './planeRows';
import { EVEN_ROUND, MOST_ROWS, powerIn, refuseRows, type CombField, type Row, type Rowing } from './row';

/** The rows of a field that may cross a loop, one at each step. */
export function* rowsAcross(field: CombField, loop: readonly Point[], rowing: Rowing): Generator<Row> {
  switch (field.kind) {
    case 'rails':
      return yield* railsAcross(field, loop, rowing);
    case 'rays':
      return yield* raysAcross(field, loop, rowing);
    case 'ripples':
      return yield* ringsAcross(field, loop, rowing);
    case 'echo':
      return yield* echoesAcross(field.course, loop, rowing);
    case 'plane':
      return yield* planeRows(field, loop, rowing);
  }
}

function* railsAcross(field: RailsShape, loop: readonly Point[], { spacing, stray }: Rowing): Generator<Row> {
  const [dx, dy] = [Math.cos(field.angle), Math.sin(field.angle)];
  const across = loop.map((p) => (p.x - field.x) * -dy + (p.y - field.y) * dx);
  for (const k of steps(least(across), -least(across.map((value) => -value)), spacing)) {
    const at = (k + stray()) * spacing;
    yield { k, path: { kind: 'line', x: field.x - dy * at, y: field.y + dx * at, dx, dy } };
  }
}

function* raysAcross(field: RaysShape, loop: readonly Point[], { spacing, stray, touch }: Rowing): Generator<Row> {
  const reach = loop.reduce((sum, p) => sum + distance(p, field), 0) / loop.length;
  const even = Math.max(1, Math.round((2 * Math.PI * reach) / spacing));
  if (even > 100 * MOST_ROWS) throw new PageError('The point of these rays lies too far off for so narrow a spacing.');
  // Where every second one stops, then every second of those that are left, all must come round alike.
  const count = touch > 0 ? Math.ceil(even / EVEN_ROUND) * EVEN_ROUND : even;
  const step = (2 * Math.PI) / count;
  const [first, last] = anglesOf(loop, field);
  for (let k = Math.ceil(first / step); k * step < Math.min(last, first + 2 * Math.PI - step / 2); k++) {
    const angle = (k + stray()) * step;
    const from = touch > 0 ? touch / Math.sin(Math.min(Math.PI / 2, step * powerIn(k))) : 0;
    yield { k, path: { kind: 'line', x: field.x, y: field.y, dx: Math.cos(angle), dy: Math.sin(angle), from } };
  }
}

function* ringsAcross(field: RipplesShape, loop: readonly Point[], { spacing, stray }: Rowing): Generator<Row> {
  const { x, y, ratio, angle } = field;
  const unit: EllipsePath = { kind: 'ellipse', x, y, rx: 1, ry: ratio, angle };
  const radii = loop.map((p) => {
    const own = fromMiddle(unit, p);
    return Math.hypot(own.x, own.y / ratio);
  });
  for (const k of steps(0, -least(radii.map((value) => -value)), spacing)) {
    const rx = (k + stray()) * spacing;
    if (rx > 0.5) yield { k, path: { kind: 'ellipse', x, y, rx, ry: rx * ratio, angle } };
  }
}

/** The numbers of steps within a range. */
function* steps(low: number, high: number, step: number): Generator<number> {
  const count = (high - low) / step;
  if (count > 10 * MOST_ROWS) refuseRows(count);
  for (let k = Math.ceil(low / step); k * step <= high; k++) yield k;
}

const least = (values: readonly number[]): number => values.reduce((low, value) => Math.min(low, value), Infinity);

/** The directions, radians, in which a loop lies from a point: all of them where it goes round it. */
function anglesOf(loop: readonly Point[], from: Point): readonly [number, number] {
  if (isInLoop(loop, from)) return [-Math.PI, Math.PI];
  let angle = Math.atan2(loop[0].y - from.y, loop[0].x - from.x);
  let [least, most] = [angle, angle];
  for (const p of loop) {
    const next = Math.atan2(p.y - from.y, p.x - from.x);
    angle += next - angle - 2 * Math.PI * Math.round((next - angle) / (2 * Math.PI));
    [least, most] = [Math.min(least, angle), Math.max(most, angle)];
  }
  return [least, most];
}

function* echoesAcross(course: Spine, loop: readonly Point[], { spacing, stray }: Rowing): Generator<Row> {
  const lengths = segmentLengths(course);
  const segment = Math.floor(lengths.length / 2);
  const track = trackOf({ kind: 'curve', course });
  const middle = lengths.slice(0, segment).reduce((sum, length) => sum + length, 0) + lengths[segment] / 2;
  const [on, way] = [pointAt(course, { segment, t: 0.5 }), track.direction(middle)];
  const reach = Math.max(...loop.map((p) => distance(p, on)));
  for (const k of steps(-reach, reach, spacing)) {
    const at = (k + stray()) * spacing;
    const echo = echoThrough(course, { x: on.x - at * way.y, y: on.y + at * way.x });
    if (echo) yield { k, path: { kind: 'curve', course: echo } };
  }
}
