import type { Camera } from '../guides';
import type { EntityBase, EntityId } from '../kind';
import type { Vector } from '../math';
import type { Nib } from '../nib';

// A set is blocks in a space of its own, and the cameras that look at it. Axes of space: x to the right and y to the left of
// someone who looks at a corner, z up; lengths in metres.

/** Where a block stands: its own origin, and how it is turned (a unit quaternion x, y, z, w). */
export interface BlockPlace {
  readonly at: Vector;
  readonly turn: readonly [x: number, y: number, z: number, w: number];
}

/** Width along x, depth along y, height along z, m. A block stands about the middle of its foot. */
export type Size = readonly [width: number, depth: number, height: number];

export interface Sized {
  readonly size: Size;
}

export interface BoxBlock extends Sized {
  readonly kind: 'box';
}

/** A ramp that rises along y. */
export interface WedgeBlock extends Sized {
  readonly kind: 'wedge';
}

/** Round: width and depth are one. */
export interface CylinderBlock {
  readonly kind: 'cylinder';
  readonly radius: number;
  readonly height: number;
}

/** `top` is the radius above, 0 for a point. */
export interface ConeBlock {
  readonly kind: 'cone';
  readonly radius: number;
  readonly top: number;
  readonly height: number;
}

/** It stands on the floor: its middle is one radius up. */
export interface SphereBlock {
  readonly kind: 'sphere';
  readonly radius: number;
}

/** A sheet without thickness, seen from both sides. */
export interface PlaneBlock {
  readonly kind: 'plane';
  readonly size: readonly [width: number, depth: number];
}

/** It climbs along y. */
export interface StairBlock extends Sized {
  readonly kind: 'stair';
  readonly steps: number;
}

/** A hole through a wall: `at` is its middle from the wall's middle, its foot, both m; round above where it is arched. */
export interface Opening {
  readonly at: readonly [along: number, foot: number];
  readonly size: readonly [width: number, height: number];
  readonly arched: boolean;
}

/** A wall along x, with doors and windows cut out. An arch is a wall with one arched opening. */
export interface WallBlock extends Sized {
  readonly kind: 'wall';
  readonly openings: readonly Opening[];
}

/** Posts along x with rails between. */
export interface FenceBlock extends Sized {
  readonly kind: 'fence';
  readonly posts: number;
  readonly rails: number;
}

/** Its ridge runs along x; `hip` is how far it stands in from the gables, as a share of half the width: 0 is a gable roof. */
export interface RoofBlock extends Sized {
  readonly kind: 'roof';
  readonly hip: number;
}

/** Corners x, y of one ring after the other, m: outer ones and holes; `smooth` where the sides are a curve. */
export interface ExtrudedBlock {
  readonly kind: 'extruded';
  readonly rings: readonly (readonly number[])[];
  readonly smooth: boolean;
  readonly height: number;
}

/** A profile of (radius, height) pairs, from its foot up, turned round z. */
export interface TurnedBlock {
  readonly kind: 'turned';
  readonly profile: readonly number[];
}

/** A model that was read from a file: its corners and triangles are bytes of their own. `scale` is m per unit of the file. */
export interface MeshBlock {
  readonly kind: 'mesh';
  readonly blob: string;
  readonly triangles: number;
  readonly scale: number;
  /** The size of its box, m. */
  readonly size: Size;
}

export type BlockShape =
  | BoxBlock
  | WedgeBlock
  | CylinderBlock
  | ConeBlock
  | SphereBlock
  | PlaneBlock
  | StairBlock
  | WallBlock
  | FenceBlock
  | RoofBlock
  | ExtrudedBlock
  | TurnedBlock
  | MeshBlock;
export type BlockKind = BlockShape['kind'];

/** Which lines are pulled off a block: all, its contour alone, or none; it hides what lies behind it in any case. */
export const LINES_OF_BLOCK = ['all', 'contour', 'none'] as const;
export type LinesOfBlock = (typeof LINES_OF_BLOCK)[number];

/** A line that was drawn on a flat face, as places in the block's own space, x, y, z in turn, m. */
export interface FaceMark {
  readonly course: readonly number[];
}

export interface BlockEntity extends EntityBase, BlockPlace {
  readonly kind: 'block';
  readonly setId: EntityId;
  readonly order: string;
  readonly name: string;
  readonly shape: BlockShape;
  readonly hidden: boolean;
  readonly locked: boolean;
  readonly lines: LinesOfBlock;
  /** Blocks with the same name of a group are chosen and moved together. */
  readonly group?: EntityId;
  readonly marks?: readonly FaceMark[];
}

export interface SetEntity extends EntityBase {
  readonly kind: 'set';
  readonly order: string;
  readonly name: string;
  /** Where light comes from: round z from x, and above the floor, radians. */
  readonly light: { readonly round: number; readonly above: number };
}

/** Why a line is there. */
export const LINE_SORTS = ['contour', 'crease', 'contact', 'mark', 'hidden'] as const;
export type LineSort = (typeof LINE_SORTS)[number];

/** How lines are pulled. Lengths in page px. */
export interface PullSettings {
  /** What each sort of line is drawn with; a sort that is missing is not drawn. */
  readonly nibs: Readonly<Partial<Record<LineSort, Nib>>>;
  /** Two faces that meet at a lesser angle have no line between them, radians. */
  readonly crease: number;
  /** How soon lines grow thinner with distance: 0 never, 1 as fast as things grow smaller. */
  readonly fall: number;
  /** By how much lines go over their corner; below 0 they end short of it. */
  readonly over: number;
  /** How far a line ends before the nearer contour that it passes behind. */
  readonly halo: number;
  /** Length of dashes and gaps of hidden lines. */
  readonly dash: number;
}

/** What was pulled last from where a camera stands. */
export interface Pulled {
  readonly settings: PullSettings;
  readonly layerId: EntityId;
}

/**
 * A camera that looks at a set. `look` is the camera of a perspective frame whose ways right, left and height are the axes
 * x, y and z of the set; it stands at `eye`, m.
 */
export interface CameraEntity extends EntityBase {
  readonly kind: 'camera';
  readonly setId: EntityId;
  readonly order: string;
  readonly name: string;
  readonly eye: Vector;
  readonly look: Camera;
  /** Whether what it sees is shown, and how strongly, 0..1. */
  readonly seen: boolean;
  readonly opacity: number;
  /** The panel in which it is seen; all over the page without one. */
  readonly panelId?: EntityId;
  /** The frame that follows it. */
  readonly frameId?: EntityId;
  /** What follows it as it is turned, where its lines are to follow. */
  readonly pulled?: Pulled;
}
