import { PageError } from '../gate';

/**
 * One reading of the hand: page px, pressure 0..1, tilts in degrees (−90..90), twist in degrees (0..359), time in ms from
 * the start of the stroke. Only place and pressure are needed.
 */
export interface PenSample {
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
  readonly tiltX?: number;
  readonly tiltY?: number;
  readonly twist?: number;
  readonly time?: number;
}

/** Steps of a pressure: the 12 bits of common pen tablets. */
export const PRESSURE_STEPS = 4095;

const FIELDS = 7;
/** Steps of the packed numbers: 1/4096 page px keeps every quantised place of up to 256 × zoom exactly. */
const TIME_STEPS = 4;
const STEPS = [4096, 4096, PRESSURE_STEPS, 1, 1, 1, TIME_STEPS] as const;

/** Steps per page px of the grid that samples are rounded to: the finer of 1/16 page px and 1/16 screen px. */
export const gridSteps = (zoom: number): number => Math.min(4096, 16 * 2 ** Math.max(0, Math.ceil(Math.log2(zoom))));

/** A place on the grid on which all later work rests. */
export const quantised = (value: number, steps: number): number => Math.floor(value * steps + 0.5) / steps;

export const quantisedPressure = (pressure: number): number =>
  quantised(pressure < 0 ? 0 : pressure > 1 ? 1 : pressure, PRESSURE_STEPS);

export const quantisedTime = (time: number): number => quantised(time, TIME_STEPS);

/** A sample on the grids on which all later work rests: what is packed comes back the same. */
export function quantisedSample({ x, y, pressure, tiltX, tiltY, twist, time }: PenSample, steps: number): PenSample {
  return {
    x: quantised(x, steps),
    y: quantised(y, steps),
    pressure: quantisedPressure(pressure),
    tiltX: Math.round(tiltX ?? 0),
    tiltY: Math.round(tiltY ?? 0),
    twist: Math.round(twist ?? 0),
    time: quantisedTime(time ?? 0),
  };
}

/** Samples as zigzag varints of second differences in place and differences elsewhere: some 5 to 8 bytes a sample. */
export function packSamples(samples: readonly PenSample[]): Uint8Array {
  const bytes: number[] = [];
  writeVarint(bytes, samples.length);
  const previous = new Array<number>(FIELDS).fill(0);
  const steps = new Array<number>(FIELDS).fill(0);
  for (const sample of samples)
    fieldsOf(sample).forEach((value, field) => {
      const step = value - previous[field];
      const surprise = field < 2 ? step - steps[field] : step;
      writeVarint(bytes, surprise < 0 ? -2 * surprise - 1 : 2 * surprise);
      previous[field] = value;
      steps[field] = step;
    });
  return Uint8Array.from(bytes);
}

/** The samples that were packed. Throws a PageError for bytes that are not packed samples. */
export function unpackSamples(packed: Uint8Array): PenSample[] {
  const cursor = { bytes: packed, at: 0 };
  const count = readVarint(cursor);
  if (count > packed.length)
    throw new PageError('These bytes are not packed samples: they promise more than they hold.');
  const previous = new Array<number>(FIELDS).fill(0);
  const steps = new Array<number>(FIELDS).fill(0);
  const samples: PenSample[] = [];
  for (let k = 0; k < count; k++) {
    for (let field = 0; field < FIELDS; field++) {
      const coded = readVarint(cursor);
      const surprise = coded % 2 ? -(coded + 1) / 2 : coded / 2;
      steps[field] = field < 2 ? steps[field] + surprise : surprise;
      previous[field] += steps[field];
    }
    const [x, y, pressure, tiltX, tiltY, twist, time] = previous.map((value, field) => value / STEPS[field]);
    samples.push({ x, y, pressure, tiltX, tiltY, twist, time });
  }
  if (cursor.at !== packed.length) throw new PageError('These bytes are not packed samples: some are left over.');
  return samples;
}

/**
 * Throws a PageError for bytes that are not packed samples, without unpacking them: every varint is there, and nothing is
 * left over. Far less work than unpacking.
 */
export function checkPacked(packed: Uint8Array): void {
  const cursor = { bytes: packed, at: 0 };
  const count = readVarint(cursor);
  if (count > packed.length)
    throw new PageError('These bytes are not packed samples: they promise more than they hold.');
  let left = count * FIELDS;
  let length = 0;
  let at = cursor.at;
  for (; left > 0 && at < packed.length; at++) {
    length++;
    if (packed[at] < 128) {
      left--;
      length = 0;
    } else if (length === 8) throw new PageError('These bytes are not packed samples: a number is too long.');
  }
  if (left > 0) throw new PageError('These bytes are not packed samples: they end too soon.');
  if (at !== packed.length) throw new PageError('These bytes are not packed samples: some are left over.');
}

const fieldsOf = ({ x, y, pressure, tiltX = 0, tiltY = 0, twist = 0, time = 0 }: PenSample): number[] =>
  [x, y, pressure, tiltX, tiltY, twist, time].map((value, field) => Math.round(value * STEPS[field]));

function writeVarint(bytes: number[], value: number): void {
  let rest = value;
  while (rest >= 128) {
    bytes.push((rest % 128) + 128);
    rest = Math.floor(rest / 128);
  }
  bytes.push(rest);
}

function readVarint(cursor: { readonly bytes: Uint8Array; at: number }): number {
  let value = 0;
  let place = 1;
  for (let k = 0; k < 8; k++) {
    const byte = cursor.bytes[cursor.at++];
    if (byte === undefined) throw new PageError('These bytes are not packed samples: they end too soon.');
    value += (byte & 127) * place;
    if (byte < 128) return value;
    place *= 128;
  }
  throw new PageError('These bytes are not packed samples: a number is too long.');
}
