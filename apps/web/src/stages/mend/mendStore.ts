import type { MendReach } from '../../hand';
import type { NibProfile } from '@true-nib/core/nib';
import { keptStore } from '../../base';

/** Which lines a deed over many is done to. */
export type MendScope = 'selection' | 'layer' | 'page';

/** Settings of the mending tools. Lengths in page px unless they say otherwise, shares in percent, angles in degrees. */
export interface MendDesk {
  readonly reach: MendReach;
  readonly scope: MendScope;
  /** How far ink may miss ink and still stop a snip. */
  readonly gap: number;
  /** How Rub leaves cut ends. */
  readonly cutEnd: 'flat' | 'round';
  readonly overshoot: number;
  readonly shortBy: number;
  readonly unit: 'px' | 'mm';
  readonly tug: {
    readonly radius: number;
    readonly falloff: number;
    readonly isPinned: boolean;
    readonly several: boolean;
  };
  readonly swell: { readonly width: number; readonly radius: number };
  /** Weighs by the pen's pressure, or lays a profile over what is drawn. */
  readonly weighBy: 'pressure' | Exclude<NibProfile, readonly unknown[]>;
  readonly ease: { readonly tolerance: number; readonly specks: number };
  readonly bridge: { readonly gap: number; readonly angle: number; readonly mayCross: boolean };
  readonly pool: {
    readonly radius: number;
    readonly strength: number;
    readonly angle: number;
    readonly thins: boolean;
  };
  readonly outside: boolean;
  /** What is left alone by a deed over many, by key. */
  readonly exceptions: readonly string[];
}

export const useMend = keptStore<MendDesk>({
  name: 'true-nib.mend',
  version: 1,
  fresh: {
    reach: 'layer',
    scope: 'layer',
    gap: 0,
    cutEnd: 'flat',
    overshoot: 3,
    shortBy: 0,
    unit: 'mm',
    tug: { radius: 160, falloff: 20, isPinned: true, several: false },
    swell: { width: 16, radius: 40 },
    weighBy: 'pressure',
    ease: { tolerance: 0.5, specks: 0 },
    bridge: { gap: 20, angle: 40, mayCross: false },
    pool: { radius: 30, strength: 50, angle: 50, thins: false },
    outside: false,
    exceptions: [],
  },
  kept: [
    'reach',
    'scope',
    'gap',
    'cutEnd',
    'overshoot',
    'shortBy',
    'unit',
    'tug',
    'swell',
    'weighBy',
    'ease',
    'bridge',
    'pool',
    'outside',
  ],
});

export const setMend = (change: Partial<MendDesk>): void => void useMend.setState(change);

/** A length of the settings in page px. */
export const inPagePx = (length: number, unit: MendDesk['unit'], ppi: number): number =>
  unit === 'mm' ? (length * ppi) / 25.4 : length;
