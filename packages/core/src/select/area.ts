import { boxesMeet, boxOfPoints, legMeetsBox, type Box, type Point } from '../math';
import { holdOf, waysOf, type DrawnEntity } from '../drawn';

/** Page px by which a course is flattened to be tested. */
const TOLERANCE = 0.25;

export interface AreaOptions {
  /** Only what lies inside with its whole course; those that only reach in are left out. */
  readonly whole?: boolean;
}

/** What reaches into a rectangle with its course. */
export function foundInRect<E extends DrawnEntity>(
  entities: Iterable<E>,
  rect: Box,
  { whole = false }: AreaOptions = {},
): E[] {
  const isIn = (x: number, y: number) => x >= rect.minX && x <= rect.maxX && y >= rect.minY && y <= rect.maxY;
  // A rectangle has no bays that a leg could leave it through.
  return chosen(entities, whole, {
    box: rect,
    hasBays: false,
    isIn,
    crosses: (ax, ay, bx, by) => legMeetsBox(rect, ax, ay, bx, by),
  });
}

/** What reaches into a loop with its course; the loop closes itself, and goes by the non-zero rule where it crosses itself. */
export function foundInLoop<E extends DrawnEntity>(
  entities: Iterable<E>,
  loop: readonly Point[],
  { whole = false }: AreaOptions = {},
): E[] {
  if (loop.length < 3) return [];
  return chosen(entities, whole, new LoopArea(loop));
}

interface Area {
  readonly box: Box;
  /** Whether a leg between two places inside may leave it. */
  readonly hasBays: boolean;
  isIn(x: number, y: number): boolean;
  /** Whether the leg between two points outside meets the area, or that between two points inside leaves it. */
  crosses(ax: number, ay: number, bx: number, by: number): boolean;
}

function chosen<E extends DrawnEntity>(entities: Iterable<E>, whole: boolean, area: Area): E[] {
  const found: E[] = [];
  for (const entity of entities) if (whole ? liesIn(entity, area) : reachesIn(entity, area)) found.push(entity);
  return found;
}

function reachesIn(entity: DrawnEntity, area: Area): boolean {
  if (!boxesMeet(holdOf(entity), area.box)) return false;
  return waysOf(entity, TOLERANCE).some(({ points: p, stride }) => {
    if (area.isIn(p[0], p[1])) return true;
    for (let i = stride; i < p.length; i += stride)
      if (area.isIn(p[i], p[i + 1]) || area.crosses(p[i - stride], p[i - stride + 1], p[i], p[i + 1])) return true;
    return false;
  });
}

function liesIn(entity: DrawnEntity, area: Area): boolean {
  if (!boxesMeet(holdOf(entity), area.box)) return false;
  return waysOf(entity, TOLERANCE).every(({ points: p, stride }) => {
    for (let i = 0; i < p.length; i += stride) {
      if (!area.isIn(p[i], p[i + 1])) return false;
      if (i > 0 && area.hasBays && area.crosses(p[i - stride], p[i - stride + 1], p[i], p[i + 1])) return false;
    }
    return true;
  });
}

/** A drawn loop, with its edges sorted into bands so that a point meets only the few beside it. */
class LoopArea implements Area {
  readonly box: Box;
  readonly hasBays = true;
  private readonly bands: number[][];
  private readonly height: number;

  constructor(private readonly loop: readonly Point[]) {
    this.box = boxOfPoints(loop);
    const count = Math.max(1, Math.min(512, loop.length >> 1));
    this.height = Math.max(1e-9, (this.box.maxY - this.box.minY) / count);
    this.bands = Array.from({ length: count }, () => []);
    loop.forEach((a, k) => {
      const b = loop[(k + 1) % loop.length];
      const last = this.band(Math.max(a.y, b.y));
      for (let band = this.band(Math.min(a.y, b.y)); band <= last; band++) this.bands[band].push(k);
    });
  }

  /** Winding number by crossings of a ray to the right (Sunday 2001). */
  isIn(x: number, y: number): boolean {
    const { box, loop } = this;
    if (x < box.minX || x > box.maxX || y < box.minY || y > box.maxY) return false;
    let winding = 0;
    for (const k of this.bands[this.band(y)]) {
      const a = loop[k];
      const b = loop[(k + 1) % loop.length];
      const side = (b.x - a.x) * (y - a.y) - (x - a.x) * (b.y - a.y);
      if (a.y <= y && b.y > y && side > 0) winding++;
      else if (a.y > y && b.y <= y && side < 0) winding--;
    }
    return winding !== 0;
  }

  crosses(ax: number, ay: number, bx: number, by: number): boolean {
    const { box, loop } = this;
    if (Math.max(ax, bx) < box.minX || Math.min(ax, bx) > box.maxX) return false;
    if (Math.max(ay, by) < box.minY || Math.min(ay, by) > box.maxY) return false;
    const last = this.band(Math.max(ay, by));
    for (let band = this.band(Math.min(ay, by)); band <= last; band++)
      for (const k of this.bands[band]) {
        const c = loop[k];
        const d = loop[(k + 1) % loop.length];
        const sideC = (bx - ax) * (c.y - ay) - (by - ay) * (c.x - ax);
        const sideD = (bx - ax) * (d.y - ay) - (by - ay) * (d.x - ax);
        const sideA = (d.x - c.x) * (ay - c.y) - (d.y - c.y) * (ax - c.x);
        const sideB = (d.x - c.x) * (by - c.y) - (d.y - c.y) * (bx - c.x);
        if (sideC * sideD < 0 && sideA * sideB < 0) return true;
      }
    return false;
  }

  private band(y: number): number {
    return Math.min(this.bands.length - 1, Math.max(0, Math.floor((y - this.box.minY) / this.height)));
  }
}
