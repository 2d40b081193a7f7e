import { Packr } from 'msgpackr';
import { PageError } from '../gate';
import { checkChange, checkEntity, type Change, type Entity } from '../page';

// Float64 lists travel as their own bytes; plain MessagePack otherwise, so that any reader of that standard can follow.
const packr = new Packr({ moreTypes: true, useRecords: false, mapsAsObjects: true });

/** The MIME type of packed pages and changes. */
export const PACKED_TYPE = 'application/msgpack';

/**
 * Any plain value of entities, changes and envelopes as MessagePack bytes. In memory of their own: the packer works on one
 * buffer for many, and whoever hands its bytes to a worker would take it away from all others.
 */
export const pack = (value: unknown): Uint8Array => Uint8Array.from(packr.pack(value));

/** The value in MessagePack bytes, not yet checked. Throws a PageError when they cannot be read. */
export function unpack(bytes: Uint8Array): unknown {
  try {
    return packr.unpack(bytes);
  } catch {
    throw new PageError('These bytes cannot be read: they are cut short or not MessagePack.');
  }
}

export const unpackEntity = (bytes: Uint8Array): Entity => checkEntity(unpack(bytes));

export const unpackChange = (bytes: Uint8Array): Change => checkChange(unpack(bytes));

/** A packed list out of values that are packed already: its MessagePack head, then the values as they are. */
export function packedList(values: readonly Uint8Array[]): Uint8Array {
  const length = values.reduce((sum, value) => sum + value.length, 5);
  const bytes = new Uint8Array(length);
  bytes[0] = 0xdd;
  new DataView(bytes.buffer).setUint32(1, values.length);
  let end = 5;
  for (const value of values) {
    bytes.set(value, end);
    end += value.length;
  }
  return bytes;
}

/**
 * How a packed record begins whose last field is a list: its MessagePack head, fields that come before, the name of the
 * list and the list's head. `count` packed values are to follow, one after another.
 */
export function listRecordHead(fields: Readonly<Record<string, unknown>>, name: string, count: number): Uint8Array {
  const known = Object.entries(fields).filter(([, value]) => value !== undefined);
  if (known.length > 14) throw new RangeError(`A packed record has at most 15 fields; ${known.length + 1} came.`);
  const pieces = [...known.flatMap(([field, value]) => [pack(field), pack(value)]), pack(name)];
  const length = pieces.reduce((sum, piece) => sum + piece.length, 1);
  const bytes = new Uint8Array(length + 5);
  bytes[0] = 0x81 + known.length;
  let end = 1;
  for (const piece of pieces) {
    bytes.set(piece, end);
    end += piece.length;
  }
  bytes[end] = 0xdd;
  new DataView(bytes.buffer).setUint32(end + 1, count);
  return bytes;
}

/** Edits packed in one go: some ms. */
const PART = 100;
/** Edits from which packing is felt when it follows on other work. */
const LARGE = 24;

/** Whether a change is large enough to be packed in parts, and not at once. */
export const isLarge = (edits: readonly unknown[]): boolean => edits.length > LARGE;

/** A packed change in parts, some edits each: one after another they are what `unpackChange` reads. */
export function* packedInParts({ edits, ...head }: Change): Generator<Uint8Array> {
  yield listRecordHead(head, 'edits', edits.length);
  for (let from = 0; from < edits.length; from += PART) {
    const part = edits.slice(from, from + PART);
    // The edits without the head of their list: one byte for up to fifteen, three for more.
    yield pack(part).subarray(part.length < 16 ? 1 : 3);
  }
}

/** An entity or change as plain JSON: lists of numbers for the typed ones, base64 under `$bytes` for packed bytes. */
export function toJson(value: unknown): unknown {
  if (value instanceof Float64Array) return Array.from(value);
  if (value instanceof Uint8Array) return { $bytes: base64(value) };
  if (Array.isArray(value)) return value.map(toJson);
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, toJson(inner)]));
  return value;
}

/** Turns `$bytes` back into bytes; lists of numbers are left for `checkEntity`. */
export function fromJson(value: unknown): unknown {
  if (Array.isArray(value)) return typeof value[0] === 'number' ? value : value.map(fromJson);
  if (typeof value !== 'object' || value === null) return value;
  if ('$bytes' in value && typeof value.$bytes === 'string') return bytesOf(value.$bytes);
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, fromJson(inner)]));
}

const base64 = (bytes: Uint8Array): string => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));

function bytesOf(coded: string): Uint8Array {
  try {
    return Uint8Array.from(atob(coded), (char) => char.charCodeAt(0));
  } catch {
    throw new PageError('Bytes in JSON are written in base64.');
  }
}
