import { segmentCount } from '../curve';
import type { AreaEntity } from '../area';
import type { DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import type { Nib } from '../nib';
import { find, type Edit, type Page } from '../page';
import type { StrokeEntity } from '../stroke';

const MARK = '/edge/';

/** What an edge is drawn with: nothing, since it has no weight. */
const EDGE_NIB: Nib = { name: 'Edge', size: 0.5, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };

const known = new WeakMap<AreaEntity, readonly StrokeEntity[]>();

/** The edges of an area as closed lines without a weight, in the order of its rings: the same ones for the same area. */
export function edgesOf(area: AreaEntity): readonly StrokeEntity[] {
  let edges = known.get(area);
  if (!edges) {
    const { id, layerId, order, rings } = area;
    edges = rings.map((spine, k) => ({
      ...{ kind: 'stroke', id: `${id}${MARK}${k}`, layerId, order, spine, nib: EDGE_NIB },
      ends: ['round', 'round'],
      fills: true,
    }));
    known.set(area, edges);
  }
  return edges;
}

/** The lines that something on the paper offers to whoever mends: itself, or its edges; dots have none. */
export function mendableLines(entity: DrawnEntity): readonly StrokeEntity[] {
  switch (entity.kind) {
    case 'stroke':
      return [entity];
    case 'area':
      return edgesOf(entity);
    case 'dots':
      return [];
  }
}

/** Which edge of which area an id names; nothing for the id of anything that lies on a page itself. */
export function edgeNamed(id: EntityId): { readonly areaId: EntityId; readonly ring: number } | undefined {
  const at = id.lastIndexOf(MARK);
  return at < 0 ? undefined : { areaId: id.slice(0, at), ring: Number(id.slice(at + MARK.length)) };
}

/** The line of that id on a page, or the edge of one of its areas. */
export function lineNamed(page: Page, id: EntityId): StrokeEntity | undefined {
  const edge = edgeNamed(id);
  if (!edge) return find(page, 'stroke', id);
  const area = find(page, 'area', edge.areaId);
  return area && edgesOf(area)[edge.ring];
}

/**
 * Edits of lines, those of edges turned into edits of their areas on a page. A ring that is gone leaves its area; an area
 * without rings is gone.
 */
export function withoutEdges(page: Page, edits: readonly Edit[]): Edit[] {
  const others: Edit[] = [];
  const changes = new Map<EntityId, Map<number, StrokeEntity | null>>();
  for (const edit of edits) {
    const line = edit.before ?? edit.after;
    const edge = line && edgeNamed(line.id);
    if (!edge) {
      others.push(edit);
      continue;
    }
    const rings = changes.get(edge.areaId) ?? new Map<number, StrokeEntity | null>();
    rings.set(edge.ring, edit.after?.kind === 'stroke' ? edit.after : null);
    changes.set(edge.areaId, rings);
  }
  for (const [id, changed] of changes) {
    const before = find(page, 'area', id);
    if (!before) continue;
    const rings = before.rings.flatMap((ring, k) => {
      const edge = changed.get(k);
      if (edge === undefined) return ring;
      return edge && segmentCount(edge.spine) > 0 ? { points: edge.spine.points, closed: true } : [];
    });
    others.push({ before, after: rings.length > 0 ? { ...before, rings } : null });
  }
  return others;
}
