import { STRIDE, type Spine } from '../curve';
import { framesOf, isDrawn } from '../drawn';
import { PageError } from '../gate';
import { INK_BLACK } from '../nib';
import type { EntityId } from '../kind';
import { boxMiddle, boxOfFlat, projectiveOf, translation, type Point } from '../math';
import {
  byOrder,
  copyUnder,
  draftChange,
  find,
  freeLayerName,
  mmToPx,
  newLayer,
  nodeOf,
  ofKind,
  orderBetween,
  ordersBetween,
  topOfStack,
  type Change,
  type Edit,
  type LayerEntity,
  type Page,
  type Reading,
} from '../page';
import { reshaped, type Panel, type PanelBorder, type PanelEntity } from '../panel';
import type { BorderOptions } from './borders';
import { cutRing } from './cut';
import { leastPanel } from './grid';
import { joinedRing } from './join';
import { begunAt, lyingIn, movePanels, putIn, putInEdits } from './lying';
import { readingOrder } from './order';
import { checkPanelRing } from './sides';

/** mm of gutter over which a border takes along the ones that face it. */
const WIDEST_GUTTER_MM = 15;
/** mm that the border of a new panel is wide. */
const BORDER_MM = 0.6;

/** What borders of a page are moved among. */
export const bordersOn = ({ size }: Page): BorderOptions => ({
  widest: mmToPx(WIDEST_GUTTER_MM, size.ppi),
  least: leastPanel(size.ppi),
});

/** The border that a new panel has, at a ppi. */
export const plainBorder = (ppi: number): PanelBorder => ({
  nib: {
    ...{ name: 'Border', size: mmToPx(BORDER_MM, ppi), thinnest: 1, taperIn: 0, taperOut: 0 },
    color: INK_BLACK,
  },
});

/** The layers that panels lie on: whoever draws goes to another one. */
export const panelLayers = (page: Page): ReadonlySet<EntityId> =>
  new Set(ofKind(page, 'panel').map(({ layerId }) => layerId));

/** The panels of a page, lowest first. */
export const panelsOn = (page: Page): PanelEntity[] => ofKind(page, 'panel').sort(byOrder);

/** The layer that panels go to: that of the panels there are, or one to be added over all others. */
function panelLayer(
  page: Page,
  newId: () => EntityId,
): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } {
  const [last] = panelsOn(page).reverse();
  const layer = last && find(page, 'layer', last.layerId);
  if (layer) {
    if (nodeOf(page, layer.id)?.isLocked) throw new PageError(`${layer.name} is locked.`);
    return { layer, edits: [] };
  }
  const name = freeLayerName(page, 'Panels');
  const added = newLayer({ id: newId(), medium: 'ink', name, order: topOfStack(page) });
  return { layer: added, edits: [{ before: null, after: added }] };
}

/** Adds panels over those there are, in their order. Throws a PageError for one that is folded over or under 2 mm. */
export function addPanels(page: Page, panels: readonly Panel[], newId: () => EntityId): Change {
  for (const { ring } of panels) checkPanelRing(ring, leastPanel(page.size.ppi));
  const { layer, edits } = panelLayer(page, newId);
  const old = panelsOn(page);
  const orders = ordersBetween(old.at(-1)?.order, undefined, panels.length);
  const added = panels.map((panel, k): PanelEntity => ({
    kind: 'panel',
    id: newId(),
    layerId: layer.id,
    order: orders[k],
    ...panel,
  }));
  const label = panels.length === 1 ? 'Panel' : `${panels.length} panels`;
  return draftChange(label, [...edits, ...added.map((after): Edit => ({ before: null, after }))]);
}

/**
 * Gives the panels of a page other rings, in the order in which they are read: those that there are too few of are added, with the
 * border of the last, and those that there are too many of are taken away. What lies in a panel goes along with its middle, unless
 * `alone` is said.
 */
export function layPanels(
  page: Page,
  rings: readonly Spine[],
  border: PanelBorder | undefined,
  {
    reading,
    newId,
    alone = false,
  }: { readonly reading: Reading; readonly newId: () => EntityId; readonly alone?: boolean },
): Change {
  const old = readingOrder(panelsOn(page), reading);
  const kept = old.slice(0, rings.length);
  const shifted = kept.flatMap((panel, k) => {
    const [from, to] = [boxMiddle(boxOfFlat(panel.ring.points, STRIDE)), boxMiddle(boxOfFlat(rings[k].points, STRIDE))];
    const inside = alone
      ? []
      : movePanels(page, [panel.id], projectiveOf(translation(to.x - from.x, to.y - from.y)), MOVED);
    const ownless = inside.filter(({ before }) => before?.id !== panel.id);
    const { reads: _read, ...rest } = panel;
    return [{ before: panel, after: reshaped(rest, rings[k]) }, ...ownless];
  });
  const likeLast = kept.at(-1)?.border ?? border;
  const added = rings.slice(kept.length).map((ring): Panel => ({ ring, ...(likeLast && { border: likeLast }) }));
  const more = addPanels(page, added, newId).edits;
  for (const ring of rings) checkPanelRing(ring, leastPanel(page.size.ppi));
  return draftChange(`${rings.length} panels`, [...shifted, ...removal(page, old.slice(rings.length)), ...more]);
}

const MOVED = { scaleWidth: false } as const;

/** Takes panels away. What lies in them stays, and lies in none. */
export function removePanels(page: Page, ids: readonly EntityId[]): Change {
  const panels = ids.flatMap((id) => find(page, 'panel', id) ?? []);
  if (panels.length === 0) throw new PageError('Choose a panel first.');
  return draftChange(
    panels.length === 1 ? 'Delete the panel' : `Delete ${panels.length} panels`,
    removal(page, panels),
  );
}

const removal = (page: Page, panels: readonly PanelEntity[]): Edit[] => [
  ...putInEdits(lyingIn(page, new Set(panels.map(({ id }) => id))), undefined),
  ...panels.map((before) => ({ before, after: null })),
];

function panelNamed(page: Page, id: EntityId): PanelEntity {
  const panel = find(page, 'panel', id);
  if (!panel) throw new PageError('This panel is no longer on the page.');
  return panel;
}

/**
 * Cuts a panel in two along the line through two places, with a gutter of page px between. The part that is read first stays the
 * panel that it was; what was begun in the other one lies in that now.
 */
export function cutPanel(
  page: Page,
  id: EntityId,
  cut: { readonly from: Point; readonly to: Point; readonly gutter: number; readonly reading: Reading },
  newId: () => EntityId,
): Change {
  const panel = panelNamed(page, id);
  const rings = cutRing(panel.ring, { ...cut, least: leastPanel(page.size.ppi) });
  const above = panelsOn(page).find((other) => byOrder(other, panel) > 0);
  const { reads: _read, ...rest } = panel;
  const made: PanelEntity = { ...rest, id: newId(), order: orderBetween(panel.order, above?.order) };
  const parts = rings.map((ring): PanelEntity => reshaped(made, ring));
  const [first, second] = readingOrder(parts, cut.reading);
  const kept = reshaped(panel, first.ring);
  const frames = framesOf({
    ...page,
    entities: page.entities.edited([
      [kept.id, kept],
      [second.id, second],
    ]),
  });
  const moved = lyingIn(page, new Set([id])).filter(
    (one) => (isDrawn(one) || one.kind === 'guide') && frames.panelAt(begunAt(one))?.id === second.id,
  );
  return draftChange('Cut the panel', [
    { before: panel, after: kept },
    { before: null, after: second },
    ...moved.map((before) => ({ before, after: putIn(before, second.id) })),
  ]);
}

/** Makes panels one, two at a time; what lay in them lies in that one. The lowest stays the panel that it was. */
export function joinPanels(page: Page, ids: readonly EntityId[]): Change {
  const panels = panelsOn(page).filter(({ id }) => ids.includes(id));
  if (panels.length < 2) throw new PageError('Choose two panels to join.');
  const [first, ...others] = panels;
  const joined = joinedAll(first, others, bordersOn(page).widest);
  const gone = new Set(others.map(({ id }) => id));
  return draftChange('Join panels', [
    { before: first, after: reshaped(first, joined) },
    ...putInEdits(lyingIn(page, gone), first.id),
    ...others.map((before) => ({ before, after: null })),
  ]);
}

/** The ring round panels that lie side by side, in whatever order they do. */
function joinedAll(first: PanelEntity, others: readonly PanelEntity[], widest: number): Spine {
  let whole: Panel = first;
  const left = [...others];
  while (left.length > 0) {
    let failure: unknown;
    const next = left.findIndex((other) => {
      try {
        whole = { ring: joinedRing(whole, other, widest) };
        return true;
      } catch (error) {
        failure = error;
        return false;
      }
    });
    if (next < 0) throw failure;
    left.splice(next, 1);
  }
  return whole.ring;
}

/** The edits by which panels of a page become others. */
export const panelEdits = (page: Page, changed: readonly PanelEntity[]): Edit[] =>
  changed.flatMap((after) => {
    const before = find(page, 'panel', after.id);
    return before ? [{ before, after }] : [];
  });

/** Sets borders, gutters or places in the order of reading. */
export const changePanels = (
  page: Page,
  ids: readonly EntityId[],
  label: string,
  change: (panel: PanelEntity) => PanelEntity,
): Change =>
  draftChange(
    label,
    ids.map((id) => {
      const before = panelNamed(page, id);
      return { before, after: change(before) };
    }),
  );

/** Panels are read in this order; those that it does not name after the one that they were read after. */
export function readInOrder(page: Page, ids: readonly EntityId[], reading: Reading): Change {
  const others = readingOrder(panelsOn(page), reading).filter(({ id }) => !ids.includes(id));
  const all = [...ids.map((id) => panelNamed(page, id)), ...others];
  return draftChange(
    'Reading order',
    all.map((before, k) => ({ before, after: { ...before, reads: k + 1 } })),
  );
}

/** Panels are read as they lie again. */
export function readAsTheyLie(page: Page): Change {
  const said = panelsOn(page).filter(({ reads }) => reads !== undefined);
  return draftChange(
    'Reading order',
    said.map((before) => {
      const { reads: _said, ...after } = before;
      return { before, after };
    }),
  );
}

/** Copies panels with all that lies in them, moved by page px, over all others. */
export function copyPanels(page: Page, ids: readonly EntityId[], by: Point, newId: () => EntityId): Change {
  const panels = ids.map((id) => panelNamed(page, id));
  const moved = movePanels(page, ids, projectiveOf(translation(by.x, by.y)), MOVED).flatMap(({ after }) => after ?? []);
  const names = new Map(moved.map((one) => [one.id, newId()]));
  const renamed = (id: EntityId) => names.get(id) ?? id;
  const orders = ordersBetween(panelsOn(page).at(-1)?.order, undefined, panels.length);
  const edits = moved.map((one, k): Edit => {
    const copy = copyUnder(one, renamed(one.id), renamed);
    return { before: null, after: copy.kind === 'panel' ? { ...copy, order: orders[k] } : copy };
  });
  return draftChange(panels.length === 1 ? 'Copy the panel' : `Copy ${panels.length} panels`, edits);
}
