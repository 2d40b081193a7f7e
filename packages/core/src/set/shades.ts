import {
  boxesMeet,
  boxOfRings,
  dot,
  grownRings,
  reversedRing,
  ringArea,
  turnedBy,
  withinRings,
  withoutRings,
  type Box,
  type Vector,
} from '../math';
import type { Camera } from '../guides';
import { ballFlats, cutRing, flatRings, normalOf } from './flats';
import { blocksWithin } from './ready';
import type { StandingBlock } from './scene';
import { solidUnder, type Solid, type Surface } from './solid';
import { NEAREST, picturedAt, type View } from './view';

// The faces that are turned from a light, as far as they are seen: each without what lies before it.

/** m by which something must lie before a face to hide it: what stands flush hides nothing. */
const BEFORE = 1e-4;
/** Flats that a round surface is parted into, once round. */
const FLATS = 48;
/** Page px by which neighbouring faces are made to meet. */
const MEET = 0.05;

/** Where light comes from, and up to which strength of it (0..1, 1 where it falls on straight) a face is dark. */
export interface Light {
  readonly from: Vector;
  readonly most: number;
}

/** A flat face that looks at the eye, in the eye's own space and in the picture. */
interface Seen {
  /** Its plane; the normal looks at the eye. */
  readonly normal: Vector;
  readonly offset: number;
  readonly rings: readonly (readonly Vector[])[];
  /** x, y pairs, page px: outlines one way round, holes the other. */
  readonly flat: readonly Float64Array[];
  readonly box: Box;
  readonly dark: boolean;
  /** The round surface that it is a part of: no part of that hides another one. */
  readonly round: Surface | undefined;
}

/**
 * What is seen of the faces of blocks that a light leaves dark, within a part of the page: closed rings, x, y pairs, that are
 * filled together. Yields the share that is done.
 */
export function* shadedRings(
  standing: readonly StandingBlock[],
  view: View,
  light: Light,
  window: Box,
): Generator<number, Float64Array[]> {
  const faces = facesOf(blocksWithin(standing, view, window), view, light).filter(({ box }) => boxesMeet(box, window));
  const dark: Float64Array[] = [];
  for (let k = 0; k < faces.length; k++) {
    if (k % 20 === 19) yield k / faces.length;
    if (faces[k].dark) dark.push(...seenOf(faces[k], faces, view.camera));
  }
  if (dark.length === 0) return [];
  const { minX, minY, maxX, maxY } = window;
  const frame = Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY);
  // Grown and made smaller again, neighbours are one.
  const whole = withinRings(dark, [frame]);
  return grownRings(grownRings(whole, MEET, 'sharp'), -MEET, 'sharp').filter((ring) => ring.length >= 6);
}

function facesOf(blocks: readonly StandingBlock[], { camera, map }: View, light: Light): Seen[] {
  const lamp = turnedBy(map, light.from);
  const size = Math.hypot(...lamp) || 1;
  return blocks.flatMap(({ solid }) => {
    const flats = flatsInLight(solid, light);
    const faces = flats.map(({ rings }) => ({ kind: 'face' as const, rings, normal: [0, 0, 1] as Vector }));
    const { surfaces } = solidUnder(map, { surfaces: faces, edges: [], closed: true });
    return surfaces.flatMap((surface, k): Seen[] => {
      if (surface.kind !== 'face') return [];
      const own = normalOf(surface.rings[0]);
      const long = Math.hypot(...own);
      if (!(long > 0)) return [];
      const away = dot(own, surface.rings[0][0]) / long;
      // Away from the eye it is the back of something closed; a sheet is seen from both sides.
      if (Math.abs(away) < 1e-9 || (away > 0 && solid.closed)) return [];
      const side = away < 0 ? 1 / long : -1 / long;
      const normal: Vector = [own[0] * side, own[1] * side, own[2] * side];
      const rings = surface.rings.map((ring) => cutRing(ring, [0, 0, 1], NEAREST)).filter((ring) => ring.length > 2);
      if (rings.length === 0) return [];
      const flat = outlined(rings, camera);
      const dark = dot(normal, lamp) / size < light.most;
      const { round } = flats[k];
      return [{ normal, offset: -Math.abs(away), rings, flat, box: boxOfRings(flat), dark, round }];
    });
  });
}

/** The flats of a solid; those of a ball lie about the way of the light, so that its shade has a smooth edge. */
function flatsInLight(solid: Solid, { from, most }: Light) {
  const size = Math.hypot(...from) || 1;
  const axis: Vector = [from[0] / size, from[1] / size, from[2] / size];
  return solid.surfaces.flatMap((surface) => {
    const bulges = surface.kind === 'ball' || (surface.kind === 'mantle' && !surface.inside);
    const own = surface.kind === 'ball' ? ballFlats(surface, FLATS, axis, most) : flatRings(surface, FLATS);
    return own.map((rings) => ({ rings, round: bulges ? surface : undefined }));
  });
}

/** Rings in the picture: the outer one winds one way and holes the other. */
function outlined(rings: readonly (readonly Vector[])[], camera: Camera): Float64Array[] {
  return rings.map((ring, k) => {
    const flat = new Float64Array(2 * ring.length);
    ring.forEach((p, at) => {
      const { x, y } = picturedAt(camera, p);
      flat.set([x, y], 2 * at);
    });
    return ringArea(flat) > 0 === (k === 0) ? flat : reversedRing(flat);
  });
}

/** What is seen of a face: without the parts of others that lie before its plane. */
function seenOf(face: Seen, faces: readonly Seen[], camera: Camera): Float64Array[] {
  const before: Float64Array[] = [];
  for (const other of faces) {
    if (other === face || (other.round && other.round === face.round) || !boxesMeet(face.box, other.box)) continue;
    const parts = other.rings
      .map((ring) => cutRing(ring, face.normal, face.offset + BEFORE))
      .filter((ring) => ring.length > 2);
    if (parts.length === 0) continue;
    const [outline, ...holes] = outlined(parts, camera);
    before.push(...(holes.length > 0 ? withoutRings([outline], holes.map(reversedRing)) : [outline]));
  }
  const [outline, ...holes] = face.flat;
  const own = holes.length > 0 ? withoutRings([outline], holes.map(reversedRing)) : [outline];
  return before.length > 0 ? withoutRings(own, before) : own;
}
