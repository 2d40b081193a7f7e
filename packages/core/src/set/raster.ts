import type { Camera } from '../guides';
import { dot, type Vector } from '../math';
import { cutRing, flatsOf, normalOf } from './flats';
import { solidUnder } from './solid';
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

/** Paints blocks by depth. `light` is where light comes from, in the set. */
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
  const lamp = solidLamp(map.axes, light);
  const seen: Camera = {
    ...camera,
    focal: camera.focal * scale,
    centre: { x: (camera.centre.x - left) * scale, y: (camera.centre.y - top) * scale },
  };
  blocks.forEach(({ solid }, block) => {
    const first = owner.length;
    solid.surfaces.forEach(() => owner.push(block));
    const flats = flatsOf(solid);
    const moved = solidUnder(map, {
      surfaces: flats.map(({ rings }) => ({ kind: 'face', rings, normal: [0, 0, 1] })),
      edges: [],
      closed: true,
    });
    moved.surfaces.forEach((surface, k) => {
      if (surface.kind === 'face') fill(picture, surface.rings, seen, first + flats[k].surface + 1, lamp);
    });
  });
  return { ...picture, owner };
}

const solidLamp = ([a, b, c]: View['map']['axes'], [x, y, z]: Vector): Vector => [
  a[0] * x + b[0] * y + c[0] * z,
  a[1] * x + b[1] * y + c[1] * z,
  a[2] * x + b[2] * y + c[2] * z,
];

type Painted = Pick<DepthPicture, 'width' | 'height' | 'ids' | 'light' | 'near'>;

/** Fills a flat polygon of the eye's space where it is the nearest so far: one over the depth is even along a row. */
function fill(picture: Painted, rings: readonly (readonly Vector[])[], camera: Camera, id: number, lamp: Vector): void {
  const cut = rings.map((ring) => cutRing(ring, INTO, NEAREST)).filter((ring) => ring.length > 2);
  const [outer] = cut;
  if (!outer) return;
  const normal = normalOf(outer);
  const long = Math.hypot(...normal);
  if (!(long > 0)) return;
  const offset = dot(normal, outer[0]);
  const { focal, centre } = camera;
  const flat = cut.map((ring) =>
    ring.map(([x, y, z]) => [centre.x + (focal * x) / z, centre.y + (focal * y) / z] as const),
  );
  const ys = flat[0].map(([, y]) => y);
  const from = Math.max(0, Math.ceil(Math.min(...ys) - 0.5));
  const to = Math.min(picture.height - 1, Math.floor(Math.max(...ys) - 0.5));
  // Seen from behind it is lit from there.
  const side = offset > 0 ? -1 : 1;
  const bright = Math.round(255 * (0.5 + (0.5 * side * dot(normal, lamp)) / long));
  // n·(x, y, f)·z/f = offset, so 1/z = n·(x, y, f) / (f·offset).
  const [px, py, pw] = [normal[0] / (focal * offset), normal[1] / (focal * offset), normal[2] / offset];
  if (!Number.isFinite(px + py + pw)) return;
  for (let row = from; row <= to; row++) {
    const y = row + 0.5;
    const xs = crossingsAt(flat, y);
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const start = Math.max(0, Math.ceil(xs[k] - 0.5));
      const end = Math.min(picture.width - 1, Math.floor(xs[k + 1] - 0.5));
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

function crossingsAt(rings: readonly (readonly (readonly [number, number])[])[], y: number): number[] {
  const xs: number[] = [];
  for (const ring of rings)
    for (let k = 0, last = ring.length - 1; k < ring.length; last = k++) {
      const [a, b] = [ring[last], ring[k]];
      if (a[1] > y !== b[1] > y) xs.push(a[0] + ((y - a[1]) * (b[0] - a[0])) / (b[1] - a[1]));
    }
  return xs.sort((a, b) => a - b);
}
