import { type Change, draftChange, type Edit } from './change';
import type { EntityId } from '../kind';
import type { InkStyle } from '../nib';
import { copyUnder, isKind, isLaid, refsOf } from './kinds';
import type { LayerEntity } from './kinds/layer';
import { PageError } from '../gate';
import { freeName } from './names';
import { byOrder, find, ofKind, orderBetween, ordersBetween, type Page } from './page';

/** A layer where it stands in the stack, with what its groups make of it. */
export interface StackNode {
  readonly layer: LayerEntity;
  /** How many groups it lies in. */
  readonly depth: number;
  /** What lies in it, lowest first; only groups have any. */
  readonly children: readonly StackNode[];
  /** Hidden or locked itself, or by a group around it. */
  readonly isHidden: boolean;
  readonly isLocked: boolean;
}

const stacks = new WeakMap<object, readonly StackNode[]>();

/**
 * The stack of a page, lowest layer first. Layers whose group is not there, or that would lie in themselves, stand at the
 * outermost level: none is ever lost.
 */
export function stackOf(page: Page): readonly StackNode[] {
  const known = stacks.get(page.entities.rareKinds);
  if (known) return known;
  const stack = buildStack(ofKind(page, 'layer'));
  stacks.set(page.entities.rareKinds, stack);
  return stack;
}

function buildStack(layers: readonly LayerEntity[]): readonly StackNode[] {
  const groups = new Map(layers.filter(({ medium }) => medium === 'group').map((layer) => [layer.id, layer]));
  const inside = new Map<EntityId | undefined, LayerEntity[]>();
  for (const layer of layers) {
    const parent = parentIn(groups, layer);
    const siblings = inside.get(parent);
    if (siblings) siblings.push(layer);
    else inside.set(parent, [layer]);
  }
  const nodes = (parent: EntityId | undefined, depth: number, isHidden: boolean, isLocked: boolean): StackNode[] =>
    [...(inside.get(parent) ?? [])].sort(byOrder).map((layer) => {
      const hidden = isHidden || layer.hidden;
      const locked = isLocked || layer.locked;
      const children = layer.medium === 'group' ? nodes(layer.id, depth + 1, hidden, locked) : [];
      return { layer, depth, children, isHidden: hidden, isLocked: locked };
    });
  return nodes(undefined, 0, false, false);
}

/** The group a layer really lies in: nothing when following the groups outwards comes back to it. */
function parentIn(groups: ReadonlyMap<EntityId, LayerEntity>, layer: LayerEntity): EntityId | undefined {
  const first = layer.parentId === undefined ? undefined : groups.get(layer.parentId);
  const seen = new Set<EntityId>([layer.id]);
  for (let group = first; group; group = group.parentId === undefined ? undefined : groups.get(group.parentId)) {
    if (seen.has(group.id)) return undefined;
    seen.add(group.id);
  }
  return first?.id;
}

/** All nodes, groups before what lies in them, lowest first. */
export const nodesOf = (stack: readonly StackNode[]): StackNode[] =>
  stack.flatMap((node) => [node, ...nodesOf(node.children)]);

/** The rows of a list of layers: the highest first, every group above what lies in it. */
export const rowsOf = (stack: readonly StackNode[]): StackNode[] =>
  [...stack].reverse().flatMap((node) => [node, ...rowsOf(node.children)]);

/** The layers that hold something themselves, in the order in which they are painted, lowest first. */
export const layersOf = (page: Page): LayerEntity[] =>
  nodesOf(stackOf(page)).flatMap(({ layer }) => (layer.medium === 'group' ? [] : [layer]));

export const nodeOf = (page: Page, layerId: EntityId): StackNode | undefined =>
  nodesOf(stackOf(page)).find(({ layer }) => layer.id === layerId);

/** Where layers go: directly above a sibling, or, without one, to the bottom of the group (or of the whole stack). */
export interface StackPlace {
  readonly parentId?: EntityId;
  readonly above?: EntityId;
}

/** Puts a new layer above `aboveId` in its group, or on top of everything. Answers the layer to add. */
export function placedAbove(page: Page, layer: LayerEntity, aboveId: EntityId | undefined): LayerEntity {
  const above = aboveId === undefined ? undefined : nodeOf(page, aboveId);
  const parentId = above && siblingsOf(page, above.layer.id).parentId;
  const place: StackPlace = above ? { parentId, above: above.layer.id } : { above: stackOf(page).at(-1)?.layer.id };
  const [order] = ordersAt(page, place, 1, new Set());
  return parentId === undefined ? { ...layer, order } : { ...layer, order, parentId };
}

/**
 * Moves layers to a place, in the order in which they stand. Throws a PageError for layers or places that are not there, and
 * for a group that would lie in itself.
 */
export function moveInStack(page: Page, layerIds: readonly EntityId[], place: StackPlace): Change {
  const moved = outermost(page, layerIds);
  const ids = new Set(moved.map(({ layer }) => layer.id));
  const held = new Set(nodesOf(moved).map(({ layer }) => layer.id));
  if (place.parentId !== undefined && held.has(place.parentId)) throw new PageError('A group cannot lie in itself.');
  if (place.above !== undefined && held.has(place.above)) throw new PageError('A layer cannot lie above itself.');
  const orders = ordersAt(page, place, moved.length, ids);
  const edits = moved.map(({ layer }, k) => ({
    before: layer,
    after: without(
      { ...layer, order: orders[k], parentId: place.parentId },
      place.parentId === undefined && 'parentId',
    ),
  }));
  const label = moved.length === 1 ? `Move ${moved[0].layer.name}` : `Move ${moved.length} layers`;
  return draftChange(label, edits, place.parentId === undefined ? [] : [place.parentId]);
}

function ordersAt(
  page: Page,
  { parentId, above }: StackPlace,
  count: number,
  leaving: ReadonlySet<EntityId>,
): string[] {
  const parent = parentId === undefined ? undefined : nodeOf(page, parentId);
  if (parentId !== undefined && parent?.layer.medium !== 'group')
    throw new PageError('The group that the layers should go to is not on the page.');
  const siblings = (parent ? parent.children : stackOf(page)).filter(({ layer }) => !leaving.has(layer.id));
  const at = above === undefined ? -1 : siblings.findIndex(({ layer }) => layer.id === above);
  if (above !== undefined && at < 0) throw new PageError('The layer that they should lie above is not there.');
  const low = at < 0 ? undefined : siblings[at].layer.order;
  const high = siblings.slice(at + 1).find(({ layer }) => low === undefined || layer.order > low)?.layer.order;
  return ordersBetween(low, high, count);
}

/** The group of a layer, and the layers beside it, lowest first. */
export function siblingsOf(
  page: Page,
  layerId: EntityId,
): { readonly parentId: EntityId | undefined; readonly nodes: readonly StackNode[] } {
  const holds = (nodes: readonly StackNode[]) => nodes.some(({ layer }) => layer.id === layerId);
  const group = nodesOf(stackOf(page)).find(({ children }) => holds(children));
  return group ? { parentId: group.layer.id, nodes: group.children } : { parentId: undefined, nodes: stackOf(page) };
}

/** The chosen layers in the order in which they stand; those inside a chosen group go with it. Throws for unknown ones. */
export function outermost(page: Page, layerIds: readonly EntityId[]): StackNode[] {
  const wanted = new Set(layerIds);
  const found: StackNode[] = [];
  const collect = (nodes: readonly StackNode[]) => {
    for (const node of nodes) {
      if (wanted.has(node.layer.id)) found.push(node);
      else collect(node.children);
    }
  };
  collect(stackOf(page));
  for (const id of layerIds) if (!find(page, 'layer', id)) throw new PageError('This layer is no longer on the page.');
  if (found.length === 0) throw new PageError('Choose a layer first.');
  return found;
}

/** Puts layers into a new group where the highest of them stands. */
export function groupLayers(page: Page, layerIds: readonly EntityId[], group: LayerEntity): Change {
  const members = outermost(page, layerIds);
  const placed = placedAbove(page, group, members[members.length - 1].layer.id);
  const orders = ordersBetween(undefined, undefined, members.length);
  return draftChange('Group', [
    { before: null, after: placed },
    ...members.map(({ layer }, k) => ({ before: layer, after: { ...layer, parentId: group.id, order: orders[k] } })),
  ]);
}

/** Takes layers away with all that lies on them and in them. Throws a PageError when one is locked. */
export function deleteLayers(page: Page, layerIds: readonly EntityId[]): Change {
  const nodes = nodesOf(outermost(page, layerIds));
  for (const { layer, isLocked } of nodes) if (isLocked) throw new PageError(`${layer.name} is locked.`);
  const gone = new Set(nodes.map(({ layer }) => layer.id));
  const edits: Edit[] = [];
  for (const entity of page.entities)
    if (isLaid(entity) && gone.has(entity.layerId)) edits.push({ before: entity, after: null });
  edits.push(...nodes.map(({ layer }) => ({ before: layer, after: null })));
  const names = outermost(page, layerIds).map(({ layer }) => layer.name);
  return draftChange(names.length === 1 ? `Delete ${names[0]}` : `Delete ${names.length} layers`, edits);
}

/** The name that is wanted for a layer, or the next like it that none of the page's layers has. */
export const freeLayerName = (page: Page, wanted: string): string => freeName(layerNames(page), wanted);

const layerNames = (page: Page): string[] => ofKind(page, 'layer').map(({ name }) => name);

/**
 * Copies layers with all that lies on them, each copy directly above its layer. What the copies refer to among themselves they
 * refer to in the copy. `newId` gives the copies their ids.
 */
export function duplicateLayers(page: Page, layerIds: readonly EntityId[], newId: () => EntityId): Change {
  const edits: Edit[] = [];
  const copies = new Map<EntityId, EntityId>();
  const renamed = (id: EntityId): EntityId => copies.get(id) ?? id;
  const names = layerNames(page);
  const chosen = outermost(page, layerIds);
  const copied = nodesOf(chosen).map(({ layer }) => layer);
  for (const { id } of copied) copies.set(id, newId());
  const laid = [...page.entities].filter((entity) => isLaid(entity) && copies.has(entity.layerId));
  for (const { id } of laid) copies.set(id, newId());
  for (const entity of laid)
    for (const name of refsOf(entity).shares ?? []) if (!copies.has(name)) copies.set(name, newId());
  for (const layer of copied) {
    const copy = copyUnder(layer, renamed(layer.id), renamed);
    if (!isKind(copy, 'layer')) continue;
    if (!chosen.some((node) => node.layer === layer)) {
      edits.push({ before: null, after: copy });
      continue;
    }
    const name = freeName(names, layer.name);
    names.push(name);
    edits.push({ before: null, after: { ...placedAbove(page, copy, layer.id), name } });
  }
  for (const entity of laid) edits.push({ before: null, after: copyUnder(entity, renamed(entity.id), renamed) });
  return draftChange('Duplicate', edits);
}

/** Changes what is said about layers: name, hidden, locked, fade, mark … All of them get the same. */
export function changeLayers(
  page: Page,
  layerIds: readonly EntityId[],
  label: string,
  change: Partial<Omit<LayerEntity, 'kind' | 'id' | 'medium' | 'order' | 'parentId'>>,
): Change {
  const edits = layerIds.map((id) => {
    const before = find(page, 'layer', id);
    if (!before) throw new PageError('This layer is no longer on the page.');
    const missing = (['mark', 'standIn', 'style'] as const).filter(
      (name) => name in change && change[name] === undefined,
    );
    return {
      before,
      after: missing.reduce<LayerEntity>((layer, name) => without(layer, name), { ...before, ...change }),
    };
  });
  return draftChange(label, edits);
}

/**
 * Shows all lines of an ink layer in another way: no stroke changes, so it can be turned back at any time.
 * Throws a PageError for a layer that holds no ink.
 */
export function restyleLayer(page: Page, layerId: EntityId, style: InkStyle | undefined): Change {
  const layer = find(page, 'layer', layerId);
  if (layer?.medium !== 'ink') throw new PageError('Only the lines of an Ink layer can be restyled.');
  return changeLayers(page, [layerId], `Restyle ${layer.name}`, { style });
}

function without(layer: LayerEntity, name: 'parentId' | 'mark' | 'standIn' | 'style' | false): LayerEntity {
  if (name === false) return layer;
  const { [name]: _gone, ...rest } = layer;
  return rest;
}

/** An order key for something that goes on top of all that lies on a layer. */
export function topOrderOf(page: Page, layerId: EntityId): string | undefined {
  let top: string | undefined;
  for (const entity of page.entities)
    if (isLaid(entity) && entity.layerId === layerId && (top === undefined || entity.order > top)) top = entity.order;
  return top;
}

/** The key of a new layer at the top of the outermost level. */
export const topOfStack = (page: Page): string => orderBetween(stackOf(page).at(-1)?.layer.order, undefined);

export const bottomOfStack = (page: Page): string => orderBetween(undefined, stackOf(page)[0]?.layer.order);
