import type { AreaEntity, AreaFill } from '../area';
import { evenlyWide } from '../curve';
import type { EntityId } from '../kind';
import { ringPoints } from '../math';
import { find, freeLayerName, newLayer, orderBetween, stackOf, type Edit, type Page } from '../page';
import type { CameraEntity } from '../set';
import { polylineSpine } from '../shapes';

/** Rings that one area may have: more of them go to further ones. */
const MOST = 400;

/**
 * Lays rings of shade on a layer of their own, under that of the lines of a camera where there is one: filled together, as
 * areas. Rings are x, y pairs, page px, wound as clipping leaves them.
 */
export function toneEdits(
  page: Page,
  camera: CameraEntity,
  rings: readonly Float64Array[],
  { fill, newId, order }: { readonly fill: AreaFill; readonly newId: () => EntityId; readonly order: string },
): Edit[] {
  const set = find(page, 'set', camera.setId);
  const lines = camera.pulled && find(page, 'layer', camera.pulled.layerId);
  const layer = newLayer({
    ...{ id: newId(), medium: 'ink', name: freeLayerName(page, `Tones of ${set?.name ?? 'the set'}`) },
    order: lines && lines.parentId === undefined ? orderBetween(below(page, lines.id), lines.order) : order,
  });
  const groups = Array.from({ length: Math.ceil(rings.length / MOST) }, (_, k) =>
    rings.slice(k * MOST, (k + 1) * MOST),
  );
  let last: string | undefined;
  const areas = groups.map((group): AreaEntity => {
    last = orderBetween(last, undefined);
    const courses = group.map((ring) => evenlyWide(polylineSpine(ringPoints(ring), true), 0));
    return {
      ...{ kind: 'area', id: newId(), layerId: layer.id, order: last, rings: courses, fill },
      ...(camera.panelId !== undefined && { panelId: camera.panelId }),
    };
  });
  return [layer, ...areas].map((after): Edit => ({ before: null, after }));
}

/** The order of the layer under another one, if there is one. */
function below(page: Page, layerId: EntityId): string | undefined {
  const stack = stackOf(page);
  const at = stack.findIndex(({ layer }) => layer.id === layerId);
  return stack[at - 1]?.layer.order;
}
