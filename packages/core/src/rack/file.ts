import { checkCalm } from '../hand';
import { checkNib } from '../nib';
import { PageError } from '../gate';
import { MOST_NIBS, RackError, SIZE_LIMITS, TWIN_LIMITS, type Rack, type RackNib } from './rack';

const FORMAT = 'true-nib-rack';
const VERSION = 1;
/** Characters that a rack file may have. */
const LONGEST = 4_000_000;

type Fields = Readonly<Record<string, unknown>>;

/** A rack as the text of a file (docs/nib-rack.schema.json). */
export const rackToText = (nibs: Rack): string =>
  `${JSON.stringify({ format: FORMAT, version: VERSION, nibs }, null, 2)}\n`;

/**
 * The nibs in the text of a file. Fields that are not known are left out. Throws a RackError that names the nib, the field,
 * what it needs and what came.
 */
export function rackFromText(text: string): Rack {
  if (text.length > LONGEST) throw new RackError('This file is larger than any rack.');
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new RackError('This file is no nib rack: it is not JSON.');
  }
  const fields = record(value);
  if (fields?.format !== FORMAT) throw new RackError('This file is no nib rack of True Nib.');
  if (fields.version !== VERSION)
    throw new RackError(
      `This rack is of version ${String(fields.version).slice(0, 20)}; version ${VERSION} is known here.`,
    );
  return checkRack(fields.nibs);
}

/** The rack in `value`, with unknown fields left out. Throws a RackError as `rackFromText` does. */
export function checkRack(value: unknown): Rack {
  if (!Array.isArray(value) || value.length === 0) throw new RackError('A rack is a list of at least one nib.');
  if (value.length > MOST_NIBS) throw new RackError(`A rack holds at most ${MOST_NIBS} nibs; ${value.length} came.`);
  const nibs = value.map(checkRackNib);
  const ids = new Set(nibs.map(({ id }) => id));
  if (ids.size < nibs.length) throw new RackError('Two nibs of this rack have the same id.');
  return nibs;
}

function checkRackNib(value: unknown, k: number): RackNib {
  const fields = record(value);
  const named = record(fields?.nib)?.name;
  const which = typeof named === 'string' && named !== '' ? `"${named.slice(0, 60)}"` : `Nib ${k + 1}`;
  const fail = (reason: string): never => {
    throw new RackError(`${which}: ${reason}`);
  };
  if (!fields) return fail('a nib is an object with named fields.');
  const words = (name: string) => {
    const text = fields[name];
    return typeof text === 'string' && text !== '' && text.length <= 200
      ? text
      : fail(`"${name}" needs a text of 1 to 200 characters.`);
  };
  const oneOf = <const T extends string>(name: string, choices: readonly T[]): T =>
    choices.find((choice) => choice === fields[name]) ?? fail(`"${name}" is one of ${choices.join(', ')}.`);
  const size = (came: unknown, name: string, { least, most }: { least: number; most: number }, unit: string) =>
    typeof came === 'number' && came >= least && came <= most
      ? came
      : fail(`"${name}" needs a number from ${least} to ${most} ${unit}; ${String(came).slice(0, 40)} came.`);
  try {
    const unit = oneOf('unit', ['px', 'mm']);
    const nib = checkNib(fields.nib);
    size(nib.size, 'size', SIZE_LIMITS[unit], unit);
    const twin = record(fields.twin) ?? fail('"twin" is an object with a size and a calm.');
    return {
      id: words('id'),
      group: words('group'),
      favourite: fields.favourite === true,
      unit,
      lays: oneOf('lays', ['ink', 'paper', 'clearing']),
      nib,
      calm: checkCalm(fields.calm),
      twin: { size: size(twin.size, 'size of the eraser twin', TWIN_LIMITS[unit], unit), calm: checkCalm(twin.calm) },
    };
  } catch (error) {
    if (error instanceof PageError) return fail(error.message);
    throw error;
  }
}

const record = (value: unknown): Fields | undefined =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value))
    : undefined;
