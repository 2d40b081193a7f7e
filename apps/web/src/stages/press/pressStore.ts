import { PRESS_SETTINGS, type Finding, type FindingKind, type LeakFinding } from '@true-nib/core/audit';
import { create } from 'zustand';
import { keptStore } from '../../base';

/** How the page will be printed, as the artist says. */
export interface PressDesk {
  readonly scale: number;
  readonly leastMm: number;
  readonly leastPt: number;
  readonly finestLpi: number;
  readonly isOneBit: boolean;
  readonly withLeaks: boolean;
}

const { scale, leastMm, leastPt, finestLpi, isOneBit } = PRESS_SETTINGS;

export const usePressDesk = keptStore<PressDesk>({
  ...{ name: 'true-nib.press', version: 1 },
  fresh: { scale, leastMm, leastPt, finestLpi, isOneBit, withLeaks: true },
  kept: ['scale', 'leastMm', 'leastPt', 'finestLpi', 'isOneBit', 'withLeaks'],
});

/** Something that was found; a gap that leaks is bridged otherwise than all else is mended. */
export type Found = Finding & Partial<Pick<LeakFinding, 'leak'>>;

interface KnownFindings {
  readonly status: 'idle' | 'looking' | 'ready';
  readonly findings: readonly Found[];
  /** The id of the one in hand. */
  readonly inHand: string | undefined;
}

export const NOTHING_FOUND: KnownFindings = { status: 'idle', findings: [], inHand: undefined };

export const usePress = create<KnownFindings>()(() => NOTHING_FOUND);

/** Findings by their kinds, in the order in which these were found. */
export function byKind(findings: readonly Found[]): readonly (readonly [FindingKind, readonly Found[]])[] {
  const groups = new Map<FindingKind, Found[]>();
  for (const finding of findings) {
    const group = groups.get(finding.kind);
    if (group) group.push(finding);
    else groups.set(finding.kind, [finding]);
  }
  return [...groups];
}

export const canMend = ({ mending, leak }: Found): boolean => mending !== undefined || leak !== undefined;
