import type { Screen } from '@true-nib/core/area';
import { keptStore } from '../../base';

/** What rows run along: the hand's way, the guide that is awake, a plane in perspective, or the edge of what they fill. */
export type CombAlong = 'way' | 'guide' | 'plane' | 'edge';
/** Sets of rows: one, two square to each other, two at a slant, three. */
export type CombSets = 'one' | 'square' | 'slant' | 'three';
/** What goes from light to dark in a comb: nothing, or its rows get heavier, more, or break off less. */
export type CombToned = 'even' | 'weight' | 'closer' | 'broken';
/** What the next drag in a comb, or in strewn dots, sets. */
export type CombDrag = 'way' | 'gap' | 'tone' | 'move';

/** How a comb fills. Lengths in page px, shares and tapers in percent. */
export interface CombChoice {
  readonly along: CombAlong;
  readonly sets: CombSets;
  readonly toned: CombToned;
  readonly weight: number;
  readonly spacing: number;
  /** Radians. */
  readonly angle: number;
  readonly stray: number;
  readonly missing: number;
  readonly short: number;
  /** Lengths of the tapers, in weights. */
  readonly taperIn: number;
  readonly taperOut: number;
  readonly light: number;
  readonly dark: number;
}

export interface SpanChoice {
  readonly by: 'count' | 'spacing';
  readonly count: number;
  readonly spacing: number;
  /** −100..100 */
  readonly gather: number;
}

export interface FeatherChoice {
  /** Where rows begin. */
  readonly weight: number;
  readonly length: number;
  readonly spacing: number;
  /** Degrees. */
  readonly slant: number;
  readonly uneven: number;
}

/** How dots are strewn. Lengths in page px, shares in percent. */
export interface ShakerChoice {
  readonly by: 'pen' | 'loop';
  readonly tone: 'even' | 'straight' | 'round' | 'inward';
  readonly fill: 'ink' | 'paper' | 'nick';
  readonly size: number;
  readonly uneven: number;
  readonly light: number;
  readonly dark: number;
  /** How far from the pen dots fall. */
  readonly radius: number;
  /** Every dot is a line of its own. */
  readonly asLines: boolean;
}

/** A tone as it is laid next. */
export interface ToneChoice {
  readonly screen: Screen;
  /** Lines per inch. */
  readonly lpi: number;
  /** Degrees. */
  readonly angle: number;
  /** Percent. */
  readonly share: number;
  /** The share at the far end of a gradient. */
  readonly far: number;
  readonly ramp: 'none' | 'straight' | 'round';
  /** What a drag in the tone in hand does. */
  readonly drag: 'move' | 'turn' | 'ramp';
}

export interface GradientChoice {
  readonly shape: 'straight' | 'round';
  /** The colours after the one in hand, `#rrggbb`; the last may be nothing. */
  readonly to: readonly string[];
  readonly isFading: boolean;
}

export interface TextureDesk {
  readonly comb: CombChoice;
  readonly drag: CombDrag;
  readonly span: SpanChoice;
  readonly feather: FeatherChoice;
  readonly shaker: ShakerChoice;
  readonly tone: ToneChoice;
  readonly gradient: GradientChoice;
}

export const useTexture = keptStore<TextureDesk>({
  name: 'true-nib.texture',
  version: 1,
  fresh: {
    comb: {
      ...{ along: 'way', sets: 'one', toned: 'even', weight: 4, spacing: 16, angle: -Math.PI / 4 },
      ...{ stray: 15, missing: 0, short: 10, taperIn: 0, taperOut: 4, light: 5, dark: 45 },
    },
    drag: 'way',
    span: { by: 'count', count: 7, spacing: 20, gather: 0 },
    feather: { weight: 6, length: 70, spacing: 12, slant: 15, uneven: 40 },
    shaker: {
      ...{ by: 'pen', tone: 'even', fill: 'ink', size: 5, uneven: 30 },
      ...{ light: 2, dark: 30, radius: 70, asLines: false },
    },
    tone: { screen: 'dots', lpi: 60, angle: 45, share: 30, far: 5, ramp: 'none', drag: 'move' },
    gradient: { shape: 'straight', to: ['#ffffff'], isFading: false },
  },
  kept: ['comb', 'span', 'feather', 'shaker', 'tone', 'gradient'],
});

type Part = Exclude<keyof TextureDesk, 'drag'>;

/** Changes some of what one tool of texture goes by. */
export const setTexture = <K extends Part>(part: K, change: Partial<TextureDesk[K]>): void =>
  void useTexture.setState((state) => ({ [part]: { ...state[part], ...change } }) as Partial<TextureDesk>);

export const setDrag = (drag: CombDrag): void => void useTexture.setState({ drag });
