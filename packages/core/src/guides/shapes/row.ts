import type { GuidePath, Side, Spine } from '../../curve';
import type { Fields } from '../../gate';
import type { EntityId } from '../../kind';
import type { Matrix3x3, Point } from '../../math';
import type { GuideShape, VanishingPoint } from '../guide';
import type { Extent } from '../perspective/frame';
import type { PointGrip, Seen } from '../perspective/grips';

/** What a hand takes hold of on a guide. */
export type GuideGrip =
  | { readonly part: 'move' | 'turn' | 'ratio' | 'start' | 'end' }
  | { readonly part: 'corner'; readonly corner: number }
  | { readonly part: 'frame'; readonly grip: PointGrip }
  | { readonly part: 'node'; readonly node: number }
  | { readonly part: 'handle'; readonly node: number; readonly side: Side };

export interface GripPlace {
  readonly grip: GuideGrip;
  readonly at: Point;
  readonly look: 'corner' | 'smooth' | 'handle';
}

/** How grips are shown: page px per CSS px, the node of a curve whose handles are shown, and what of the page is seen. */
export interface GripLook {
  readonly perCss: number;
  readonly chosen: number | undefined;
  readonly seen: Seen;
}

/** A grip that a hand has dragged from one place to another, and how. */
export interface GripDrag {
  readonly grip: GuideGrip;
  readonly from: Point;
  readonly to: Point;
  /** Angles by whole steps of 15°, moves along an axis of the page, templates in proportion. */
  readonly isExact: boolean;
  /** A handle leaves the one across from it where it is; the points of a frame move apart. */
  readonly isBroken: boolean;
  /** Points of a frame keep to its horizon. */
  readonly isLevel: boolean;
  readonly seen: Seen;
}

/** A hand that asks for a path. */
export interface PathQuery {
  readonly at: Point;
  /** Where it sets out to, radians. */
  readonly heading?: number;
  /** The page: it tells the cameras of frames. */
  readonly page: Extent;
}

/**
 * How lines that are tethered to a guide go along when it becomes another: turned about their own middles towards a point,
 * kept as far beside a course as they were, or carried by a map of the page.
 */
export type Carriage =
  | { readonly by: 'aim'; readonly point: VanishingPoint }
  | { readonly by: 'course'; readonly before: Spine; readonly after: Spine }
  | { readonly by: 'map'; readonly map: Matrix3x3 };

/** Everything that hangs on the kind of a guide's shape. Lengths in page px, angles in radians. */
export interface ShapeRow<S extends GuideShape> {
  /** How it bears lines: where a hand starts near an edge of it, anywhere, in its three directions, or not at all. */
  readonly bears: 'edge' | 'field' | 'frame' | 'nothing';
  /** The shape in fields that came from outside. Throws a PageError that names the field, what it needs and what came. */
  check(fields: Fields): S;
  /** The frames that it lies in or aims at. */
  frames?(shape: S): readonly EntityId[];
  /** The same shape with those frames under other ids. */
  reframed?(shape: S, renamed: (id: EntityId) => EntityId): S;
  /** The path that it gives a hand; nothing where it gives none. */
  path(shape: S, query: PathQuery): GuidePath | undefined;
  /** Whether a path is one that it gives: a line that was moved off it since is none of its own. */
  obeys(path: GuidePath, shape: S): boolean;
  /** Whether a hand takes hold of its body there: its edge or axis, or a ruler between its edges. */
  isOn(shape: S, at: Point, reach: number): boolean;
  /** Where it is taken hold of, and its tag lies. */
  anchor(shape: S): Point;
  grips(shape: S, look: GripLook): GripPlace[];
  /** The shape after a grip of its own was dragged; nothing for any other, which moves it as a whole. */
  place?(shape: S, drag: GripDrag): S | undefined;
  move(shape: S, dx: number, dy: number): S;
  /** Left out where more than the shapes must be known: lines go with a frame as its camera sees them. */
  courses?(before: S, after: S): Carriage;
}
