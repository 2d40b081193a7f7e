import { PageError } from '../gate';
import type { EntityId } from '../kind';
import {
  find,
  freeLayerName,
  newLayer,
  nodeOf,
  ofKind,
  ordersBetween,
  topOfStack,
  topOrderOf,
  type Edit,
  type LayerEntity,
  type Page,
} from '../page';
import type { CameraEntity, Eye, PulledLine, PullSettings } from '../set';
import type { Stroke, StrokeEntity } from '../stroke';
import { turnEdits } from './turned';

/** What pulling lines does to a page, and what it let be. */
export interface PulledEdits {
  readonly edits: readonly Edit[];
  /** Lines that were drawn, and lines that were kept since somebody had worked on them. */
  readonly drawn: number;
  readonly kept: number;
}

export interface PullOptions {
  readonly settings: PullSettings;
  readonly newId: () => EntityId;
  /** The lines follow the camera; without, they are lines like any other. */
  readonly follows: boolean;
  /** The order in the stack of a layer that is added for them; on top without one. */
  readonly order?: string;
}

/**
 * Puts pulled lines on the Ink layer of a camera, in place of those that were pulled before: a line of the same edge is the same
 * line. Those that were worked on since are kept as they are. Throws a PageError where the layer is locked.
 */
export function pulledEdits(
  page: Page,
  camera: CameraEntity,
  lines: readonly PulledLine[],
  { settings, newId, follows, order }: PullOptions,
): PulledEdits {
  const { layer, edits: layerEdits } = layerFor(page, camera, newId, order);
  const old = ofKind(page, 'stroke').filter(({ pulled }) => pulled?.camera === camera.id);
  const byEdge = new Map<string, StrokeEntity>();
  let kept = 0;
  for (const stroke of old) {
    if (isWorkedOn(stroke)) kept++;
    if (stroke.pulled && !byEdge.has(stroke.pulled.edge)) byEdge.set(stroke.pulled.edge, stroke);
  }
  const edits: Edit[] = [];
  const orders = ordersBetween(topOrderOf(page, layer.id), undefined, lines.length);
  const taken = new Set<EntityId>();
  lines.forEach(({ key, stroke }, k) => {
    const before = byEdge.get(key);
    if (before) taken.add(before.id);
    if (before && isWorkedOn(before)) return;
    const after = asStroke(stroke, {
      id: before?.id ?? newId(),
      layerId: before?.layerId ?? layer.id,
      order: before?.order ?? orders[k],
      ...(camera.panelId !== undefined && { panelId: camera.panelId }),
      ...(follows && { pulled: { camera: camera.id, edge: key, sum: sumOf(stroke) } }),
    });
    edits.push({ before: before ?? null, after });
  });
  for (const stroke of old)
    if (!taken.has(stroke.id) && !isWorkedOn(stroke)) edits.push({ before: stroke, after: null });
  const pulled = { settings, layerId: layer.id };
  const { pulled: _before, ...bare } = camera;
  const after: CameraEntity = follows ? { ...bare, pulled } : bare;
  return { edits: [...layerEdits, ...edits, { before: camera, after }], drawn: lines.length, kept };
}

/** What turning a camera does to a page whose lines follow it: `lines` are those that it sees from where it stands then. */
export function followEdits(
  page: Page,
  camera: CameraEntity,
  eye: Eye,
  lines: readonly PulledLine[],
  newId: () => EntityId,
): PulledEdits {
  const turned = turnEdits(page, camera, eye);
  if (!camera.pulled) return { edits: turned, drawn: 0, kept: 0 };
  const pulled = pulledEdits(page, camera, lines, { settings: camera.pulled.settings, newId, follows: true });
  // The camera is among both: it is turned, and pulls with the same settings as before.
  const others = pulled.edits.filter(({ after }) => after?.id !== camera.id);
  return { ...pulled, edits: [...turned, ...others] };
}

const asStroke = (
  stroke: Stroke,
  where: Pick<StrokeEntity, 'id' | 'layerId' | 'order' | 'panelId' | 'pulled'>,
): StrokeEntity => ({ kind: 'stroke', ...stroke, ...where });

/** The layer of a camera's lines: the one they lie on, or a new one on top. */
function layerFor(
  page: Page,
  camera: CameraEntity,
  newId: () => EntityId,
  order = topOfStack(page),
): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } {
  const known = camera.pulled && find(page, 'layer', camera.pulled.layerId);
  if (known?.medium === 'ink') {
    if (nodeOf(page, known.id)?.isLocked) throw new PageError(`${known.name} is locked: unlock it to pull lines anew.`);
    return { layer: known, edits: [] };
  }
  const set = find(page, 'set', camera.setId);
  const name = freeLayerName(page, `Lines of ${set?.name ?? 'the set'}`);
  const layer = newLayer({ id: newId(), medium: 'ink', name, order });
  return { layer, edits: [{ before: null, after: layer }] };
}

/** Whether somebody worked on a pulled line since it was pulled: its course, its weight or its colour is another. */
export const isWorkedOn = (stroke: StrokeEntity): boolean =>
  stroke.pulled !== undefined && stroke.pulled.sum !== sumOf(stroke);

/** Parts of a page px that a sum tells apart. */
const GRAIN = 1024;

/** A sum of what a line looks like (FNV-1a over its nodes and its nib). */
export function sumOf({ spine, nib, ends }: Stroke): number {
  let sum = 0x811c9dc5;
  const take = (value: number) => {
    sum = Math.imul(sum ^ (value | 0), 0x01000193);
  };
  for (const value of spine.points) take(Math.round(value * GRAIN));
  for (const letter of `${nib.color} ${ends.every((end) => typeof end === 'string')}`) take(letter.charCodeAt(0));
  return sum >>> 0;
}
