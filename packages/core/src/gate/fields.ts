import { SEGMENT, STRIDE, type Spine } from '../curve';
import type { Matrix, Matrix3x3, Point } from '../math';
import { PageError } from './errors';

// What the gate is made of: every function answers the checked value, or throws a PageError that names the field.

/** Limits on what a page may hold; all of them lie far beyond honest work. */
export const ENTITY_LIMITS = {
  coordinate: 1e6,
  spineSegments: 20_000,
  nameLength: 200,
  samplesBytes: 4_000_000,
  needs: 1_000,
  edits: 100_000,
} as const;

export type Fields = Readonly<Record<string, unknown>>;

export function record(value: unknown, what: string): Fields {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new PageError(`${what} is an object with named fields.`);
  return Object.fromEntries(Object.entries(value));
}

export function list(value: unknown, name: string, most: number): readonly unknown[] {
  if (!Array.isArray(value)) throw new PageError(`"${name}" needs a list.`);
  if (value.length > most) throw new PageError(`"${name}" holds at most ${most}; ${value.length} came.`);
  return value;
}

export function numbers(value: unknown, name: string, most: number): Float64Array {
  if (!Array.isArray(value) && !(value instanceof Float64Array))
    throw new PageError(`The ${name} are a list of numbers.`);
  if (value.length > most) throw new PageError(`The ${name} are at most ${most} numbers; ${value.length} came.`);
  const copy = new Float64Array(value.length);
  for (let i = 0; i < value.length; i++)
    copy[i] = number(value[i], name, -ENTITY_LIMITS.coordinate, ENTITY_LIMITS.coordinate);
  return copy;
}

export function number(value: unknown, name: string, least: number, most: number): number {
  if (typeof value !== 'number' || !(value >= least && value <= most))
    throw new PageError(`"${name}" needs a number from ${least} to ${most}; ${String(value).slice(0, 40)} came.`);
  return value;
}

/** A place on a page or about it: `x` and `y` among some fields. */
export function place({ x, y }: Fields): Point {
  const { coordinate } = ENTITY_LIMITS;
  return { x: number(x, 'x', -coordinate, coordinate), y: number(y, 'y', -coordinate, coordinate) };
}

export function text(value: unknown, name: string): string {
  if (typeof value !== 'string' || value.length > ENTITY_LIMITS.nameLength)
    throw new PageError(`"${name}" needs a text of at most ${ENTITY_LIMITS.nameLength} characters.`);
  return value;
}

export function id(value: unknown, name: string): string {
  const found = text(value, name);
  if (found === '') throw new PageError(`"${name}" cannot be empty.`);
  return found;
}

export function colour(value: unknown, name: string): string {
  const found = text(value, name);
  if (!/^#[0-9a-f]{6}$/i.test(found))
    throw new PageError(`A colour is written #rrggbb; ${JSON.stringify(found)} came for "${name}".`);
  return found;
}

/** A field that may be missing, as part of an object. */
export function optional<const K extends string, T>(
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

export function flag(value: unknown, name: string): boolean {
  if (typeof value !== 'boolean') throw new PageError(`"${name}" is either true or false.`);
  return value;
}

export function oneOf<const T extends string>(value: unknown, name: string, choices: readonly T[]): T {
  const found = choices.find((choice) => choice === value);
  if (found === undefined)
    throw new PageError(`"${name}" is one of ${choices.join(', ')}; ${JSON.stringify(value)?.slice(0, 40)} came.`);
  return found;
}

export const within =
  (least: number, most: number) =>
  (value: unknown, name: string): number =>
    number(value, name, least, most);

/** Page px by which the last node of a ring may miss its first, after many maps. */
const COMES_ROUND = 0.01;

export function checkSpine(value: unknown): Spine {
  const fields = record(value, 'A spine');
  const points = numbers(fields.points, 'points of a spine', SEGMENT * ENTITY_LIMITS.spineSegments + STRIDE);
  if (points.length < SEGMENT + STRIDE || (points.length - STRIDE) % SEGMENT !== 0)
    throw new PageError(`A spine needs 3n + 1 triples of x, y, width; ${points.length} numbers came.`);
  const closed = flag(fields.closed, 'closed');
  const end = points.length - STRIDE;
  if (closed && !(Math.hypot(points[end] - points[0], points[end + 1] - points[1]) <= COMES_ROUND))
    throw new PageError('A closed spine ends where it begins.');
  return { points, closed };
}

/** A closed ring of x, y pairs: three points at least. */
export function checkRing(value: unknown, name: string): Float64Array {
  const ring = numbers(value, name, 2 * ENTITY_LIMITS.spineSegments);
  if (ring.length < 6 || ring.length % 2 !== 0)
    throw new PageError(`"${name}" needs three points or more, x and y in turn; ${ring.length} numbers came.`);
  return ring;
}

export function checkMatrix(value: unknown): Matrix {
  const fields = list(value, 'matrix', 6);
  const at = (k: number) => number(fields[k], 'matrix', -1e9, 1e9);
  return [at(0), at(1), at(2), at(3), at(4), at(5)];
}

/** The SHA-256 of some bytes, in hex. */
export function fingerprint(value: unknown): string {
  const blob = text(value, 'blob');
  if (!/^[0-9a-f]{64}$/.test(blob)) throw new PageError('Bytes are named by their SHA-256, 64 hex digits.');
  return blob;
}

/** A projective map of the page, row by row. */
export function checkProjective(value: unknown): Matrix3x3 {
  const fields = list(value, 'map', 9);
  const at = (k: number) => number(fields[k], 'map', -1e12, 1e12);
  return [at(0), at(1), at(2), at(3), at(4), at(5), at(6), at(7), at(8)];
}
