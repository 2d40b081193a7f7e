import type { AreaEntity } from '../area';
import { mapSpine, type Spine } from '../curve';
import { PageError, sameValue } from '../gate';
import type { EntityId } from '../kind';
import { median, scaleOf } from '../math';
import type { Nib } from '../nib';
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
  type Said,
  type TracedPixels,
  type TraceRecord,
} from '../page';
import type { StrokeEntity } from '../stroke';
import { widthsOf } from './resampled';
import type { Traced } from './types';

/** What laying a tracing down does to a page. */
export interface TraceEdits {
  readonly edits: readonly Edit[];
  /** Lines and areas that lie there for it, and those that were let be since they were worked on. */
  readonly laid: number;
  readonly kept: number;
}

export type TracedEntity = StrokeEntity | AreaEntity;

/** A rough that shows more than the first is dimmed to the second: lines on a picture that is as dark cannot be seen (common practice). */
const [TOO_STRONG, DIM] = [0.65, 0.5];

/**
 * Lays a tracing down on an Ink layer of its own, whose record says where it comes from, over the dimmed rough that it was
 * taken from.
 */
export function layTrace(
  page: Page,
  record: TraceRecord,
  traced: Traced,
  {
    layerId,
    color,
    order = topOfStack(page),
  }: { readonly layerId: EntityId; readonly color: string; readonly order?: string },
): TraceEdits {
  const name = freeLayerName(page, record.takes === 'lines' ? 'Traced lines' : 'Traced outlines');
  const layer = newLayer({ id: layerId, medium: 'ink', name, order, traced: record });
  const things = thingsOf(record, traced, color);
  const orders = ordersBetween(undefined, undefined, things.length);
  const laid = things.map((thing, k): Edit => ({
    before: null,
    after: placed(thing, { layerId, order: orders[k], record }),
  }));
  const rough = find(page, 'picture', record.from);
  const dimmed: Edit[] =
    rough && rough.opacity > TOO_STRONG ? [{ before: rough, after: { ...rough, opacity: DIM } }] : [];
  return { edits: [...dimmed, { before: null, after: layer }, ...laid], laid: laid.length, kept: 0 };
}

/**
 * Puts another tracing of the same picture in place of the one that a layer has: what is the same stays as it is, and so does
 * what was worked on since. `before` is what was traced then. Throws a PageError where the layer is locked, or was not traced.
 */
export function layTraceAnew(
  page: Page,
  layer: LayerEntity,
  { record, before, after }: { readonly record: TraceRecord; readonly before: Traced; readonly after: Traced },
): TraceEdits {
  const old = layer.traced;
  if (!old) throw new PageError(`${layer.name} was not traced.`);
  if (nodeOf(page, layer.id)?.isLocked) throw new PageError(`${layer.name} is locked: unlock it to trace it anew.`);
  const was = new Map(thingsOf(old, before, '#000000').map((thing) => [thing.id, thing]));
  const edits: Edit[] = [];
  let kept = 0;
  const seen = new Set<EntityId>();
  const next = thingsOf(record, after, colourOn(page, [...was.keys()]));
  const orders = ordersBetween(topOrderOf(page, layer.id), undefined, next.length);
  next.forEach((thing, k) => {
    seen.add(thing.id);
    const then = was.get(thing.id);
    const now = lying(page, thing.id);
    if (then && isSameShape(then, thing)) return;
    if (now && then && !isSameShape(now, then)) return void kept++;
    // What was taken away by hand stays away, as long as it would come back the same way.
    if (!now && then) return void kept++;
    if (now) edits.push({ before: now, after: { ...thing, ...where(now), ...worn(now) } });
    else edits.push({ before: null, after: placed(thing, { layerId: layer.id, order: orders[k], record }) });
  });
  for (const [id, then] of was) {
    const now = lying(page, id);
    if (seen.has(id) || !now) continue;
    if (isSameShape(now, then)) edits.push({ before: now, after: null });
    else kept++;
  }
  edits.push({ before: layer, after: { ...layer, traced: record } });
  return { edits, laid: next.length, kept };
}

/** Lets a traced layer go: from then on it is ink like any other. */
export function letTraceGo(layer: LayerEntity): readonly Edit[] {
  const { traced: _gone, ...after } = layer;
  return [{ before: layer, after }];
}

/** The pixels of a picture or a Wash layer as they are now; nothing where there is neither under that id. */
export function pixelsNow(page: Page, from: EntityId): TracedPixels | undefined {
  const picture = find(page, 'picture', from);
  if (picture) {
    const { blob, width, height, scan } = picture;
    return { as: 'picture', blob, width, height, ...(scan && { scan }) };
  }
  if (find(page, 'layer', from)?.medium !== 'wash') return undefined;
  const tiles = ofKind(page, 'wash').filter(({ layerId }) => layerId === from);
  // Tiles come in any order: each counts for itself, by where it lies and what its bytes are.
  const sum = tiles.reduce((all, { column, row, blob }) => {
    const place = Math.imul(column + 1, 0x9e3779b1) ^ Math.imul(row + 1, 0x85ebca6b);
    return (all + Math.imul(place | 1, parseInt(blob.slice(0, 8), 16) | 1)) | 0;
  }, tiles.length);
  return { as: 'wash', sum: sum >>> 0 };
}

/** What was said, and one more word that takes the place of older ones about the same place, px of the picture. */
export function withSaid(said: readonly Said[], word: Said, within: number): Said[] {
  const kin = KIN.find((words) => words.includes(word.as)) ?? [];
  const others = said.filter((one) => !kin.includes(one.as) || Math.hypot(one.x - word.x, one.y - word.y) > within);
  return [...others, word];
}

/** Words that are about the same thing: the last one counts. A line can be split in many places. */
const KIN: readonly (readonly Said['as'][])[] = [
  ['junction'],
  ['black', 'line'],
  ['corner', 'smooth'],
  ['pointed', 'blunt'],
  ['bridged', 'open'],
];

function lying(page: Page, id: EntityId): TracedEntity | undefined {
  return find(page, 'stroke', id) ?? find(page, 'area', id);
}

const where = ({ layerId, order, panelId }: TracedEntity) => ({
  layerId,
  order,
  ...(panelId !== undefined && { panelId }),
});

/** What it looks like beside its shape: a colour that was given to it stays. */
const worn = (now: TracedEntity) => (now.kind === 'stroke' ? { nib: now.nib } : { fill: now.fill });

function colourOn(page: Page, ids: readonly EntityId[]): string {
  for (const id of ids) {
    const stroke = find(page, 'stroke', id);
    if (stroke) return stroke.nib.color;
    const area = find(page, 'area', id);
    if (area?.fill.as === 'colour') return area.fill.color;
  }
  return '#000000';
}

function isSameShape(one: TracedEntity, two: TracedEntity): boolean {
  if (one.kind === 'stroke' && two.kind === 'stroke')
    return sameValue(one.spine, two.spine) && sameValue(one.ends, two.ends);
  return one.kind === 'area' && two.kind === 'area' && sameValue(one.rings, two.rings);
}

function placed(
  thing: TracedEntity,
  {
    layerId,
    order,
    record: { panelId },
  }: { readonly layerId: EntityId; readonly order: string; readonly record: TraceRecord },
): TracedEntity {
  return { ...thing, layerId, order, ...(panelId !== undefined && { panelId }) };
}

/** Lines and blacks as things of the page, by names that stay; blacks lie under the lines that run into them. */
export function thingsOf(
  { name, map }: Pick<TraceRecord, 'name' | 'map'>,
  { lines, blacks }: Traced,
  color: string,
): TracedEntity[] {
  const base = { layerId: '', order: '' };
  return [
    ...blacks.map(({ key, rings }): AreaEntity => ({
      ...{ kind: 'area', id: `${name}-${key}`, ...base },
      rings: rings.map((ring) => mapSpine(ring, map)),
      fill: { as: 'colour', color },
    })),
    ...lines.map(({ key, spine }): StrokeEntity => {
      const on = mapSpine(spine, map, scaleOf(map));
      return {
        ...{ kind: 'stroke', id: `${name}-${key}`, ...base },
        spine: on,
        nib: plainNib(on, color),
        ends: ['round', 'round'],
      };
    }),
  ];
}

/** A plain nib as wide as a line is for the most part: what is done to weights goes by that. */
const plainNib = ({ points }: Spine, color: string): Nib => ({
  ...{ name: 'Traced', size: Math.min(200, Math.max(0.5, median(widthsOf(points)))), color },
  ...{ thinnest: 1, taperIn: 0, taperOut: 0 },
});
