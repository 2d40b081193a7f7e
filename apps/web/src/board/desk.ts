import { NIB_SIZES, NIBS } from '@true-nib/core/ink';
import { clamp } from '@true-nib/core/math';
import type { Calm, EntityId, Nib } from '@true-nib/core/page';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

export type Stage = 'rough' | 'ink' | 'finish';
export type Tool = 'nib' | 'rub' | 'lift';

/** What lies on the desk beside the page: the stage, the tool in hand and its settings. None of it is part of the page. */
export interface Desk {
  readonly stage: Stage;
  readonly tool: Tool;
  readonly nibs: readonly Nib[];
  readonly nibInHand: number;
  /** Kept while *Raw* is on, so that *Even* comes back as strong as it was. */
  readonly calmWay: Calm['way'];
  readonly calmStrength: number;
  /** Full width of the rubber, page px. */
  readonly rubSize: number;
  readonly roughId: EntityId | undefined;
  readonly peeking: boolean;
  /** Bench and strip are put away: only the page is left. */
  readonly onlyPage: boolean;
  /** A stroke, a rub or a drag of the rough is under way. */
  readonly isDrawing: boolean;
  readonly penSeen: boolean;
  readonly fingerDraws: boolean;
  readonly deliverAs: 'png' | 'svg';
  /** 1, 0.5 or 0.25 of the page's px. */
  readonly deliverScale: number;
  readonly deliverRough: boolean;
  readonly zoom: number;
  readonly turn: number;
}

const RUB_SIZES = { least: 2, most: 400 } as const;

export const useDesk = create<Desk>()(
  persist(
    (): Desk => ({
      stage: 'ink',
      tool: 'nib',
      nibs: NIBS,
      nibInHand: 1,
      calmWay: 'even',
      calmStrength: 40,
      rubSize: 48,
      roughId: undefined,
      peeking: false,
      onlyPage: false,
      isDrawing: false,
      penSeen: false,
      fingerDraws: true,
      deliverAs: 'png',
      deliverScale: 1,
      deliverRough: false,
      zoom: 1,
      turn: 0,
    }),
    {
      name: 'true-nib.desk',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ nibs, nibInHand, calmWay, calmStrength, rubSize, fingerDraws, penSeen }) => ({
        ...{ nibs, nibInHand, calmWay, calmStrength, rubSize, fingerDraws, penSeen },
      }),
    },
  ),
);

export const nibOf = ({ nibs, nibInHand }: Desk): Nib => nibs[nibInHand] ?? NIBS[1];

export const calmOf = ({ calmWay, calmStrength }: Desk): Calm =>
  calmWay === 'raw' ? { way: 'raw' } : { way: 'even', strength: calmStrength };

const set = (change: Partial<Desk>): void => void useDesk.setState(change);

export const setStage = (stage: Stage): void => set({ stage, peeking: false });

export const takeTool = (tool: Tool): void => set({ tool, stage: 'ink' });

export const takeNib = (nibInHand: number): void => set({ nibInHand, tool: 'nib', stage: 'ink' });

/** Changes the nib in hand; each nib keeps its own size and colour. */
export function changeNib(change: Partial<Nib>): void {
  const { nibs, nibInHand } = useDesk.getState();
  set({ nibs: nibs.map((nib, k) => (k === nibInHand ? { ...nib, ...change } : nib)) });
}

export const setNibSize = (size: number): void => changeNib({ size: clamp(size, NIB_SIZES.least, NIB_SIZES.most) });

export const setRubSize = (size: number): void => set({ rubSize: clamp(size, RUB_SIZES.least, RUB_SIZES.most) });

/** Makes the tool in hand larger or smaller by a factor. */
export function scaleTool(factor: number): void {
  const desk = useDesk.getState();
  if (desk.tool === 'nib') setNibSize(Math.round(nibOf(desk).size * factor * 10) / 10);
  else if (desk.tool === 'rub') setRubSize(Math.round(desk.rubSize * factor));
}

export const rubLimits = RUB_SIZES;

export const toggleCalm = (): void => set({ calmWay: useDesk.getState().calmWay === 'raw' ? 'even' : 'raw' });

export const togglePage = (): void => set({ onlyPage: !useDesk.getState().onlyPage });
