import type { EntityId } from '@true-nib/core/kind';
import type { ShapeKind, ShapeSettings } from '@true-nib/core/shapes';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { keptHere } from '../base/keptHere';
import { nibInHand, setNibSize, setRubSize, takeNibById, useRack } from '../nibs/rackStore';

export type Stage = 'rough' | 'guides' | 'ink' | 'mend' | 'finish';
export type Tool =
  'nib' | 'rub' | 'shape' | 'path' | 'select' | 'points' | 'lift' | MendingTool | 'guide' | 'rake' | 'depth';
/** Tools that mend lines, besides their points. */
export type MendingTool =
  'snip' | 'tug' | 'retrace' | 'reweigh' | 'swell' | 'bridge' | 'tidy' | 'ease' | 'pool' | 'knife';

export type DeskSheet = 'keys' | 'find' | 'page' | 'ruler';

/** What lies on the desk beside the page: the stage, the tool in hand and its settings. None of it is part of the page. */
export interface Desk {
  readonly stage: Stage;
  readonly tool: Tool;
  /** What the shape tool makes of a drag. */
  readonly shape: ShapeKind;
  readonly shapeSettings: ShapeSettings;
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

export const useDesk = create<Desk>()(
  persist(
    (): Desk => ({
      stage: 'ink',
      tool: 'nib',
      shape: 'line',
      shapeSettings: { fromCentre: false, regular: false, rounding: 0, corners: 5, inner: 0.45, bend: 0.5 },
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
      borrowed: {
        nib: 'rub',
        rub: 'nib',
        shape: 'rub',
        path: 'rub',
        select: 'nib',
        points: 'nib',
        lift: 'nib',
        ...{ guide: 'nib', rake: 'guide', depth: 'nib' },
        ...{ snip: 'nib', tug: 'nib', retrace: 'nib', reweigh: 'nib', swell: 'nib' },
        ...{ bridge: 'nib', tidy: 'snip', ease: 'nib', pool: 'nib', knife: 'nib' },
      },
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
      storage: createJSONStorage(() => keptHere),
      // What was kept before a tool was known has nothing to borrow for it.
      merge: (kept, fresh) => {
        const known = typeof kept === 'object' && kept !== null ? kept : {};
        const borrowed = 'borrowed' in known && typeof known.borrowed === 'object' ? known.borrowed : {};
        return { ...fresh, ...known, borrowed: { ...fresh.borrowed, ...borrowed } };
      },
      partialize: (desk) => ({
        ...{
          fingerDraws: desk.fingerDraws,
          penSeen: desk.penSeen,
          shape: desk.shape,
          shapeSettings: desk.shapeSettings,
        },
        ...{ sideFolded: desk.sideFolded, pxPerMm: desk.pxPerMm, borrowed: desk.borrowed, navigator: desk.navigator },
      }),
    },
  ),
);

const set = (change: Partial<Desk>): void => void useDesk.setState(change);

/** Goes to a stage, with a tool that is at home there. */
export function setStage(stage: Stage): void {
  const { tool } = useDesk.getState();
  const isAtHome = homeOf(tool) === stage || stage === 'rough' || stage === 'finish';
  set({ stage, peeking: false, tool: isAtHome ? tool : FIRST_TOOLS[stage] });
}

/** The stage in which a tool is at home. */
const homeOf = (tool: Tool): Stage => {
  if (tool === 'guide' || tool === 'rake' || tool === 'depth') return 'guides';
  return tool === 'nib' || tool === 'rub' || tool === 'shape' || tool === 'path' || tool === 'select' ? 'ink' : 'mend';
};

/** The tool that is taken up where the one in hand is not at home. */
const FIRST_TOOLS = { guides: 'guide', ink: 'nib', mend: 'snip' } as const;

export const takeTool = (tool: Tool): void => set({ tool, stage: homeOf(tool) });

/** Takes a nib in hand. Shapes and paths go on with it. */
export function takeNib(id: string): void {
  takeNibById(id);
  const { tool } = useDesk.getState();
  takeTool(tool === 'shape' || tool === 'path' ? tool : 'nib');
}

/** Makes the tool in hand larger or smaller by a factor. */
export function scaleTool(factor: number): void {
  const { nib, twin, unit } = nibInHand(useRack.getState());
  const places = unit === 'mm' ? 1000 : 10;
  const scaled = (size: number) => Math.round(size * factor * places) / places;
  if (useDesk.getState().tool === 'rub') setRubSize(unit === 'mm' ? scaled(twin.size) : Math.round(twin.size * factor));
  else setNibSize(scaled(nib.size));
}

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
  set({ lender: lender ?? own, tool, stage: homeOf(tool) });
}

/** Gives the borrowed tool back. */
export function giveBack(): void {
  const { lender } = useDesk.getState();
  if (lender !== undefined) set({ tool: lender, lender: undefined, stage: homeOf(lender) });
}
