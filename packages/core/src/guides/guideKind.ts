import { flag, id, list, number, optional, text } from '../gate';
import type { Kind } from '../kind';
import { GUIDE_LIMITS, type GuideEntity } from './guide';
import { checkShape, shapeRow } from './shapes/table';

/** What a guide is. Layers that it reaches, frames that it hangs on, and the panel that it lies in may be gone. */
export const guideKind: Kind<GuideEntity> = {
  isMany: false,
  check: (fields) => ({
    kind: 'guide',
    id: id(fields.id, 'id'),
    order: id(fields.order, 'order'),
    name: text(fields.name, 'name'),
    seen: flag(fields.seen, 'seen'),
    acting: flag(fields.acting, 'acting'),
    locked: flag(fields.locked, 'locked'),
    tethers: flag(fields.tethers, 'tethers'),
    reach:
      fields.reach === 'all'
        ? 'all'
        : list(fields.reach, 'reach', GUIDE_LIMITS.layers).map((layer) => id(layer, 'reach')),
    hue: number(fields.hue, 'hue', 0, GUIDE_LIMITS.hues - 1),
    shape: checkShape(fields.shape),
    ...optional(fields, 'panelId', id),
  }),
  refs: ({ reach, shape, panelId }) => ({
    knows: [
      ...(reach === 'all' ? [] : reach),
      ...(shapeRow(shape).frames?.(shape) ?? []),
      ...(panelId ? [panelId] : []),
    ],
  }),
  remap: (guide, copyId, renamed) => ({
    ...guide,
    id: copyId,
    reach: guide.reach === 'all' ? 'all' : guide.reach.map(renamed),
    shape: shapeRow(guide.shape).reframed?.(guide.shape, renamed) ?? guide.shape,
    ...(guide.panelId !== undefined && { panelId: renamed(guide.panelId) }),
  }),
};
