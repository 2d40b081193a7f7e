import { flattenSpine } from '../curve';
import { boxOfPoints, type Box, type Point } from '../math';
import type { Stroke } from '../page';

/** Page px by which a course is flattened to be tested. */
const TOLERANCE = 0.25;

export interface AreaOptions {
  /** Only strokes whose whole course lies inside; those that only reach in are left out. */
  readonly whole?: boolean;
}

/** The strokes whose course reaches into a rectangle. */
export function strokesInRect<S extends Stroke>(
  strokes: Iterable<S>,
  rect: Box,
  { whole = false }: AreaOptions = {},
): S[] {
  const isIn = (x: number, y: number) => x >= rect.minX && x <= rect.maxX && y >= rect.minY && y <= rect.maxY;
  return chosen(strokes, whole, { box: rect, isIn, crosses: (ax, ay, bx, by) => legMeetsBox(ax, ay, bx, by, rect) });
}

/** The strokes whose course reaches into a loop, which closes itself; where it crosses itself, by the non-zero rule. */
export function strokesInLoop<S extends Stroke>(
  strokes: Iterable<S>,
  loop: readonly Point[],
  { whole = false }: AreaOptions = {},
): S[] {
  if (loop.length < 3) return [];
  return chosen(strokes, whole, new LoopArea(loop));
}

interface Area {
  readonly box: Box;
  isIn(x: number, y: number): boolean;
  /** Whether the leg between two points outside meets the area, or that between two points inside leaves it. */
  crosses(ax: number, ay: number, bx: number, by: number): boolean;
}

function chosen<S extends Stroke>(strokes: Iterable<S>, whole: boolean, area: Area): S[] {
  const found: S[] = [];
  for (const stroke of strokes) if (whole ? liesIn(stroke, area) : reachesIn(stroke, area)) found.push(stroke);
  return found;
}

function reachesIn({ spine }: Stroke, area: Area): boolean {
  const hull = controlBox(spine.points);
  if (!meets(hull, area.box)) return false;
  const line = flattenSpine(spine, TOLERANCE);
  if (area.isIn(line[0], line[1])) return true;
  for (let i = 3; i < line.length; i += 3)
    if (area.isIn(line[i], line[i + 1]) || area.crosses(line[i - 3], line[i - 2], line[i], line[i + 1])) return true;
  return false;
}

function liesIn({ spine }: Stroke, area: Area): boolean {
  if (!meets(controlBox(spine.points), area.box)) return false;
  const line = flattenSpine(spine, TOLERANCE);
  if (!area.isIn(line[0], line[1])) return false;
  for (let i = 3; i < line.length; i += 3) {
    if (!area.isIn(line[i], line[i + 1])) return false;
    // A rectangle has no bays that a leg could leave it through.
    if (area instanceof LoopArea && area.crosses(line[i - 3], line[i - 2], line[i], line[i + 1])) return false;
  }
  return true;
}

function controlBox(points: Float64Array): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    if (points[i] < minX) minX = points[i];
    if (points[i] > maxX) maxX = points[i];
    if (points[i + 1] < minY) minY = points[i + 1];
    if (points[i + 1] > maxY) maxY = points[i + 1];
  }
  return { minX, minY, maxX, maxY };
}

const meets = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** Liang and Barsky (1984): the stretch of a leg that lies within all four edges. */
function legMeetsBox(ax: number, ay: number, bx: number, by: number, box: Box): boolean {
  let low = 0;
  let high = 1;
  for (const [step, room] of [
    [ax - bx, ax - box.minX],
    [bx - ax, box.maxX - ax],
    [ay - by, ay - box.minY],
    [by - ay, box.maxY - ay],
  ]) {
    if (step === 0) {
      if (room < 0) return false;
    } else if (step < 0) low = Math.max(low, room / step);
    else high = Math.min(high, room / step);
  }
  return low <= high;
}

/** A drawn loop, with its edges sorted into bands so that a point meets only the few beside it. */
class LoopArea implements Area {
  readonly box: Box;
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
