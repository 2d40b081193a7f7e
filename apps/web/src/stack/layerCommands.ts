import {
  changeLayers,
  deleteLayers,
  duplicateLayers,
  freeLayerName,
  groupLayers,
  inkToWash,
  layersOf,
  mediumInWords,
  mergedLayers,
  mergeLayers,
  newLayer,
  placedAbove,
  visibleLayers,
  withTheOneBelow,
  type Change,
  type LayerEntity,
  type Medium,
  type Page,
} from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { breath } from '../base';
import { sayError } from '../look';
import { newId, type PageSession } from '../session';
import { useDesk, layerInHand, type Board } from '../board';
import { washingSlot } from '../wash';

type Session = Pick<Board, 'session'>;
type Merging = Pick<Board, 'session' | 'of'>;

/** The layers that a command for several is meant for: those chosen, with the one in hand. */
export function chosenIds(page: Page): readonly EntityId[] {
  const { layerId, chosenLayers } = useDesk.getState();
  const hand = layerInHand(page, layerId)?.layer.id;
  const known = chosenLayers.filter((id) => page.entities.get(id)?.kind === 'layer');
  return hand === undefined || known.includes(hand) ? known : [hand, ...known];
}

const NAMES: Readonly<Record<Medium, string>> = { ink: 'Inks', wash: 'Wash', rough: 'Rough', group: 'Group' };

/** Adds a layer above the one in hand and takes it in hand. */
export function addLayer({ session }: Session, medium: 'ink' | 'wash' | 'group'): void {
  const { page } = session;
  const name = freeLayerName(page, NAMES[medium]);
  const layer = placedAbove(
    page,
    newLayer({ id: newId(), medium, name, order: 'a0' }),
    layerInHand(page, useDesk.getState().layerId)?.layer.id,
  );
  if (session.commit(`Add ${mediumInWords(medium)} layer`, [{ before: null, after: layer }]) && medium !== 'group')
    useDesk.setState({ layerId: layer.id, chosenLayers: [] });
}

const onChosen =
  (draft: (page: Page, ids: readonly EntityId[]) => Change) =>
  ({ session }: Session): boolean =>
    session.attempt((page) => draft(page, chosenIds(page)));

export const duplicateChosen = onChosen((page, ids) => duplicateLayers(page, ids, newId));

export const groupChosen = onChosen((page, ids) =>
  groupLayers(
    page,
    ids,
    newLayer({ id: newId(), medium: 'group', name: freeLayerName(page, NAMES.group), order: 'a0' }),
  ),
);

export const deleteChosen = (board: Session): boolean => letGo(onChosen(deleteLayers)(board));

/** Merges layers. Pixels take the worker a moment; for lines it is done at once. */
async function merge({ session, of }: Merging, which: (page: Page) => readonly EntityId[]): Promise<boolean> {
  const ids = idsOr(session, which);
  if (!ids) return false;
  const layers = washed(session.page, ids);
  if (!layers) return letGo(await mergeLines(session, ids));
  const deed = { deed: 'merge', layerIds: layers.map(({ id }) => id) } as const;
  return letGo(await of(washingSlot).do('Merge', layers[0].id, deed, (page, tiles) => mergeLayers(page, ids, tiles)));
}

/** Thousands of lines are merged in two breaths, after one for the button: found, then laid down. */
async function mergeLines(session: PageSession, ids: readonly EntityId[]): Promise<boolean> {
  await breath();
  const { page } = session;
  let merged: Change | undefined;
  try {
    merged = mergeLayers(page, ids);
  } catch (error) {
    sayError(error);
    return false;
  }
  await breath();
  return session.page === page ? session.make(merged) : session.attempt((now) => mergeLayers(now, ids));
}

function idsOr({ page }: PageSession, which: (page: Page) => readonly EntityId[]): readonly EntityId[] | undefined {
  try {
    return which(page);
  } catch (error) {
    sayError(error);
    return undefined;
  }
}

/** The Wash layers that would be merged, lowest first; nothing when they hold lines, or cannot be merged at all. */
function washed(page: Page, ids: readonly EntityId[]): readonly LayerEntity[] | undefined {
  try {
    const layers = mergedLayers(page, ids);
    return layers[0].medium === 'wash' ? layers : undefined;
  } catch {
    return undefined;
  }
}

export const mergeChosen = (board: Merging): Promise<boolean> => merge(board, chosenIds);

export const mergeDown = (board: Merging): Promise<boolean> =>
  merge(board, (page) => withTheOneBelow(page, layerInHand(page, useDesk.getState().layerId)?.layer.id ?? ''));

export const mergeVisible = (board: Merging): Promise<boolean> => merge(board, visibleLayers);

/** Makes pixels of the Ink layer in hand, on a Wash above it; its lines stay, hidden. */
export async function inkToPixels({ session, of, notice }: Merging & Pick<Board, 'notice'>): Promise<boolean> {
  const layer = layerInHand(session.page, useDesk.getState().layerId)?.layer;
  const washId = newId();
  try {
    // What stands against it is said before anything is painted.
    inkToWash(session.page, layer?.id ?? '', washId, []);
  } catch (error) {
    sayError(error);
    return false;
  }
  if (!layer) return false;
  const isDone = await of(washingSlot).do('Ink to pixels', washId, { deed: 'ink', from: layer.id }, (page, tiles) =>
    inkToWash(page, layer.id, washId, tiles),
  );
  if (!isDone) return false;
  useDesk.setState({ layerId: washId, chosenLayers: [] });
  notice(`${layer.name} is kept with its lines, hidden.`);
  return true;
}

/** Lets go of the layers chosen, some of which are no longer there. */
function letGo(isDone: boolean): boolean {
  if (isDone) useDesk.setState({ chosenLayers: [] });
  return isDone;
}

/** Changes what is said about some layers. */
export const tellLayers = (
  { session }: Session,
  ids: readonly EntityId[],
  label: string,
  change: Parameters<typeof changeLayers>[3],
): boolean => session.attempt((page) => changeLayers(page, ids, label, change));

/** Shows only this layer, or all again. */
export function toggleSolo({ id }: LayerEntity): void {
  const { solo } = useDesk.getState();
  useDesk.setState({ solo: solo.includes(id) ? solo.filter((other) => other !== id) : [...solo, id] });
}

/** Takes the next layer above (1) or below (−1) in hand; groups are walked past. */
export function walkStack({ session }: Session, step: 1 | -1): void {
  const layers = layersOf(session.page);
  const hand = layerInHand(session.page, useDesk.getState().layerId)?.layer.id;
  const next = layers[layers.findIndex(({ id }) => id === hand) + step];
  if (next) useDesk.setState({ layerId: next.id, chosenLayers: [] });
}
