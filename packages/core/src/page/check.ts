import type { CurvePoint } from '../math';
import { editedId, type Change, type Edit } from './change';
import type {
  Calm,
  Entity,
  InkStyle,
  LayerEntity,
  Nib,
  NibEdge,
  NibProfile,
  NibTip,
  PaperEntity,
  PictureEntity,
  Placement,
  SamplesEntity,
  StrokeEnd,
  StrokeEntity,
  StrokeGrain,
  StrokeOrigin,
  WashTileEntity,
} from './entity';
import { checkCopy, checkGuide, checkStrokeGuide } from './checkGuide';
import { PageError } from './errors';
import {
  checkMatrix,
  checkRing,
  checkSpine,
  colour,
  ENTITY_LIMITS,
  flag,
  id,
  list,
  number,
  oneOf,
  optional,
  record,
  text,
  within,
  type Fields,
} from './fields';
import { checkPacked } from './samples';
import { WASH_SIDE, washTile } from './wash';

/**
 * The entity in `value`, with unknown fields left out and number lists as typed arrays.
 * Throws a PageError that names the field, what it needs and what came.
 */
export function checkEntity(value: unknown): Entity {
  const fields = record(value, 'An entity');
  switch (fields.kind) {
    case 'layer':
      return checkLayer(fields);
    case 'stroke':
      return checkStroke(fields);
    case 'samples':
      return checkSamples(fields);
    case 'picture':
      return checkPicture(fields);
    case 'wash':
      return checkWashTile(fields);
    case 'paper':
      return checkPaper(fields);
    case 'guide':
      return checkGuide(fields);
    default:
      throw new PageError(`There is no kind of entity called ${JSON.stringify(fields.kind)?.slice(0, 60)}.`);
  }
}

/** The change in `value`, checked like its entities. */
export function checkChange(value: unknown): Change {
  const fields = record(value, 'A change');
  const edits = list(fields.edits, 'edits', ENTITY_LIMITS.edits).map(checkEdit);
  if (edits.length === 0) throw new PageError('A change needs at least one edit.');
  const at = number(fields.at, 'at', 0, 1e15);
  const needs = list(fields.needs ?? [], 'needs', ENTITY_LIMITS.needs).map((need) => id(need, 'needs'));
  const change = {
    id: id(fields.id, 'id'),
    by: id(fields.by, 'by'),
    label: text(fields.label, 'label'),
    at,
    needs,
    edits,
  };
  return fields.undoes === undefined ? change : { ...change, undoes: id(fields.undoes, 'undoes') };
}

function checkEdit(value: unknown): Edit {
  const fields = record(value, 'An edit');
  const side = (entity: unknown) => (entity === null || entity === undefined ? null : checkEntity(entity));
  const edit: Edit = { before: side(fields.before), after: side(fields.after) };
  editedId(edit);
  return edit;
}

/** Layers kept by earlier versions lack what was not known then. */
function checkLayer(fields: Fields): LayerEntity {
  return {
    kind: 'layer',
    id: id(fields.id, 'id'),
    medium: oneOf(fields.medium, 'medium', ['ink', 'wash', 'rough', 'group']),
    name: text(fields.name, 'name'),
    order: id(fields.order, 'order'),
    hidden: flag(fields.hidden, 'hidden'),
    locked: flag(fields.locked, 'locked'),
    opacity: number(fields.opacity ?? 1, 'opacity', 0, 1),
    holdsShape: flag(fields.holdsShape ?? false, 'holdsShape'),
    ...optional(fields, 'parentId', id),
    ...optional(fields, 'mark', colour),
    ...optional(fields, 'standIn', colour),
    ...optional(fields, 'style', checkStyle),
  };
}

function checkStyle(value: unknown): InkStyle {
  const fields = record(value, 'A style');
  return {
    widthFactor: number(fields.widthFactor, 'widthFactor', 0.1, 10),
    edge: oneOf(fields.edge, 'edge', ['soft', 'hard']),
    ...optional(fields, 'color', colour),
    ...optional(fields, 'nib', checkNib),
  };
}

const checkPaper = (fields: Fields): PaperEntity => ({
  kind: 'paper',
  id: id(fields.id, 'id'),
  color: fields.color === null ? null : colour(fields.color, 'color'),
});

/** The stroke in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkStroke(value: object): StrokeEntity {
  const fields = record(value, 'A stroke');
  const ends = list(fields.ends, 'ends', 2);
  const stroke: StrokeEntity = {
    kind: 'stroke',
    id: id(fields.id, 'id'),
    layerId: id(fields.layerId, 'layerId'),
    order: id(fields.order, 'order'),
    spine: checkSpine(fields.spine),
    nib: checkNib(fields.nib),
    ends: [checkEnd(ends[0]), checkEnd(ends[1])],
    ...optional(fields, 'grain', checkGrain),
    ...optional(fields, 'guide', checkStrokeGuide),
    ...optional(fields, 'copy', checkCopy),
    ...(fields.fills === true ? { fills: true as const } : {}),
  };
  return fields.origin === undefined ? stroke : { ...stroke, origin: checkOrigin(fields.origin) };
}

function checkEnd(value: unknown): StrokeEnd {
  if (typeof value !== 'object' || value === null) return oneOf(value, 'ends', ['round', 'flat']);
  const { gone } = record(value, 'An end');
  return { gone: checkRing(gone, 'gone') };
}

/** The nib in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkNib(value: unknown): Nib {
  const fields = record(value, 'A nib');
  return {
    name: text(fields.name, 'name'),
    size: number(fields.size, 'size', 0.05, 2_000),
    thinnest: number(fields.thinnest, 'thinnest', 0, 1),
    taperIn: number(fields.taperIn, 'taperIn', 0, 1_000),
    taperOut: number(fields.taperOut, 'taperOut', 0, 1_000),
    color: colour(fields.color, 'color'),
    ...optional(fields, 'tip', checkTip),
    ...optional(fields, 'press', checkBend),
    ...optional(fields, 'speed', within(-1, 1)),
    ...optional(fields, 'tilt', within(-0.9, 4)),
    ...optional(fields, 'profile', checkProfile),
    ...optional(fields, 'edge', checkEdge),
    ...optional(fields, 'opacity', within(0.05, 1)),
  };
}

function checkTip(value: unknown): NibTip {
  const fields = record(value, 'A tip');
  return {
    shape: oneOf(fields.shape, 'shape', ['flat', 'chisel']),
    angle: number(fields.angle, 'angle', -1e3, 1e3),
    thickness: number(fields.thickness, 'thickness', 0.02, 1),
  };
}

const checkProfile = (value: unknown, name: string): NibProfile =>
  typeof value === 'string' ? oneOf(value, name, ['in', 'out', 'lens']) : checkBend(value, name);

function checkEdge(value: unknown): NibEdge {
  const fields = record(value, 'An edge');
  return {
    kind: oneOf(fields.kind, 'kind', ['dry', 'rough']),
    amount: number(fields.amount, 'amount', 0, 1),
    grain: number(fields.grain, 'grain', 0.5, 500),
  };
}

/** Points of a bent curve: 2 to 12, both coordinates 0..1, x rising. */
function checkBend(value: unknown, name: string): CurvePoint[] {
  const points = list(value, name, 12).map((point): CurvePoint => {
    const pair = list(point, name, 2);
    return [number(pair[0], name, 0, 1), number(pair[1], name, 0, 1)];
  });
  if (points.length < 2 || points.some(([x], k) => k > 0 && x <= points[k - 1][0]))
    throw new PageError(`"${name}" needs at least two points, each to the right of the one before.`);
  return points;
}

function checkGrain(value: unknown): StrokeGrain {
  const fields = record(value, 'A grain');
  return {
    seed: number(fields.seed, 'seed', 0, 0xffffffff),
    offset: number(fields.offset, 'offset', 0, ENTITY_LIMITS.coordinate),
  };
}

function checkOrigin(value: unknown): StrokeOrigin {
  const fields = record(value, 'An origin');
  return {
    samples: id(fields.samples, 'samples'),
    calm: checkCalm(fields.calm),
    zoom: number(fields.zoom, 'zoom', 1e-3, 1e3),
    ...optional(fields, 'matrix', checkMatrix),
    ...optional(fields, 'left', (value) => oneOf(value, 'left', ['cut', 'edited'])),
  };
}

/** The calm in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkCalm(value: unknown): Calm {
  const fields = record(value, 'A calm');
  const share = (name: string) => number(fields[name], name, 0, 100);
  const base = {
    ...optional(fields, 'weight', within(0, 100)),
    ...(fields.stops === true ? { stops: true as const } : {}),
    ...(fields.byPage === true ? { byPage: true as const } : {}),
  };
  switch (oneOf(fields.way, 'way', ['raw', 'even', 'tow', 'sprung'])) {
    case 'raw':
      return { ...base, way: 'raw' };
    case 'even':
      return { ...base, way: 'even', strength: share('strength') };
    case 'tow':
      return { ...base, way: 'tow', strength: share('strength'), lag: share('lag') };
    case 'sprung':
      return { ...base, way: 'sprung', strength: share('strength'), drag: share('drag') };
  }
}

function checkSamples(fields: Fields): SamplesEntity {
  const { packed } = fields;
  if (!(packed instanceof Uint8Array) || packed.length > ENTITY_LIMITS.samplesBytes)
    throw new PageError('Samples come as packed bytes of at most 4 MB.');
  checkPacked(packed);
  return { kind: 'samples', id: id(fields.id, 'id'), packed: new Uint8Array(packed) };
}

function checkPicture(fields: Fields): PictureEntity {
  return {
    kind: 'picture',
    id: id(fields.id, 'id'),
    layerId: id(fields.layerId, 'layerId'),
    order: id(fields.order, 'order'),
    blob: fingerprint(fields.blob),
    width: number(fields.width, 'width', 1, 40_000),
    height: number(fields.height, 'height', 1, 40_000),
    placement: checkPlacement(fields.placement),
    opacity: number(fields.opacity, 'opacity', 0, 1),
    tint: oneOf(fields.tint, 'tint', ['none', 'blue', 'grey']),
  };
}

function checkWashTile(fields: Fields): WashTileEntity {
  const most = Math.ceil(ENTITY_LIMITS.coordinate / WASH_SIDE);
  const place = (name: 'column' | 'row') => {
    const value = number(fields[name], name, -most, most);
    if (!Number.isInteger(value)) throw new PageError(`"${name}" of a wash tile needs a whole number; ${value} came.`);
    return value;
  };
  const tile = washTile(id(fields.layerId, 'layerId'), place('column'), place('row'), fingerprint(fields.blob));
  if (fields.id !== tile.id) throw new PageError(`A wash tile's id says where it lies: "${tile.id}" is this one's.`);
  return tile;
}

function fingerprint(value: unknown): string {
  const blob = text(value, 'blob');
  if (!/^[0-9a-f]{64}$/.test(blob)) throw new PageError('Bytes are named by their SHA-256, 64 hex digits.');
  return blob;
}

function checkPlacement(value: unknown): Placement {
  const fields = record(value, 'A placement');
  const { coordinate } = ENTITY_LIMITS;
  return {
    x: number(fields.x, 'x', -coordinate, coordinate),
    y: number(fields.y, 'y', -coordinate, coordinate),
    scale: number(fields.scale, 'scale', 1e-4, 1e4),
    angle: number(fields.angle, 'angle', -1e3, 1e3),
  };
}
