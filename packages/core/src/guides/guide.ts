import type { Spine } from '../curve';
import type { EntityBase, EntityId } from '../kind';
import type { Matrix3x3, Point } from '../math';

/** Lines that a field shows and, where it `snaps`, keeps to. */
export interface GuideGrid {
  /** Between two lines: page px, and radians for rays. */
  readonly step: number;
  /** Where the first line lies, in the unit of `step`. */
  readonly offset: number;
  /** Lines on either side of the first one (rings outwards, rays all round); 0 for as many as there is room for. */
  readonly count: number;
  readonly snaps: boolean;
}

/** Where a template lies: its own middle in page px, page px per px of its own along both of its axes (below 0 it is flipped), and its turn in radians. */
export interface TemplatePlace extends Point {
  readonly scaleX: number;
  readonly scaleY: number;
  readonly angle: number;
}

/**
 * Where parallels of one direction meet, in homogeneous page px: (x, y) for w = 1; for w = 0 infinitely far in the direction
 * of the unit vector (x, y).
 */
export type VanishingPoint = readonly [x: number, y: number, w: 0 | 1];

/** The three directions of a square-cornered box: along its right and its left wall, and up. */
export const FRAME_WAYS = ['right', 'left', 'height'] as const;
export type FrameWay = (typeof FRAME_WAYS)[number];

/** The planes of a frame; with one point the left wall is a side wall and the right one the facing wall. */
export const FRAME_PLANES = ['left', 'right', 'floor'] as const;
export type FramePlane = (typeof FRAME_PLANES)[number];

/** The grid on a plane of a frame, from the frame's corner on. */
export interface FrameGrid {
  /** Between two lines, in page px at the corner. */
  readonly step: number;
  /** Steps to either side of the corner. */
  readonly reach: number;
  /** How soon it pales with distance, 0..1. */
  readonly fade: number;
  /** Which of the board's guide colours it has. */
  readonly hue: number;
  readonly snaps: boolean;
}

/** A line over an edge of the rough that is known to run in one of the directions. */
export interface SightedEdge {
  readonly way: FrameWay;
  readonly from: Point;
  readonly to: Point;
}

/** A perspective frame: the picture of three directions at right angles, and of three planes that meet in a corner. */
export interface FrameShape {
  readonly kind: 'frame';
  readonly points: Readonly<Record<FrameWay, VanishingPoint>>;
  /** The directions that lines do not take. */
  readonly asleep: readonly FrameWay[];
  /** What the artist calls the directions. */
  readonly names?: Readonly<Partial<Record<FrameWay, string>>>;
  /** The points that stay where they are when others are dragged. */
  readonly fixed: readonly FrameWay[];
  /** Focal length in page px, where one point alone leaves it open. */
  readonly focal: number;
  /** The centre of vision, where two points leave it open; the foot of the page's middle on the horizon otherwise. */
  readonly centre?: Point;
  /** Where the three planes meet. */
  readonly corner: Point;
  readonly grids: Readonly<Partial<Record<FramePlane, FrameGrid>>>;
  /** What it was sighted from. */
  readonly edges: readonly SightedEdge[];
}

/** What a straightedge keeps aiming at; a point of a frame is known by its name too. */
export interface Aim {
  readonly point: VanishingPoint;
  readonly frame?: EntityId;
  readonly way?: FrameWay;
}

/** Outlines to draw round that lie on a plane of a frame: `map` takes the plane's own px to the page, `place` lies in the plane. */
export interface PlaneShape {
  readonly kind: 'plane';
  readonly frame: EntityId;
  readonly plane: FramePlane;
  readonly map: Matrix3x3;
  readonly rings: readonly Spine[];
  readonly place: TemplatePlace;
}

/** An axis through (x, y) in a plane of a frame, across which all is mirrored in depth. */
export interface FoldShape extends Point {
  readonly kind: 'fold';
  readonly frame: EntityId;
  readonly plane: FramePlane;
  /** Where lines straight across the axis meet, and lines along it. */
  readonly across: VanishingPoint;
  readonly along: VanishingPoint;
}

/** A straightedge: two edges `width` apart, `length` long, about its middle. Angles are radians from x towards y. */
export interface StraightedgeShape extends Point {
  readonly kind: 'straightedge';
  readonly angle: number;
  readonly length: number;
  readonly width: number;
  /** What it is turned to wherever it lies. */
  readonly aim?: Aim;
}

/** A bendable curve. */
export interface BattenShape {
  readonly kind: 'batten';
  readonly course: Spine;
}

/** Outlines to draw round, in px of their own about (0, 0). */
export interface TemplateShape {
  readonly kind: 'template';
  readonly rings: readonly Spine[];
  readonly place: TemplatePlace;
}

/** Parallels at an angle; (x, y) is where the grid starts and the handle lies. */
export interface RailsShape extends Point {
  readonly kind: 'rails';
  readonly angle: number;
  readonly grid?: GuideGrid;
}

/** Concentric ellipses: `ratio` is the half axis across `angle` over the one along it, 0.02–1. */
export interface RipplesShape extends Point {
  readonly kind: 'ripples';
  readonly ratio: number;
  readonly angle: number;
  readonly grid?: GuideGrid;
}

/** All lines through one point, which may lie far off the page. */
export interface RaysShape extends Point {
  readonly kind: 'rays';
  readonly grid?: GuideGrid;
}

/** Parallels of a curve, at true distances. */
export interface EchoShape {
  readonly kind: 'echo';
  readonly course: Spine;
}

/** One axis. */
export interface MirrorShape extends Point {
  readonly kind: 'mirror';
  readonly angle: number;
  /** Strokes that end on the axis become one with their twin. */
  readonly joins: boolean;
}

/**
 * `sectors` strokes in all for each one drawn: turned about the middle, or, where it reflects, half of them turned and half
 * of them mirrored (then `sectors` is even).
 */
export interface WheelShape extends Point {
  readonly kind: 'wheel';
  readonly angle: number;
  readonly sectors: number;
  readonly reflects: boolean;
  readonly joins: boolean;
}

export type EdgeShape = StraightedgeShape | BattenShape | TemplateShape | PlaneShape;
export type FieldShape = RailsShape | RipplesShape | RaysShape | EchoShape;
export type SymmetryShape = MirrorShape | WheelShape;
export type GuideShape = EdgeShape | FieldShape | FrameShape | SymmetryShape | FoldShape;
export type GuideKind = GuideShape['kind'];

export interface GuideEntity extends EntityBase {
  readonly kind: 'guide';
  readonly order: string;
  readonly name: string;
  /** Whether it is drawn on the board. */
  readonly seen: boolean;
  /** Whether lines obey it. */
  readonly acting: boolean;
  readonly locked: boolean;
  /** Whether lines that were drawn on it go along when it is moved. */
  readonly tethers: boolean;
  /** The layers whose lines obey it. */
  readonly reach: 'all' | readonly EntityId[];
  /** Which of the board's guide colours it has, 0–5. */
  readonly hue: number;
  readonly shape: GuideShape;
  /** The panel that it goes along with. */
  readonly panelId?: EntityId;
}

/** Numbers that a guide may have. */
export const GUIDE_LIMITS = {
  length: { least: 1, most: 100_000 },
  width: { least: 1, most: 5_000 },
  ratio: { least: 0.02, most: 1 },
  sectors: { least: 2, most: 24 },
  count: 2_000,
  hues: 6,
  rings: 64,
  scale: 1e4,
  layers: 1_000,
  focal: { least: 10, most: 1e6 },
  gridStep: { least: 1, most: 1e5 },
  gridReach: { least: 1, most: 200 },
  edges: 600,
} as const;
