import type { GuidePath, Spine } from '../curve';
import type { EntityId, LaidBase } from '../kind';
import type { Calm } from '../hand';
import type { Matrix } from '../math';
import type { Nib } from '../nib';

/**
 * An end that was cut along a line: the ink near it that lies in `gone`, a closed ring of x, y pairs in page px, is not
 * there. The spine goes on a little beyond the cut, so that the cut is filled up to its line whatever its slant.
 */
export interface CutEnd {
  readonly gone: Float64Array;
}

/** How an end of a stroke is finished: by the nib's round tip, straight across, or along a line. */
export type StrokeEnd = 'round' | 'flat' | CutEnd;

/** Where a stroke comes from: the raw samples, and what was done with them. */
export interface StrokeOrigin {
  readonly samples: EntityId;
  readonly calm: Calm;
  /** Screen px per page px while it was drawn. */
  readonly zoom: number;
  /** Where the samples went since, as the strokes did. */
  readonly matrix?: Matrix;
  /** How many times as wide as the samples tell its widths became with that; 1 where it is missing. */
  readonly widened?: number;
  /** The course was changed by hand since, so it is no longer what the samples give; `cut` where a part is gone. */
  readonly left?: 'cut' | 'edited';
}

/** The grain of a broken edge: the same seed breaks the same, and a piece goes on `offset` page px along its old line. */
export interface StrokeGrain {
  readonly seed: number;
  readonly offset: number;
}

/** The guide that a line was drawn on, and its path there and then: the line's course is a part of it. */
export interface StrokeGuide {
  readonly id: EntityId;
  readonly path: GuidePath;
}

/** A line of a symmetric set: `matrix` takes the one that was drawn here. */
export interface StrokeCopy {
  readonly set: EntityId;
  readonly matrix: Matrix;
}

/** Where a line comes from that was pulled off a set: the camera, the edge and the piece of it, and a sum of it as it was pulled. */
export interface StrokePulled {
  readonly camera: EntityId;
  readonly edge: string;
  readonly sum: number;
}

/** A drawn line as a value: its course with its final widths, and how it is inked. */
export interface Stroke {
  readonly spine: Spine;
  readonly nib: Nib;
  readonly ends: readonly [StrokeEnd, StrokeEnd];
  readonly grain?: StrokeGrain;
  readonly origin?: StrokeOrigin;
  readonly guide?: StrokeGuide;
  readonly copy?: StrokeCopy;
  readonly pulled?: StrokePulled;
  /** A blot: all that the course goes round is filled, by the non-zero rule; it may have a width besides. */
  readonly fills?: true;
}

export interface StrokeEntity extends Stroke, LaidBase {
  readonly kind: 'stroke';
}
