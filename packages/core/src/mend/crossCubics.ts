import { cubicAt, cubicSlope, placeOf, SEGMENT, segmentCount, type Spine } from '../curve';

const STEPS = 14;

/** A place that moves while it is looked for, and the course there: its parameter may lie a little beyond the cubic. */
class Probe {
  x = 0;
  y = 0;
  dx = 0;
  dy = 0;
  private segment: number;
  private t: number;

  constructor(
    private readonly spine: Spine,
    private readonly start: number,
  ) {
    ({ segment: this.segment, t: this.t } = placeOf(spine, start));
    this.look();
  }

  /** By how many cubics it has moved from where it started. */
  get moved(): number {
    return Math.abs(this.segment + this.t - this.start);
  }

  /** Its place, brought back on to the cubic. */
  get place(): number {
    return this.segment + Math.max(0, Math.min(1, this.t));
  }

  /** Moves on by a share of the cubic; what leaves it goes on along the one beside it, if there is one. */
  move(by: number): void {
    const t = this.t + by;
    const next = t > 1 ? this.segment + 1 : t < 0 ? this.segment - 1 : this.segment;
    const count = segmentCount(this.spine);
    const around = this.spine.closed ? (next + count) % count : next;
    this.t = t;
    if (next !== this.segment && around >= 0 && around < count) {
      // By how much it has left is told in the old cubic's measure, which is near enough to go on from.
      this.t = t > 1 ? t - 1 : t + 1;
      this.segment = around;
    }
    this.look();
  }

  private look(): void {
    const { points: p } = this.spine;
    const i = SEGMENT * this.segment;
    this.x = cubicAt(p[i], p[i + 3], p[i + 6], p[i + 9], this.t);
    this.y = cubicAt(p[i + 1], p[i + 4], p[i + 7], p[i + 10], this.t);
    this.dx = cubicSlope(p[i], p[i + 3], p[i + 6], p[i + 9], this.t);
    this.dy = cubicSlope(p[i + 1], p[i + 4], p[i + 7], p[i + 10], this.t);
  }
}

/** Page px between two lines at which no step leads closer, by rounding; and those at which they are said to cross. */
const CLOSEST = 1e-10;
const MET = 1e-6;
/** The same where they cross at so shallow an angle that no step leads closer. */
const SHALLOW = 0.05;

/**
 * The crossing of two courses near places that are known from their polylines, by Newton's method in both parameters
 * (Press et al. 2007, §9.6), from cubic to cubic; nothing where the polylines cross and the courses do not.
 */
export function refinedCrossing(
  a: Spine,
  atA: number,
  b: Spine,
  atB: number,
): { readonly a: number; readonly b: number } | undefined {
  const [p, q] = [new Probe(a, atA), new Probe(b, atB)];
  for (let step = 0; step < STEPS; step++) {
    const x = q.x - p.x;
    const y = q.y - p.y;
    const area = p.dx * q.dy - p.dy * q.dx;
    if (Math.abs(x) + Math.abs(y) < CLOSEST || Math.abs(area) < 1e-12) break;
    const byA = (x * q.dy - y * q.dx) / area;
    const byB = (x * p.dy - y * p.dx) / area;
    p.move(byA);
    q.move(byB);
    if (p.moved > 0.5 || q.moved > 0.5) break;
  }
  if (gap(a, p.place, b, q.place) <= MET) return { a: p.place, b: q.place };
  return gap(a, atA, b, atB) <= SHALLOW && !isEnd(a, atA) && !isEnd(b, atB) ? { a: atA, b: atB } : undefined;
}

const isEnd = (spine: Spine, place: number): boolean =>
  !spine.closed && (place < 0.02 || place > segmentCount(spine) - 0.02);

function gap(a: Spine, atA: number, b: Spine, atB: number): number {
  const [p, q] = [new Probe(a, atA), new Probe(b, atB)];
  return Math.hypot(p.x - q.x, p.y - q.y);
}
