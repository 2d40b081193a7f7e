import type { EntityId } from '@true-nib/core/kind';
import { keptStore } from '../base';
import type { Desk } from './deskState';
import { workbench } from './workbench';

/** CSS Values and Units Level 4, §6.2: an inch is 96 px. Screens differ. */
const CSS_PX_PER_MM = 96 / 25.4;

export const useDesk = keptStore<Desk>({
  name: 'true-nib.desk',
  version: 2,
  fresh: {
    stage: 'ink',
    tool: 'nib',
    roughId: undefined,
    layerId: undefined,
    chosenLayers: [],
    solo: [],
    standIns: true,
    pxGrid: false,
    stackOpen: false,
    sideFolded: false,
    peeking: false,
    onlyPage: false,
    isDrawing: false,
    overBorders: false,
    toolBefore: undefined,
    penSeen: false,
    fingerDraws: true,
    zoom: 1,
    turn: 0,
    flipped: false,
    pxPerMm: CSS_PX_PER_MM,
    borrowed: {},
    lender: undefined,
    sheet: undefined,
    navigator: true,
  },
  kept: ['pxGrid', 'fingerDraws', 'penSeen', 'sideFolded', 'pxPerMm', 'borrowed', 'navigator'],
});

const set = (change: Partial<Desk>): void => void useDesk.setState(change);

/** Goes to a stage, with a tool that is at home there. */
export function setStage(id: string): void {
  const stage = workbench.stage(id);
  if (!stage) return;
  const { tool, toolBefore } = useDesk.getState();
  const isOwn = (one: string | undefined) => stage.tools.some(({ id: own }) => own === one);
  const home = workbench.homeOf(tool);
  const next = [tool, home?.isAside ? toolBefore : undefined, stage.tools[0]?.id].find(isOwn) ?? tool;
  set({ stage: id, peeking: false, tool: next, ...(!home?.isAside && { toolBefore: tool }) });
}

/** Goes back from a stage that one only looks in at to the tool that was in hand before. */
export function leaveAside(): void {
  const { toolBefore } = useDesk.getState();
  const drawing = workbench.tools.find(({ takesNib }) => takesNib)?.id;
  const back = toolBefore !== undefined && workbench.tool(toolBefore) ? toolBefore : drawing;
  if (back !== undefined) takeTool(back);
}

const homeOf = (tool: string): string => workbench.homeOf(tool)?.id ?? useDesk.getState().stage;

export const takeTool = (tool: string): void => set({ tool, stage: homeOf(tool) });

/** The tool that is used now: the one that is borrowed, else the one in hand. */
export const toolInHand = ({ tool, lender }: Pick<Desk, 'tool' | 'lender'>): string => lender ?? tool;

/** Whether a tool is in hand in the stage in which it is at home; one that is borrowed meanwhile leaves it there. */
export const isInHand = (desk: Pick<Desk, 'stage' | 'tool' | 'lender'>, tool: string): boolean =>
  toolInHand(desk) === tool && homeOf(tool) === desk.stage;

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

/** Borrows another tool for as long as a key is down: the one that goes with the tool in hand. */
export function borrowTool(): void {
  const { tool, lender, borrowed } = useDesk.getState();
  const own = lender ?? tool;
  const other = borrowed[own] ?? workbench.tool(own)?.borrows;
  if (other !== undefined && workbench.tool(other)) set({ lender: own, tool: other, stage: homeOf(other) });
}

/** Gives the borrowed tool back. */
export function giveBack(): void {
  const { lender } = useDesk.getState();
  if (lender !== undefined) set({ tool: lender, lender: undefined, stage: homeOf(lender) });
}
