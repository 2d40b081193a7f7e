import { type Change, draftChange, type Edit } from './change';
import type { EntityId } from '../kind';
import { isLaid, laidDown, type LaidEntity } from './kinds';
import type { LayerEntity } from './kinds/layer';
import { PageError } from '../gate';
import { mediumInWords } from './layer';
import { byOrder, ofKind, ordersBetween, type Page } from './page';
import { nodesOf, outermost, siblingsOf, stackOf, topOrderOf, type StackNode } from './stack';
import { washEdits, washTilesOf, type TileContent } from './wash';

/**
 * Merges layers into the lowest of them, which keeps its name and place; groups are merged with all that lies in them.
 * What differs in style is laid down in the strokes. Throws a PageError, and says which and why, where merging would change
 * how the page looks (faded layers, hidden ones among others, fades of groups, edges, something seen in between), for locked
 * layers and for different kinds. Pixels are put
 * together by who can paint them: for wash layers `washed` says what the target's tiles are to hold.
 */
export function mergeLayers(page: Page, layerIds: readonly EntityId[], washed?: readonly TileContent[]): Change {
  const [target, ...others] = mergedLayers(page, layerIds);
  const nodes = nodesOf(outermost(page, layerIds));
  if (target.medium === 'wash') return mergeWash(page, nodes, target, others, washed);
  const laid = new Map<EntityId, LaidEntity[]>();
  const merged = new Set([target, ...others].map(({ id }) => id));
  for (const entity of page.entities) {
    if (!isLaid(entity) || !merged.has(entity.layerId)) continue;
    const list = laid.get(entity.layerId);
    if (list) list.push(entity);
    else laid.set(entity.layerId, [entity]);
  }
  const edits: Edit[] = [];
  const isPlain = target.style === undefined && others.every(({ style }) => style === undefined);
  if (!isPlain)
    for (const entity of laid.get(target.id) ?? []) edits.push({ before: entity, after: baked(entity, target) });
  const moving = others.flatMap((layer) =>
    (laid.get(layer.id) ?? []).sort(byOrder).map((entity) => ({ entity, layer })),
  );
  const orders = ordersBetween(topOrderOf(page, target.id), undefined, moving.length);
  moving.forEach(({ entity, layer }, k) =>
    edits.push({ before: entity, after: { ...baked(entity, layer), layerId: target.id, order: orders[k] } }),
  );
  if (!isPlain) edits.push({ before: target, after: plain(target) });
  edits.push(...reachingEdits(page, target, others));
  edits.push(...emptied(nodes, target).map((layer) => ({ before: layer, after: null })));
  return draftChange(
    `Merge into ${target.name}`,
    edits.filter(({ before, after }) => before !== after),
  );
}

/** The layers that merging takes, lowest first: all are merged into the first. Throws as `mergeLayers` does. */
export function mergedLayers(page: Page, layerIds: readonly EntityId[]): readonly [LayerEntity, ...LayerEntity[]] {
  const leaves = nodesOf(outermost(page, layerIds)).filter(({ layer }) => layer.medium !== 'group');
  if (leaves.length < 2) throw new PageError('Merging takes at least two layers.');
  checkMergeable(page, leaves);
  const [target, ...others] = leaves.map(({ layer }) => layer);
  return [target, ...others];
}

function mergeWash(
  page: Page,
  nodes: readonly StackNode[],
  target: LayerEntity,
  others: readonly LayerEntity[],
  washed: readonly TileContent[] | undefined,
): Change {
  if (!washed) throw new PageError('Pixels have to be painted before they can be merged.');
  const edits: Edit[] = washEdits(page, target.id, washed);
  for (const { id } of others) edits.push(...washTilesOf(page, id).map((tile) => ({ before: tile, after: null })));
  edits.push(...reachingEdits(page, target, others));
  edits.push(...emptied(nodes, target).map((layer) => ({ before: layer, after: null })));
  return draftChange(`Merge into ${target.name}`, edits);
}

function checkMergeable(page: Page, leaves: readonly StackNode[]): void {
  const target = leaves[0].layer;
  const faded = fadedGroups(page, target);
  for (const { layer, isLocked, isHidden } of leaves) {
    if (layer.medium === 'rough') throw new PageError('Roughs are kept apart: they are not merged.');
    if (layer.medium !== target.medium)
      throw new PageError(
        `${target.name} is ${mediumInWords(target.medium)} and ${layer.name} is ${mediumInWords(layer.medium)}: these cannot be merged.`,
      );
    if (isLocked) throw new PageError(`${layer.name} is locked. Unlock it to merge it.`);
    if (isHidden !== leaves[0].isHidden) {
      const hidden = isHidden ? layer : target;
      throw new PageError(`${hidden.name} is hidden: merging would change what is seen. Show it, or leave it out.`);
    }
    if (layer.opacity < 1)
      throw new PageError(
        `${layer.name} is faded: merging would change how it looks. Put it in a group and fade that.`,
      );
    const own = fadedGroups(page, layer);
    const other = [...own, ...faded].find((group) => !own.includes(group) || !faded.includes(group));
    if (other)
      throw new PageError(
        `The group ${other.name} is faded, and holds only one of ${target.name} and ${layer.name}: merging would change how they look.`,
      );
    if ((layer.style?.edge ?? 'soft') !== (target.style?.edge ?? 'soft'))
      throw new PageError(`${target.name} and ${layer.name} differ in edge. Give them the same edge to merge them.`);
  }
  if (!leaves[0].isHidden) checkBetween(page, leaves);
}

/** The groups around a layer that are faded. */
const fadedGroups = (page: Page, layer: LayerEntity): readonly LayerEntity[] =>
  nodesOf(stackOf(page)).flatMap((node) =>
    node.layer.opacity < 1 && node.layer !== layer && nodesOf([node]).some((one) => one.layer === layer)
      ? [node.layer]
      : [],
  );

/** Throws a PageError where something is seen between layers that are to be merged: it would come to lie above them. */
function checkBetween(page: Page, leaves: readonly StackNode[]): void {
  const merged = new Set(leaves.map(({ layer }) => layer.id));
  const stack = nodesOf(stackOf(page)).filter(({ layer }) => layer.medium !== 'group');
  const first = stack.findIndex(({ layer }) => merged.has(layer.id));
  const last = stack.findLastIndex(({ layer }) => merged.has(layer.id));
  const between = stack.slice(first, last).filter(({ layer, isHidden }) => !merged.has(layer.id) && !isHidden);
  if (between.length === 0) return;
  const inked = new Set<EntityId>();
  for (const entity of page.entities) if (isLaid(entity)) inked.add(entity.layerId);
  const seen = between.find(({ layer }) => inked.has(layer.id))?.layer;
  if (!seen) return;
  const top = stack[last].layer.name;
  throw new PageError(
    `${seen.name} lies between ${leaves[0].layer.name} and ${top}: merged, what is on ${top} would come to lie below it. Move ${seen.name} first.`,
  );
}

/** What lay on a layer as the layer showed it. */
const baked = (entity: LaidEntity, { style }: LayerEntity): LaidEntity => laidDown(entity, style);

/** The layer without what is laid down in its strokes; a hard edge stays. */
function plain(layer: LayerEntity): LayerEntity {
  const { style, ...rest } = layer;
  return style?.edge === 'hard' ? { ...rest, style: { widthFactor: 1, edge: 'hard' } } : rest;
}

/** Guides that reach layers which are merged reach the one that these become. */
function reachingEdits(page: Page, target: LayerEntity, others: readonly LayerEntity[]): Edit[] {
  const gone = new Set(others.map(({ id }) => id));
  return ofKind(page, 'guide').flatMap((guide): Edit[] => {
    if (guide.reach === 'all' || !guide.reach.some((id) => gone.has(id))) return [];
    const reach = [...new Set(guide.reach.map((id) => (gone.has(id) ? target.id : id)))];
    return [{ before: guide, after: { ...guide, reach } }];
  });
}

/** The layers that merging leaves empty: all but the target and the groups around it. */
function emptied(nodes: readonly StackNode[], target: LayerEntity): LayerEntity[] {
  const holdsTarget = (node: StackNode) => nodesOf([node]).some(({ layer }) => layer.id === target.id);
  return nodes.filter((node) => !holdsTarget(node)).map(({ layer }) => layer);
}

/** The layer and the one of its kind directly below it in the same group. Throws a PageError when there is none. */
export function withTheOneBelow(page: Page, layerId: EntityId): readonly [EntityId, EntityId] {
  const { nodes } = siblingsOf(page, layerId);
  const at = nodes.findIndex(({ layer }) => layer.id === layerId);
  if (at < 1) throw new PageError('There is no layer below this one to merge it with.');
  return [nodes[at - 1].layer.id, layerId];
}

/** All layers that are seen and hold ink or wash. */
export const visibleLayers = (page: Page): EntityId[] =>
  nodesOf(stackOf(page)).flatMap(({ layer, isHidden }) =>
    !isHidden && (layer.medium === 'ink' || layer.medium === 'wash') ? [layer.id] : [],
  );
