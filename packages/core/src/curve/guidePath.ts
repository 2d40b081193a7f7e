import type { Point } from '../math';
import type { Spine } from './spine';

/** A straight path through (x, y) along the unit vector (dx, dy); it ends `from` and `to` page px from there where these are given. */
export interface LinePath extends Point {
  readonly kind: 'line';
  readonly dx: number;
  readonly dy: number;
  readonly from?: number;
  readonly to?: number;
}

/** An ellipse; `angle` is the turn of the first half axis, radians. */
export interface EllipsePath extends Point {
  readonly kind: 'ellipse';
  readonly rx: number;
  readonly ry: number;
  readonly angle: number;
}

export interface CurvePath {
  readonly kind: 'curve';
  readonly course: Spine;
}

/** What a line rides: the true course, of which a drawn line is a part. */
export type GuidePath = LinePath | EllipsePath | CurvePath;
