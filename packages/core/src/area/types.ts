import type { Spine } from '../curve';
import type { LaidBase } from '../kind';
import type { Point } from '../math';
import type { Ramp } from './ramp';

/** The screens that a tone can be made of. */
export const SCREENS = ['dots', 'lines', 'crossed'] as const;
export type Screen = (typeof SCREENS)[number];

/** A screen of dots or lines: the same colour all over, and only a share of the paper covered. */
export interface ToneFill {
  readonly as: 'tone';
  readonly color: string;
  readonly screen: Screen;
  /** From one dot or line to the next, page px: the page's ppi over the lines per inch. */
  readonly period: number;
  /** The way from one dot to the next, or along the lines: radians from x towards y. */
  readonly angle: number;
  /** A place on the page where a dot, or a line, has its middle. */
  readonly at: Point;
  /** The share of the paper that is covered, 0..1. */
  readonly share: number;
  /** Along it the share goes over into another one. */
  readonly ramp?: Ramp & { readonly share: number };
}

/** A colour on the way of a gradient: `at` 0..1, rising from one to the next. */
export interface GradientStop {
  readonly at: number;
  readonly color: string;
  readonly opacity?: number;
}

/** Colours that go over into each other. */
export interface GradientFill {
  readonly as: 'gradient';
  readonly ramp: Ramp;
  /** Two at least. */
  readonly stops: readonly GradientStop[];
}

/** What is within the rings: a colour, a tone, a gradient, or nothing at all, which takes away what lies beneath it on its layer. */
export type AreaFill =
  | { readonly as: 'colour'; readonly color: string; readonly opacity?: number }
  | ToneFill
  | GradientFill
  /** A nick. */
  | { readonly as: 'nothing' };

/** Where a flat was poured, page px, and by what: what the hand poured stays when the page is flatted. */
export interface Pour extends Point {
  readonly by: 'hand' | 'page';
}

/** A filled shape as a value. Lengths in page px. */
export interface Area {
  /** Closed; filled together by the non-zero rule, so holes wind against what they lie in. Their widths say nothing. */
  readonly rings: readonly Spine[];
  readonly fill: AreaFill;
  /** It is the flat of a region between lines. */
  readonly poured?: Pour;
}

export interface AreaEntity extends Area, LaidBase {
  readonly kind: 'area';
}
