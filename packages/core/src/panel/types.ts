import type { Spine } from '../curve';
import type { LaidBase } from '../kind';
import type { Nib } from '../nib';

/** A part of a side without a border: shares of the side, 0..1, `from` before `to`. */
export interface BorderGap {
  readonly side: number;
  readonly from: number;
  readonly to: number;
}

/** What a border is drawn with. */
export interface PanelBorder {
  readonly nib: Nib;
  readonly gaps?: readonly BorderGap[];
}

/** A panel as a value. Lengths in page px. */
export interface Panel {
  /** Closed, turning from x towards y; each of its cubics is a side. The border runs along its middle. Its widths say nothing. */
  readonly ring: Spine;
  /** None where it is missing. */
  readonly border?: PanelBorder;
  /** How much paper lies bare round it where it lies over other panels. */
  readonly gutter?: number;
  /** Its place in the reading order, where that was said by hand. */
  readonly reads?: number;
}

/** What is begun in a panel names it (`LaidBase.panelId`), and shows only within it. */
export interface PanelEntity extends Panel, LaidBase {
  readonly kind: 'panel';
}
