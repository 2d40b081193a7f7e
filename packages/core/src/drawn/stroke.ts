import { flattenSpine, projectSpine, STRIDE } from '../curve';
import { PageError } from '../gate';
import { outlineOf } from '../ink';
import { affineOf, isAffine, localScaleOf, boxOfFlat, slopeAt, type Matrix3x3 } from '../math';
import { sideOf } from './horizon';
import { bareStroke, isKeepable, mapNib, mapStroke, projectEnds, type Stroke, type StrokeEntity } from '../stroke';
import type { Drawn } from './drawn';
import { gapToStroke } from './gap';
import type { Mark } from './mark';
import { changedInk, inkBoxes, strokeBox } from './pieces';

/** How far a mapped spine may stray from the mapped course, page px: below the quarter px that could be seen. */
const TOLERANCE = 0.2;

/** How a line is drawn and handled. Raw samples go along with an affine map and are let go by any other. */
export const drawnStroke: Drawn<StrokeEntity> = {
  marks: strokeMarks,
  bounds: () => true,
  box: strokeBox,
  pieces: inkBoxes,
  changed: changedInk,
  reach: ({ nib }) => nib.size / 2,
  ways: ({ spine }, tolerance) => [{ points: flattenSpine(spine, tolerance), stride: STRIDE }],
  // Widths left out: what a hand takes hold of.
  hold: ({ spine }) => boxOfFlat(spine.points, STRIDE),
  gap: gapToStroke,
  map: mappedStroke,
  colour: ({ nib }) => nib.color,
  coloured: (stroke, color) => ({ ...stroke, nib: { ...stroke.nib, color } }),
  bare: ({ kind, id, layerId, order, ...stroke }) => ({ kind, id, layerId, order, ...bareStroke(stroke) }),
};

const known = new WeakMap<Stroke, readonly Mark[]>();

/** What a line lays on the paper: its outline. Colour and course stand apart, so that a new colour makes no new outline. */
export function strokeMarks(stroke: Stroke): readonly Mark[] {
  let marks = known.get(stroke);
  if (!marks) known.set(stroke, (marks = [inkMark(stroke)]));
  return marks;
}

function inkMark(stroke: Stroke): Mark {
  const { spine, ends, nib, grain, fills } = stroke;
  const { tip, edge, color, opacity = 1, lays } = nib;
  // What an outline owes to the nib beside course and ends, in short.
  const shape = tip || edge || fills ? JSON.stringify([tip, edge, grain, fills]) : '';
  return {
    of: [spine, ends, shape],
    rule: 'nonzero',
    rings: (tolerance) => outlineOf(stroke, tolerance).rings,
    color,
    opacity,
    ...(lays === 'clearing' && { cuts: true }),
  };
}

/**
 * A stroke under a map of the page. It stays a stroke: an affine map carries nodes and handles over exactly, any other is
 * followed within 0.2 page px, with nodes added only where that takes them. Throws a PageError for a map that takes it over
 * its horizon, or too far off the page.
 */
export function mappedStroke<S extends Stroke>(
  stroke: S,
  map: Matrix3x3,
  { scaleWidth }: { readonly scaleWidth: boolean },
): S {
  const moved = isAffine(map) ? mapStroke(stroke, affineOf(map), scaleWidth) : projective(stroke, map, scaleWidth);
  if (!isKeepable(moved.spine)) throw new PageError('Some lines would lie too far off the page.');
  return moved;
}

function projective<S extends Stroke>(stroke: S, matrix: Matrix3x3, scaleWidth: boolean): S {
  const { points: old } = stroke.spine;
  const side = sideOf(stroke.spine, matrix);
  const middle = Math.floor((old.length / STRIDE - 1) / 2 / 3) * 3 * STRIDE;
  const factor = scaleWidth ? localScaleOf(matrix, old[middle], old[middle + 1]) : 1;
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = stroke;
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine: projectSpine(stroke.spine, matrix, { tolerance: TOLERANCE, scaleWidth }),
    ends: projectEnds(stroke.ends, matrix, side),
    nib: mapNib(stroke.nib, factor, slopeAt(matrix, old[middle], old[middle + 1])),
  };
}
