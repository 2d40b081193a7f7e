import {
  addPanels,
  bleedOver,
  bordersOn,
  changePanels,
  closedCourses,
  copyPanels,
  evenRows,
  layPanels,
  leastPanel,
  movePanels,
  panelEdits,
  panelGrid,
  panelsOn,
  plainBorder,
  readAsTheyLie,
  readInOrder,
  removePanels,
  restackPanels,
  shapedRing,
  type GridRow,
  type PageEdge,
  type StackEnd,
  type PanelShape,
  type SnapOptions,
} from '@true-nib/core/comic';
import { STRIDE } from '@true-nib/core/curve';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfFlat, type Box, type Matrix3x3 } from '@true-nib/core/math';
import {
  draftChange,
  find,
  laySheet,
  marginBox,
  mmToPx,
  sheetOf,
  trimBox,
  type Page,
  type SheetEntity,
} from '@true-nib/core/page';
import { asPanelRing, reshaped, type Panel, type PanelEntity } from '@true-nib/core/panel';
import type { Board } from '../../board';
import { selectionSlot } from '../../select';
import { newId } from '../../session';
import { setPanels, usePanels } from './panelStore';

/** mm by which a copy of a panel lies beside it. */
const BESIDE_MM = 8;

/** The box of a panel, borders left out. */
export const panelBox = ({ ring }: Panel): Box => boxOfFlat(ring.points, STRIDE);

/** The panels that are chosen and still there. */
export const chosenOn = (page: Page): PanelEntity[] =>
  usePanels.getState().chosen.flatMap((id) => find(page, 'panel', id) ?? []);

/** The gutter that panels are laid and cut with, page px. */
export const gutterOn = ({ size }: Page): number => mmToPx(usePanels.getState().across, size.ppi);

/** What panels snap to; nothing is near enough where they do not. */
export const snappingOn = (page: Page, reach: number): SnapOptions => ({
  panels: panelsOn(page),
  margins: marginBox(page),
  trim: trimBox(page),
  gutter: gutterOn(page),
  reach: usePanels.getState().snaps ? reach : -1,
});

/** What borders are moved among, as the switch for neighbours says. */
export const borderOptions = (page: Page) => ({ ...bordersOn(page), alone: !usePanels.getState().takesNeighbours });

/** Lays a grid within the margins, in place of the panels that there are: what lies in them goes along. */
export function layGrid({ session }: Board, rows: readonly GridRow[] = evenRows(usePanels.getState().rows)): void {
  const { across, down, takesInk } = usePanels.getState();
  session.attempt((page) => {
    const { ppi } = page.size;
    const gutters = { across: mmToPx(across, ppi), down: mmToPx(down, ppi) };
    const rings = panelGrid({ within: marginBox(page), rows, ...gutters }, leastPanel(ppi));
    return layPanels(page, rings, plainBorder(ppi), { reading: sheetOf(page).reads, newId, alone: !takesInk });
  });
  setPanels({ chosen: [] });
}

/** Adds a panel over the others, and chooses it. */
export function addPanel(board: Board, panel: Panel): void {
  const known = new Set(panelsOn(board.session.page).map(({ id }) => id));
  board.session.attempt((page) => addPanels(page, [panel], newId));
  const added = panelsOn(board.session.page).find(({ id }) => !known.has(id));
  if (added) setPanels({ chosen: [added.id] });
}

/** Makes a panel of each closed line and each area that is selected: these stay where they are. */
export function panelsFromSelected(board: Board): void {
  const { page } = board.session;
  const border = panelsOn(page).at(-1)?.border ?? plainBorder(page.size.ppi);
  const rings = closedCourses(board.of(selectionSlot).entities);
  if (rings.length === 0) return board.notice('Select a closed line or an area: a panel gets its shape.');
  board.session.attempt((now) =>
    addPanels(
      now,
      rings.map((ring) => ({ ring: asPanelRing(ring), border })),
      newId,
    ),
  );
}

/** Changes the chosen panels, or all of them where none is chosen. */
export function changeChosen({ session }: Board, label: string, change: (panel: PanelEntity) => PanelEntity): void {
  const chosen = chosenOn(session.page);
  const meant = chosen.length > 0 ? chosen : panelsOn(session.page);
  if (meant.length === 0) return;
  session.attempt((page) =>
    changePanels(
      page,
      meant.map(({ id }) => id),
      label,
      change,
    ),
  );
}

export const shapeChosen = (board: Board, shape: PanelShape): void =>
  changeChosen(board, 'Shape of the panel', (panel) => reshaped(panel, shapedRing(shape, panelBox(panel))));

/** Moves and sizes panels, with what lies in them where that is wanted. */
export function mapChosen({ session }: Board, label: string, map: Matrix3x3): void {
  const ids = chosenOn(session.page).map(({ id }) => id);
  if (ids.length === 0) return;
  const alone = !usePanels.getState().takesInk;
  session.attempt((page) => draftChange(label, movePanels(page, ids, map, { scaleWidth: false, alone })));
}

export function removeChosen({ session, notice }: Board): void {
  const ids = chosenOn(session.page).map(({ id }) => id);
  if (ids.length === 0) return notice('Choose a panel first.');
  session.attempt((page) => removePanels(page, ids));
  setPanels({ chosen: [] });
}

export function copyChosen({ session, notice }: Board): void {
  const ids = chosenOn(session.page).map(({ id }) => id);
  if (ids.length === 0) return notice('Choose a panel first.');
  const by = mmToPx(BESIDE_MM, session.page.size.ppi);
  const known = new Set(panelsOn(session.page).map(({ id }) => id));
  session.attempt((page) => copyPanels(page, ids, { x: by, y: by }, newId));
  setPanels({
    chosen: panelsOn(session.page)
      .filter(({ id }) => !known.has(id))
      .map(({ id }) => id),
  });
}

/** Lets the chosen panels bleed over an edge of the page. */
export function bleedChosen({ session }: Board, edge: PageEdge): void {
  const ids = chosenOn(session.page).map(({ id }) => id);
  session.attempt((page) => {
    const changed = ids.reduce<readonly PanelEntity[]>((panels, id) => {
      const over = bleedOver(panels, id, edge, { ...bordersOn(page), page: page.size });
      return panels.map((panel) => over.find((one) => one.id === panel.id) ?? panel);
    }, panelsOn(page));
    const edits = panelEdits(page, changed).filter(({ before, after }) => before !== after);
    return draftChange('Bleed over the edge', edits);
  });
}

/** Puts the chosen panels over all others, or under them. */
export function restackChosen({ session }: Board, end: StackEnd): void {
  const ids = chosenOn(session.page).map(({ id }) => id);
  if (ids.length > 0) session.attempt((page) => restackPanels(page, ids, end));
}

/** One more panel is touched, to be read after those touched before. */
export function touchInOrder({ session }: Board, id: EntityId): void {
  const { touched } = usePanels.getState();
  const next = touched.includes(id) ? [id] : [...touched, id];
  setPanels({ touched: next });
  session.attempt((page) => readInOrder(page, next, sheetOf(page).reads));
}

export function orderAsTheyLie({ session }: Board): void {
  setPanels({ touched: [] });
  if (panelsOn(session.page).some(({ reads }) => reads !== undefined)) session.attempt(readAsTheyLie);
}

export const changeSheet = (
  { session }: Board,
  change: Partial<Pick<SheetEntity, 'reads' | 'bleed' | 'margin'>>,
): boolean => session.attempt((page) => laySheet(page, change));

/** Why something of the core cannot be done, in a sentence. Throws what is no reason. */
export function reasonOf(error: unknown): string {
  if (error instanceof PageError) return error.message;
  throw error;
}
