import type { DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import type { Box, Point } from '../math';

/** What may be wrong with a page before it is printed. */
export const FINDING_KINDS = [
  'resolution',
  'grey',
  'stand-in',
  'faded',
  'thin line',
  'speck',
  'unseen',
  'loose end',
  'leak',
  'bleed',
  'small letters',
  'letters at the edge',
  'letters overflow',
  'font missing',
  'fine tone',
  'moiré',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** What mends a finding at a touch. */
export type Mending =
  | { readonly as: 'thicken'; readonly id: EntityId; readonly width: number }
  | { readonly as: 'drop'; readonly id: EntityId }
  | { readonly as: 'plain colours' }
  | { readonly as: 'full strength'; readonly id: EntityId }
  | {
      readonly as: 'reach';
      readonly id: EntityId;
      readonly end: 0 | 1;
      /** Where the end was when it was looked at, and where it should be. */
      readonly from: Point;
      readonly to: Point;
    };

/** Something that is wrong, or may be. */
export interface Finding {
  /** The same as long as it is the same: what is silenced goes by it. */
  readonly id: string;
  readonly kind: FindingKind;
  /** Where it is, page px; nowhere where it is the whole page. */
  readonly at?: Point;
  /** In a sentence. */
  readonly words: string;
  readonly mending?: Mending;
}

/** Something drawn, and where its marks lie, page px. */
export interface Placed {
  readonly entity: DrawnEntity;
  readonly box: Box;
}

/** Looks at one thing after the other, and says what is wrong with it. */
export type Look = (placed: Placed) => Finding | undefined;

/** Things that are looked at in one go. */
export const BREATH = 200;

/** How a page will be printed or shown. */
export interface PressSettings {
  /** The printed size over the page's own: 0.6 is a reduction to 60 %. */
  readonly scale: number;
  /** The thinnest line that prints, mm as printed. */
  readonly leastMm: number;
  /** The smallest lettering that is read, points as printed. */
  readonly leastPt: number;
  /** Px an inch, as printed, that it takes at least (common practice). */
  readonly leastPpi: number;
  /** The finest screen that prints, lines an inch as printed. */
  readonly finestLpi: number;
  /** Whether it is to be black and white alone. */
  readonly isOneBit: boolean;
  /** Fonts that are at hand, by their SHA-256; nothing is said of fonts where it is not told. */
  readonly fonts?: ReadonlySet<string>;
}

/** Common practice; the thinnest line is settable, and hair lines of 0.1 mm are what offset holds. */
export const PRESS_SETTINGS: PressSettings = {
  ...{ scale: 1, leastMm: 0.1, leastPt: 5.5, leastPpi: 300, finestLpi: 85, isOneBit: false },
};
