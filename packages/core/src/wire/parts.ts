import { PageError } from '../gate';
import { checkEntity, isKnown, isManyKind, type Entity, type EntityKind } from '../page';
import { pack, unpack } from './codec';

/** Many packed values one after another, with their lengths in bytes: readable in parts, and by a worker as they are. */
export interface PackedParts {
  readonly lengths: Float64Array;
  readonly bytes: Uint8Array;
}

export function joinParts(values: readonly Uint8Array[]): PackedParts {
  const lengths = Float64Array.from(values, (value) => value.length);
  const bytes = new Uint8Array(values.reduce((sum, value) => sum + value.length, 0));
  let end = 0;
  for (const value of values) {
    bytes.set(value, end);
    end += value.length;
  }
  return { lengths, bytes };
}

/** Parts in packed bytes or already unpacked. Throws a PageError when the lengths do not fit the bytes. */
export function checkParts(value: unknown): PackedParts {
  if (typeof value !== 'object' || value === null || !('lengths' in value) || !('bytes' in value))
    throw new PageError('These bytes are not a packed page.');
  const { lengths, bytes } = value;
  if (!(lengths instanceof Float64Array) || !(bytes instanceof Uint8Array))
    throw new PageError('These bytes are not a packed page.');
  let sum = 0;
  for (const length of lengths) sum += length >= 0 ? length : NaN;
  if (sum !== bytes.length) throw new PageError('These bytes are not a packed page: their lengths do not fit.');
  return { lengths, bytes };
}

/**
 * The entities in parts that this core packed and checked before, one by one. What an earlier version may have kept otherwise
 * goes through the gate again; kinds of which there are many do not. Those that are not `wanted` are left out unread.
 */
export function* entitiesIn(
  { lengths, bytes }: PackedParts,
  wanted?: (kind: EntityKind) => boolean,
): Generator<Entity> {
  let at = 0;
  for (const length of lengths) {
    const packed = bytes.subarray(at, at + length);
    at += length;
    if (wanted) {
      const kind = kindTold(packed);
      if (kind !== undefined && !wanted(kind)) continue;
    }
    const value = unpack(packed);
    yield isTrusted(value) ? value : checkEntity(value);
  }
}

const KIND = pack('kind');
/** A short text in MessagePack: its length in the lower five bits, then its bytes. */
const SHORT_TEXT = 0xa0;

/** The kind of a packed entity whose first field says it; of others it is only known once they are read. */
function kindTold(packed: Uint8Array): EntityKind | undefined {
  const from = headOf(packed);
  for (let k = 0; k < KIND.length; k++) if (packed[from + k] !== KIND[k]) return undefined;
  const at = from + KIND.length;
  const length = packed[at] - SHORT_TEXT;
  if (!(length >= 0 && length < 32)) return undefined;
  let kind = '';
  for (let k = at + 1; k <= at + length; k++) kind += String.fromCharCode(packed[k]);
  return isKnown(kind) ? kind : undefined;
}

/** Bytes that say that a map comes, and of how many fields: one for up to fifteen, three or five for more. */
const headOf = ([first]: Uint8Array): number => (first === 0xde ? 3 : first === 0xdf ? 5 : 1);

/** The many: their kind is proof enough that this core wrote them. */
const isTrusted = (value: unknown): value is Entity =>
  typeof value === 'object' &&
  value !== null &&
  'kind' in value &&
  typeof value.kind === 'string' &&
  isKnown(value.kind) &&
  isManyKind(value.kind);
