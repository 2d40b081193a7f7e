import { carriedBy, type Box, type Vector } from '../math';
import { blockerOf, writeBox, type Blocker } from './blocker';
import type { Solid } from './solid';
import { BOX, BoxTree } from './tree';
import { NEAREST, type View } from './view';

/** A solid with what finding its parts takes. */
export interface Ready {
  readonly solid: Solid;
  readonly blockers: readonly Blocker[];
  readonly boxes: Float64Array;
  readonly tree: BoxTree;
  /** Least x, y, z, then most. */
  readonly whole: Float64Array;
}

const ready = new WeakMap<Solid, Ready>();

/** Made once for each solid. */
export function readyFor(solid: Solid): Ready {
  const known = ready.get(solid);
  if (known) return known;
  const boxes = new Float64Array(BOX * solid.surfaces.length);
  solid.surfaces.forEach((surface, k) => writeBox(surface, boxes, BOX * k));
  const made = {
    solid,
    boxes,
    blockers: solid.surfaces.map(blockerOf),
    tree: new BoxTree(boxes),
    whole: around(boxes),
  };
  ready.set(solid, made);
  return made;
}

/** The box of a whole solid, m: least x, y, z, then most. */
export const boxOfSolid = (solid: Solid): Float64Array => readyFor(solid).whole;

function around(boxes: Float64Array): Float64Array {
  const whole = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let k = 0; k < boxes.length; k += BOX)
    for (let axis = 0; axis < 3; axis++) {
      whole[axis] = Math.min(whole[axis], boxes[k + axis]);
      whole[axis + 3] = Math.max(whole[axis + 3], boxes[k + axis + 3]);
    }
  return whole;
}

/** The corners of a box of six numbers. */
export const cornersOfBox = (box: ArrayLike<number>): Vector[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [box[k & 1 ? 3 : 0], box[k & 2 ? 4 : 1], box[k & 4 ? 5 : 2]]);

/** Those of some blocks that may be seen in a part of the picture: what lies beside it hides nothing in it. */
export function blocksWithin<B extends { readonly solid: Solid }>(
  blocks: readonly B[],
  { camera: { centre, focal }, map }: View,
  { minX, minY, maxX, maxY }: Box,
): B[] {
  const sides: readonly Vector[] = [
    [focal, 0, centre.x - minX],
    [-focal, 0, maxX - centre.x],
    [0, focal, centre.y - minY],
    [0, -focal, maxY - centre.y],
  ];
  return blocks.filter(({ solid }) => {
    const corners = cornersOfBox(boxOfSolid(solid)).map((corner) => carriedBy(map, corner));
    if (corners.every((p) => p[2] < NEAREST)) return false;
    return sides.every((side) => corners.some((p) => side[0] * p[0] + side[1] * p[1] + side[2] * p[2] >= 0));
  });
}
