import type { Camera } from '../guides';
import { carriedBy, dot, rigidBack, turnedBy, type Rigid, type Vector } from '../math';
import { cutRing, flatsOf, type FlatFace } from './flats';
import { blocksWithin, boxOfSolid } from './ready';
import type { StandingBlock } from './scene';
import { NEAREST, type View } from './view';

/** Into the picture. */
const INTO: Vector = [0, 0, 1];

// A picture of a set by a depth buffer: quick and a little coarse, for while the camera moves.

/** A picture of what stands: for each px which surface is seen, how bright it is, and one over how deep it lies. */
export interface DepthPicture {
  readonly width: number;
  readonly height: number;
  /** 0 where nothing is seen, else the number of the surface from 1 on. */
  readonly ids: Int32Array;
  /** 0..255. */
  readonly light: Uint8Array;
  readonly near: Float32Array;
  /** The block of each surface, by its number less 1. */
  readonly owner: readonly number[];
}

/** What a view shows of blocks in a picture of so many px, `scale` px of it per page px, from the page place (left, top) on. */
export interface Sight {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
  readonly scale: number;
}

/** Paints blocks by depth. `light` is the unit vector to where light comes from, in the set. */
export function depthPicture(
  blocks: readonly StandingBlock[],
  { camera, map }: View,
  sight: Sight,
  light: Vector,
): DepthPicture {
  const { width, height, left, top, scale } = sight;
  const size = width * height;
  const picture = {
    width,
    height,
    ids: new Int32Array(size),
    light: new Uint8Array(size),
    near: new Float32Array(size),
  };
  const owner: number[] = [];
  const window = { minX: left, minY: top, maxX: left + width / scale, maxY: top + height / scale };
  const inSight = new Set(blocksWithin(blocks, { camera, map }, window));
  const seen: Camera = {
    ...camera,
    focal: camera.focal * scale,
    centre: { x: (camera.centre.x - left) * scale, y: (camera.centre.y - top) * scale },
  };
  const eye = rigidBack(map).at;
  const painter = new Painter(picture, seen, map);
  blocks.forEach((block, number) => {
    const first = owner.length;
    block.solid.surfaces.forEach(() => owner.push(number));
    if (!inSight.has(block)) return;
    for (const flat of flatsOf(block.solid)) {
      const before = dot(flat.normal, eye) - flat.offset;
      // The backs of what is closed are never seen, but from within.
      if (before === 0 || (before < 0 && block.solid.closed && !isAround(block, eye))) continue;
      const side = before > 0 ? 1 : -1;
      const bright = Math.round(255 * (0.5 + 0.5 * side * dot(flat.normal, light)));
      painter.fill(flat, before, first + flat.surface + 1, bright);
    }
  });
  return { ...picture, owner };
}

/** Whether the box of a block holds the eye. */
function isAround({ solid }: StandingBlock, [x, y, z]: Vector): boolean {
  const [a, b, c, A, B, C] = boxOfSolid(solid);
  return x > a && x < A && y > b && y < B && z > c && z < C;
}

type Painted = Pick<DepthPicture, 'width' | 'height' | 'ids' | 'light' | 'near'>;

/** Corners that one polygon may have. */
const MOST = 4_096;

/** Fills flat polygons where they are the nearest so far: one over the depth is even along a row. Its room is used again. */
class Painter {
  private readonly xs = new Float64Array(MOST);
  private readonly ys = new Float64Array(MOST);
  private readonly ends: number[] = [];
  private readonly row = new Float64Array(MOST);

  constructor(
    private readonly picture: Painted,
    private readonly camera: Camera,
    private readonly map: Rigid,
  ) {}

  /** `before` is how far the eye lies before its plane. */
  fill({ rings, normal }: FlatFace, before: number, id: number, bright: number): void {
    if (!this.project(rings)) return;
    const { picture, camera, ys } = this;
    const { centre, focal } = camera;
    let [low, high] = [Infinity, -Infinity];
    for (let k = 0; k < this.ends[0]; k++) {
      if (ys[k] < low) low = ys[k];
      if (ys[k] > high) high = ys[k];
    }
    // Of a plane n·p = −before in the eye's space, 1/z = n·(x, y, f) / (−f·before).
    const [nx, ny, nz] = turnedBy(this.map, normal);
    const by = -1 / (focal * before);
    const [px, py, pw] = [nx * by, ny * by, nz * focal * by];
    const to = Math.min(picture.height - 1, Math.floor(high - 0.5));
    for (let row = Math.max(0, Math.ceil(low - 0.5)); row <= to; row++) {
      const y = row + 0.5;
      const count = this.cross(y);
      for (let k = 0; k + 1 < count; k += 2) {
        const start = Math.max(0, Math.ceil(this.row[k] - 0.5));
        const end = Math.min(picture.width - 1, Math.floor(this.row[k + 1] - 0.5));
        let near = px * (start + 0.5 - centre.x) + py * (y - centre.y) + pw;
        for (let at = row * picture.width + start, x = start; x <= end; x++, at++, near += px) {
          if (near <= picture.near[at] * (1 + 1e-6)) continue;
          picture.near[at] = near;
          picture.ids[at] = id;
          picture.light[at] = bright;
        }
      }
    }
  }

  /** Takes the picture of rings, cut off before the eye; answers whether anything is left. */
  private project(rings: readonly (readonly Vector[])[]): boolean {
    const { xs, ys, ends, map } = this;
    const { centre, focal } = this.camera;
    ends.length = 0;
    let count = 0;
    for (const ring of rings) {
      let places: readonly Vector[] = ring.map((p) => carriedBy(map, p));
      if (places.some((p) => p[2] < NEAREST)) places = cutRing(places, INTO, NEAREST);
      if (places.length < 3 || count + places.length > MOST) {
        if (ends.length === 0) return false;
        continue;
      }
      for (const [x, y, z] of places) {
        xs[count] = centre.x + (focal * x) / z;
        ys[count++] = centre.y + (focal * y) / z;
      }
      ends.push(count);
    }
    return count > 0;
  }

  /** Where the rings cross a row, from left to right; answers how often. */
  private cross(y: number): number {
    const { xs, ys, ends, row } = this;
    let count = 0;
    let from = 0;
    for (const end of ends) {
      let last = end - 1;
      for (let k = from; k < end; last = k++) {
        if (ys[last] > y === ys[k] > y) continue;
        const x = xs[last] + ((y - ys[last]) * (xs[k] - xs[last])) / (ys[k] - ys[last]);
        let at = count++;
        for (; at > 0 && row[at - 1] > x; at--) row[at] = row[at - 1];
        row[at] = x;
      }
      from = end;
    }
    return count;
  }
}
