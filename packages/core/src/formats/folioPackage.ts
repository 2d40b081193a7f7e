import { Unzip, UnzipInflate } from 'fflate';
import {
  fingerprint as fingerprintOf,
  flag,
  id,
  list,
  number,
  oneOf,
  optional,
  PageError,
  record,
  within,
} from '../gate';
import { checkSize, READINGS, type Reading } from '../page';
import { unpack } from '../wire';
import { joined, ZipWriter } from './zip';

/** What a package says of itself. Packages of every version up to this one are read. */
export const PACKAGE_VERSION = 1;
const FORMAT = 'true-nib-folio';

/** A page as the package lists it. */
export interface PackedPage {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  /** Changes in its journal; left out where the package has none. */
  readonly changes?: number;
}

/** What stands first in a package. */
export interface PackageHead {
  readonly name: string;
  readonly reads: Reading;
  readonly firstAlone: boolean;
  readonly pages: readonly PackedPage[];
  readonly blobs: readonly { readonly sha256: string; readonly type: string }[];
}

/** A part of a package, in the order in which they stand in it: what pages refer to comes before them. */
export type PackagePart =
  | { readonly as: 'blob'; readonly sha256: string; readonly bytes: Uint8Array }
  /** The nib rack, templates and sets of the desk: what each is, is its keeper's matter. */
  | { readonly as: 'rack' | 'templates' | 'sets'; readonly value: unknown }
  /** The small picture of a page. */
  | { readonly as: 'thumbnail'; readonly page: number; readonly bytes: Uint8Array }
  /** What lies on a page, packed: a list of entities. */
  | { readonly as: 'entities'; readonly page: number; readonly bytes: Uint8Array }
  /** A stretch of a page's journal, oldest first: a packed list of changes. */
  | { readonly as: 'journal'; readonly page: number; readonly bytes: Uint8Array };

/** Fingerprints bytes by SHA-256, in hex. */
export type Fingerprint = (bytes: Uint8Array) => string;

/**
 * Writes a folio as one file: a ZIP by the schema in docs/deliver.md. Each file in it stands in `sums.json`, which comes last, with its
 * SHA-256: what ends before that was cut short. Answers its bytes as they come to be.
 */
export async function* folioPackage(
  head: PackageHead,
  parts: AsyncIterable<PackagePart>,
  fingerprint: Fingerprint,
): AsyncGenerator<Uint8Array> {
  const zip = new ZipWriter();
  const sums: Record<string, string> = {};
  const add = (name: string, bytes: Uint8Array, stored = false) => {
    sums[name] = fingerprint(bytes);
    return zip.add(name, bytes, { stored });
  };
  yield* add('folio.json', utf8(JSON.stringify({ format: FORMAT, version: PACKAGE_VERSION, ...head }, null, 1)));
  const stretches = new Map<number, number>();
  for await (const part of parts)
    switch (part.as) {
      case 'blob':
        // Pictures and pixels are packed already.
        yield* add(`blobs/${part.sha256}`, part.bytes, true);
        break;
      case 'rack':
      case 'templates':
      case 'sets':
        yield* add(`${part.as}.json`, utf8(JSON.stringify(part.value)));
        break;
      case 'thumbnail':
        yield* add(`pages/${part.page}/thumbnail`, part.bytes, true);
        break;
      case 'entities':
        yield* add(`pages/${part.page}/entities.msgpack`, part.bytes);
        break;
      case 'journal': {
        const stretch = stretches.get(part.page) ?? 0;
        stretches.set(part.page, stretch + 1);
        yield* add(`pages/${part.page}/journal-${stretch}.msgpack`, part.bytes);
        break;
      }
    }
  yield* zip.add('sums.json', utf8(JSON.stringify(sums, null, 1)));
  yield* zip.finish();
}

/** Limits on what is unpacked; all of them lie far beyond honest work. */
const LIMITS = { file: 2 ** 29, json: 2 ** 26, files: 200_000, pages: 1_000, changes: 1_000_000 } as const;

/** Names that a package may have: anything else is let be. */
const NAMES =
  /^(folio\.json|sums\.json|(rack|templates|sets)\.json|blobs\/[0-9a-f]{64}|pages\/\d{1,4}\/(thumbnail|entities\.msgpack|journal-\d{1,6}\.msgpack))$/;

/**
 * Reads a package as it comes: what it says of itself first, then its parts in their order, each held against its fingerprint at the end. Throws a
 * PageError that says why it is refused: no package, a newer one, cut short, changed, or larger than any honest one.
 */
export async function* openPackage(
  chunks: AsyncIterable<Uint8Array>,
  fingerprint: Fingerprint,
): AsyncGenerator<{ readonly as: 'head'; readonly head: PackageHead } | PackagePart> {
  const sums = new Map<string, string>();
  let head: PackageHead | undefined;
  let told: Readonly<Record<string, unknown>> | undefined;
  for await (const { name, bytes } of filesIn(chunks)) {
    if (!NAMES.test(name))
      throw new PageError(`There is a file in this package that does not belong there: “${name.slice(0, 60)}”.`);
    if (name === 'sums.json') {
      told = record(json(bytes), 'The list of sums');
      continue;
    }
    sums.set(name, fingerprint(bytes));
    if (name === 'folio.json') {
      head = headOf(json(bytes));
      yield { as: 'head', head };
      continue;
    }
    if (!head) throw new PageError('This is not a folio of True Nib: it does not begin as one.');
    yield partOf(name, bytes, head);
  }
  if (!head) throw new PageError('This is not a folio of True Nib.');
  if (!told) throw new PageError('This package is cut short: its end is missing.');
  for (const [name, sum] of sums)
    if (told[name] !== sum)
      throw new PageError(`This package was changed or damaged on its way: “${name}” is not what it was.`);
  for (const name of Object.keys(told))
    if (!sums.has(name)) throw new PageError(`A part of this package is missing: “${name}”.`);
}

function partOf(name: string, bytes: Uint8Array, { pages }: PackageHead): PackagePart {
  const [, folder, file] = /^(?:(.*)\/)?([^/]+)$/.exec(name) ?? [];
  if (folder === 'blobs') return { as: 'blob', sha256: file, bytes };
  if (name === 'rack.json') return { as: 'rack', value: json(bytes) };
  if (name === 'templates.json') return { as: 'templates', value: json(bytes) };
  if (name === 'sets.json') return { as: 'sets', value: json(bytes) };
  const page = Number(folder.slice('pages/'.length));
  if (page >= pages.length) throw new PageError('This package has a page that it does not list.');
  if (file === 'thumbnail') return { as: 'thumbnail', page, bytes };
  if (file.startsWith('entities')) return { as: 'entities', page, bytes };
  return { as: 'journal', page, bytes };
}

/** The values of a packed list in a package. Throws a PageError for anything else. */
export function packedValues(bytes: Uint8Array): readonly unknown[] {
  const values = unpack(bytes);
  if (!Array.isArray(values)) throw new PageError('A part of this package is damaged.');
  return values;
}

/** The files of a ZIP, one after the other, each whole. */
async function* filesIn(
  chunks: AsyncIterable<Uint8Array>,
): AsyncGenerator<{ readonly name: string; readonly bytes: Uint8Array }> {
  const done: { name: string; bytes: Uint8Array }[] = [];
  let [open, count] = [0, 0];
  let failed: unknown;
  const unzip = new Unzip((file) => {
    if (++count > LIMITS.files) failed ??= new PageError('This package has too many files.');
    const most = file.name.endsWith('.json') ? LIMITS.json : LIMITS.file;
    const parts: Uint8Array[] = [];
    let size = 0;
    open++;
    file.ondata = (error, part, isLast) => {
      if (error) failed ??= new PageError('This package is cut short or damaged.');
      // Counted while it unpacks: what says that it is small may be anything.
      size += part?.length ?? 0;
      if (size > most) failed ??= new PageError('A file in this package unpacks to more than any honest one.');
      if (failed) return file.terminate();
      parts.push(part);
      if (!isLast) return;
      open--;
      done.push({ name: file.name, bytes: parts.length === 1 ? parts[0] : joined(parts) });
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const give = function* () {
    if (failed) throw failed;
    yield* done.splice(0);
  };
  try {
    for await (const chunk of chunks) {
      for (let from = 0; from < chunk.length; from += STEP) {
        unzip.push(chunk.subarray(from, from + STEP), false);
        yield* give();
      }
    }
    unzip.push(new Uint8Array(0), true);
  } catch (error) {
    if (error instanceof PageError) throw error;
    throw new PageError('This package is cut short or damaged.');
  }
  yield* give();
  if (open > 0) throw new PageError('This package is cut short: its end is missing.');
}

/** Bytes that are unpacked at a time, so that what unpacks to far more is seen early. */
const STEP = 2 ** 16;

function headOf(value: unknown): PackageHead {
  const fields = record(value, 'What a package says of itself');
  if (fields.format !== FORMAT) throw new PageError('This is not a folio of True Nib.');
  if (number(fields.version, 'version', 1, Number.MAX_SAFE_INTEGER) > PACKAGE_VERSION)
    throw new PageError('This package was made by a newer True Nib. Bring this desk up to date, and open it then.');
  return {
    name: id(fields.name, 'name'),
    reads: oneOf(fields.reads, 'reads', READINGS),
    firstAlone: flag(fields.firstAlone, 'firstAlone'),
    pages: list(fields.pages, 'pages', LIMITS.pages).map((one): PackedPage => {
      const page = record(one, 'A page of a package');
      return {
        ...{ id: id(page.id, 'id'), name: id(page.name, 'name') },
        ...checkSize({
          width: number(page.width, 'width', 1, 1e6),
          height: number(page.height, 'height', 1, 1e6),
          ppi: number(page.ppi, 'ppi', 1, 1e5),
        }),
        ...optional(page, 'changes', within(0, LIMITS.changes)),
      };
    }),
    blobs: list(fields.blobs, 'blobs', LIMITS.files).map((one) => {
      const blob = record(one, 'A blob of a package');
      return { sha256: fingerprintOf(blob.sha256), type: id(blob.type, 'type') };
    }),
  };
}

const DAMAGED = 'What this package says of itself is damaged.';

function json(bytes: Uint8Array): unknown {
  if (bytes.length > LIMITS.json) throw new PageError(DAMAGED);
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw new PageError(DAMAGED);
  }
}

const utf8 = (value: string): Uint8Array => new TextEncoder().encode(value);
