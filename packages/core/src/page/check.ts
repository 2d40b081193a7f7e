import { SEGMENT, STRIDE, type Spine } from '../curve';
import type { CurvePoint, Matrix } from '../math';
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
import { PageError } from './errors';
import { checkPacked } from './samples';
import { WASH_SIDE, washTile } from './wash';

/** Limits on what a page may hold; all of them lie far beyond honest work. */
export const ENTITY_LIMITS = {
  coordinate: 1e6,
  spineSegments: 20_000,
  nameLength: 200,
  samplesBytes: 4_000_000,
  needs: 1_000,
  edits: 100_000,
} as const;

type Fields = Readonly<Record<string, unknown>>;

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
  };
  return fields.origin === undefined ? stroke : { ...stroke, origin: checkOrigin(fields.origin) };
}

const checkEnd = (value: unknown): StrokeEnd => oneOf(value, 'ends', ['round', 'flat']);

function checkSpine(value: unknown): Spine {
  const fields = record(value, 'A spine');
  const points = numbers(fields.points, 'points of a spine', SEGMENT * ENTITY_LIMITS.spineSegments + STRIDE);
  if (points.length < SEGMENT + STRIDE || (points.length - STRIDE) % SEGMENT !== 0)
    throw new PageError(`A spine needs 3n + 1 triples of x, y, width; ${points.length} numbers came.`);
  return { points, closed: flag(fields.closed, 'closed') };
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

const within =
  (least: number, most: number) =>
  (value: unknown, name: string): number =>
    number(value, name, least, most);

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

function checkMatrix(value: unknown): Matrix {
  const fields = list(value, 'matrix', 6);
  const at = (k: number) => number(fields[k], 'matrix', -1e9, 1e9);
  return [at(0), at(1), at(2), at(3), at(4), at(5)];
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

function record(value: unknown, what: string): Fields {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new PageError(`${what} is an object with named fields.`);
  return Object.fromEntries(Object.entries(value));
}

function list(value: unknown, name: string, most: number): readonly unknown[] {
  if (!Array.isArray(value)) throw new PageError(`"${name}" needs a list.`);
  if (value.length > most) throw new PageError(`"${name}" holds at most ${most}; ${value.length} came.`);
  return value;
}

function numbers(value: unknown, name: string, most: number): Float64Array {
  if (!Array.isArray(value) && !(value instanceof Float64Array))
    throw new PageError(`The ${name} are a list of numbers.`);
  if (value.length > most) throw new PageError(`The ${name} are at most ${most} numbers; ${value.length} came.`);
  const copy = new Float64Array(value.length);
  for (let i = 0; i < value.length; i++)
    copy[i] = number(value[i], name, -ENTITY_LIMITS.coordinate, ENTITY_LIMITS.coordinate);
  return copy;
}

function number(value: unknown, name: string, least: number, most: number): number {
  if (typeof value !== 'number' || !(value >= least && value <= most))
    throw new PageError(`"${name}" needs a number from ${least} to ${most}; ${String(value).slice(0, 40)} came.`);
  return value;
}

function text(value: unknown, name: string): string {
  if (typeof value !== 'string' || value.length > ENTITY_LIMITS.nameLength)
    throw new PageError(`"${name}" needs a text of at most ${ENTITY_LIMITS.nameLength} characters.`);
  return value;
}

function id(value: unknown, name: string): string {
  const found = text(value, name);
  if (found === '') throw new PageError(`"${name}" cannot be empty.`);
  return found;
}

function colour(value: unknown, name: string): string {
  const found = text(value, name);
  if (!/^#[0-9a-f]{6}$/i.test(found))
    throw new PageError(`A colour is written #rrggbb; ${JSON.stringify(found)} came for "${name}".`);
  return found;
}

/** A field that may be missing, as part of an object. */
function optional<const K extends string, T>(
  fields: Fields,
  name: K,
  check: (value: unknown, name: string) => T,
): { readonly [key in K]?: T } {
  const value = fields[name];
  if (value === undefined || value === null) return {};
  const found: { [key in K]?: T } = {};
  found[name] = check(value, name);
  return found;
}

function flag(value: unknown, name: string): boolean {
  if (typeof value !== 'boolean') throw new PageError(`"${name}" is either true or false.`);
  return value;
}

function oneOf<const T extends string>(value: unknown, name: string, choices: readonly T[]): T {
  const found = choices.find((choice) => choice === value);
  if (found === undefined)
    throw new PageError(`"${name}" is one of ${choices.join(', ')}; ${JSON.stringify(value)?.slice(0, 40)} came.`);
  return found;
}
