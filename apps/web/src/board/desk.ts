import { NIB_SIZES, NIBS } from '@true-nib/core/ink';
import { clamp } from '@true-nib/core/math';
import type { Calm, EntityId, Nib } from '@true-nib/core/page';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

export type Stage = 'rough' | 'ink' | 'finish';
export type Tool = 'nib' | 'rub' | 'lift' | 'select';

export type DeskSheet = 'keys' | 'find' | 'page' | 'ruler';

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
  /** The layer that is drawn on; the highest Ink layer where none was chosen. */
  readonly layerId: EntityId | undefined;
  /** Further layers chosen together with it, for what is done to several at once. */
  readonly chosenLayers: readonly EntityId[];
  /** Only these layers are shown; empty for all. Never part of the page. */
  readonly solo: readonly EntityId[];
  /** Whether layers show their stand-in colours. */
  readonly standIns: boolean;
  /** The stack lies open on a phone; the column beside the page is folded on a wide screen. */
  readonly stackOpen: boolean;
  readonly sideFolded: boolean;
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
  readonly flipped: boolean;
  /** CSS px of this screen that are 1 mm long, measured with a ruler. */
  readonly pxPerMm: number;
  /** The tool that a hold key borrows, for each tool in hand. */
  readonly borrowed: Readonly<Record<Tool, Tool>>;
  /** The tool to go back to while another one is borrowed. */
  readonly lender: Tool | undefined;
  /** How lines are selected: by a rectangle, a loop or by touching them; `selectWhole` leaves out those that reach outside. */
  readonly selectBy: 'rect' | 'loop' | 'touch';
  readonly selectWhole: boolean;
  /** How the frame of a selection is dragged; Shift and Alt turn the first two around. */
  readonly proportional: boolean;
  readonly fromCentre: boolean;
  readonly freeCorners: boolean;
  /** Page px by which selected pixels grow or shrink at one touch. */
  readonly growBy: number;
  /** Whether weights grow and shrink with what is transformed. */
  readonly scaleWidth: boolean;
  /** A sheet that a key has asked for. */
  readonly sheet: DeskSheet | undefined;
  readonly navigator: boolean;
}

/** CSS Values and Units Level 4, §6.2: an inch is 96 px. Screens differ. */
const CSS_PX_PER_MM = 96 / 25.4;
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
      layerId: undefined,
      chosenLayers: [],
      solo: [],
      standIns: true,
      stackOpen: false,
      sideFolded: false,
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
      flipped: false,
      pxPerMm: CSS_PX_PER_MM,
      borrowed: { nib: 'rub', rub: 'nib', lift: 'nib', select: 'nib' },
      lender: undefined,
      selectBy: 'loop',
      selectWhole: false,
      proportional: false,
      fromCentre: false,
      freeCorners: false,
      growBy: 2,
      scaleWidth: false,
      sheet: undefined,
      navigator: true,
    }),
    {
      name: 'true-nib.desk',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ nibs, nibInHand, calmWay, calmStrength, rubSize, ...desk }) => ({
        ...{ nibs, nibInHand, calmWay, calmStrength, rubSize, fingerDraws: desk.fingerDraws, penSeen: desk.penSeen },
        ...{ sideFolded: desk.sideFolded, pxPerMm: desk.pxPerMm, borrowed: desk.borrowed, navigator: desk.navigator },
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

/** Takes a layer in hand, alone. */
export const takeLayer = (layerId: EntityId): void => set({ layerId, chosenLayers: [] });

/** Adds a layer to those chosen, or leaves it out again; the one in hand stays. */
export function chooseLayer(layerId: EntityId): void {
  const { chosenLayers } = useDesk.getState();
  set({
    chosenLayers: chosenLayers.includes(layerId)
      ? chosenLayers.filter((id) => id !== layerId)
      : [...chosenLayers, layerId],
  });
}

/** Borrows another tool for as long as a key is down. */
export function borrowTool(tool: Tool): void {
  const { tool: own, lender } = useDesk.getState();
  set({ lender: lender ?? own, tool });
}

/** Gives the borrowed tool back. */
export function giveBack(): void {
  const { lender } = useDesk.getState();
  if (lender !== undefined) set({ tool: lender, lender: undefined });
}
