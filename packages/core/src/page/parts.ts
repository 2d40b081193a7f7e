import { checkEntity } from './check';
import { pack, unpack } from './codec';
import type { Entity } from './entity';
import { PageError } from './errors';

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
 * goes through the gate again; strokes and samples, of which there are many, do not. Samples can be left out unread.
 */
export function* entitiesIn({ lengths, bytes }: PackedParts, withSamples = true): Generator<Entity> {
  let at = 0;
  for (const length of lengths) {
    const packed = bytes.subarray(at, at + length);
    at += length;
    if (!withSamples && beginsAsSamples(packed)) continue;
    const value = unpack(packed);
    yield isCommon(value) ? value : checkEntity(value);
  }
}

const SAMPLES = pack({ kind: 'samples' });
/** What comes after the head of a map, which tells how many fields there are: "kind", then "samples", each with its length. */
const SAMPLES_HEAD = SAMPLES.length - pack('kind').length - pack('samples').length;

/** Whether the first field of a packed entity says that it is samples; those that say so later are only read in vain. */
function beginsAsSamples(packed: Uint8Array): boolean {
  for (let k = SAMPLES_HEAD; k < SAMPLES.length; k++) if (packed[k] !== SAMPLES[k]) return false;
  return true;
}

/** The many: their kind is proof enough that this core wrote them. */
const isCommon = (value: unknown): value is Entity =>
  typeof value === 'object' &&
  value !== null &&
  'kind' in value &&
  (value.kind === 'stroke' || value.kind === 'samples');
