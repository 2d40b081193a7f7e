import { evenlyWide, segmentCount } from '../curve';
import type { AreaEntity } from '../area';
import { isDrawn, type DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import type { Nib } from '../nib';
import { find, type Edit, type Page } from '../page';
import { reshaped, type PanelEntity } from '../panel';
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

/** The lines that something on the paper offers to whoever mends: itself, its edges, or its border; dots, balloons and letters
 * have none. */
export function mendableLines(entity: DrawnEntity): readonly StrokeEntity[] {
  switch (entity.kind) {
    case 'stroke':
      return [entity];
    case 'area':
      return edgesOf(entity);
    case 'panel':
      return [borderOf(entity)];
    case 'dots':
    case 'balloon':
    case 'lettering':
      return [];
  }
}

const borders = new WeakMap<PanelEntity, StrokeEntity>();

/** The border of a panel as a closed line: the same one for the same panel. */
function borderOf(panel: PanelEntity): StrokeEntity {
  let line = borders.get(panel);
  if (!line) {
    const { id, layerId, order, ring, border } = panel;
    const nib = border?.nib ?? EDGE_NIB;
    line = {
      ...{ kind: 'stroke', id: `${id}${MARK}0`, layerId, order, spine: evenlyWide(ring, nib.size), nib },
      ends: ['round', 'round'],
    };
    borders.set(panel, line);
  }
  return line;
}

/** Which edge of which area or panel an id names; nothing for the id of anything that lies on a page itself. */
export function edgeNamed(id: EntityId): { readonly ofId: EntityId; readonly ring: number } | undefined {
  const at = id.lastIndexOf(MARK);
  return at < 0 ? undefined : { ofId: id.slice(0, at), ring: Number(id.slice(at + MARK.length)) };
}

/** The line of that id on a page, or the edge of one of its areas, or the border of one of its panels. */
export function lineNamed(page: Page, id: EntityId): StrokeEntity | undefined {
  const edge = edgeNamed(id);
  if (!edge) return find(page, 'stroke', id);
  const owner = page.entities.get(edge.ofId);
  return owner && isDrawn(owner) ? mendableLines(owner)[edge.ring] : undefined;
}

/**
 * Edits of lines, those of edges turned into edits of their areas and panels on a page. A ring that is gone leaves its area; an
 * area without rings is gone. The border of a panel can be bent, and never goes.
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
    const rings = changes.get(edge.ofId) ?? new Map<number, StrokeEntity | null>();
    rings.set(edge.ring, edit.after?.kind === 'stroke' ? edit.after : null);
    changes.set(edge.ofId, rings);
  }
  for (const [id, changed] of changes) {
    const panel = find(page, 'panel', id);
    const bent = changed.get(0);
    if (panel && bent?.spine.closed) others.push({ before: panel, after: reshaped(panel, bent.spine) });
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
