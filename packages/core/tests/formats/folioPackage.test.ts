import { createHash } from 'node:crypto';
import { zipSync } from 'fflate';
import { folioPackage, openPackage, type PackageHead, type PackagePart } from '../../src/formats';
import { packedList, pack } from '../../src/wire';

const sum = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const BLOB = new Uint8Array(70_000).map((_, k) => (k * 7919) % 256);
const HEAD: PackageHead = {
  ...{ name: 'Saltmarsh Ferry', reads: 'left to right', firstAlone: true },
  pages: [{ id: 'p', name: 'Quay', width: 700, height: 500, ppi: 350, changes: 2 }],
  blobs: [{ sha256: sum(BLOB), type: 'image/png' }],
};
const PARTS: readonly PackagePart[] = [
  { as: 'blob', sha256: sum(BLOB), bytes: BLOB },
  { as: 'rack', value: [{ id: 'liner' }] },
  { as: 'journal', page: 0, bytes: packedList([pack({ id: 'a' })]) },
  { as: 'journal', page: 0, bytes: packedList([pack({ id: 'b' })]) },
];

async function* each<T>(values: readonly T[]): AsyncGenerator<T> {
  for (const value of values) yield await Promise.resolve(value);
}

async function written(head = HEAD, parts = PARTS): Promise<Uint8Array> {
  const bytes: Uint8Array[] = [];
  for await (const part of folioPackage(head, each(parts), sum)) bytes.push(part);
  return Buffer.concat(bytes);
}

/** In pieces of any size, as they come over a network. */
async function read(bytes: Uint8Array, step = 1_000) {
  const pieces = Array.from({ length: Math.ceil(bytes.length / step) }, (_, k) =>
    bytes.subarray(k * step, (k + 1) * step),
  );
  const found = [];
  for await (const part of openPackage(each(pieces), sum)) found.push(part);
  return found;
}

const utf8 = (text: string) => new TextEncoder().encode(text);

describe('A folio as one file', () => {
  it.each([1, 777, 1_000_000])('is what it was when it is opened, in pieces of %d', async (step) => {
    const [head, ...parts] = await read(await written(), step);
    expect(head).toEqual({ as: 'head', head: HEAD });
    expect(parts).toEqual(PARTS);
  });

  it('is the same to the bit when it is written twice', async () => {
    expect(sum(await written())).toBe(sum(await written()));
  });

  it('is a ZIP of version 1 of the schema in docs/deliver.md, which is read for ever', async () => {
    // Written by hand once, as any program may, with sizes after its files or before.
    const folio = utf8(JSON.stringify({ format: 'true-nib-folio', version: 1, ...HEAD, blobs: [] }));
    const journal = Uint8Array.of(0x92, 0x81, 0xa2, 0x69, 0x64, 0xa1, 0x61, 0x81, 0xa2, 0x69, 0x64, 0xa1, 0x62);
    const sums = { 'folio.json': sum(folio), 'pages/0/journal-0.msgpack': sum(journal) };
    const bytes = zipSync({
      'folio.json': folio,
      'pages/0/journal-0.msgpack': journal,
      'sums.json': utf8(JSON.stringify(sums)),
    });
    expect((await read(bytes)).slice(1)).toEqual([{ as: 'journal', page: 0, bytes: journal }]);
  });

  it.each([0.2, 0.5, 0.9, 0.99])('that was cut short is refused: %d of it', async (share) => {
    const bytes = await written();
    await expect(read(bytes.subarray(0, Math.floor(share * bytes.length)))).rejects.toThrow(/cut short|damaged/);
  });

  it('that was changed on its way is refused, wherever', async () => {
    const bytes = await written();
    for (const at of [60, Math.floor(bytes.length / 3), Math.floor(bytes.length / 2)]) {
      const other = Uint8Array.from(bytes);
      other[at] ^= 0x10;
      await expect(read(other)).rejects.toThrow(/changed|damaged|belong|missing|cut short|not a folio|needs|says/);
    }
  });

  const zip = (files: Record<string, Uint8Array>) => zipSync(files);
  const headed = (more: object, files: Record<string, Uint8Array> = {}) =>
    zip({ 'folio.json': utf8(JSON.stringify({ format: 'true-nib-folio', version: 1, ...HEAD, ...more })), ...files });

  it.each([
    ['no ZIP', utf8('hello, this is no ZIP at all'), 'not a folio'],
    ['another ZIP', zip({ 'a.txt': utf8('a') }), 'does not belong'],
    ['something else by name', headed({ format: 'another' }), 'not a folio'],
    ['a newer one', headed({ version: 2 }), 'newer True Nib'],
    ['a path that climbs out', headed({}, { '../../etc/passwd': utf8('x') }), 'does not belong'],
    ['an absolute path', headed({}, { '/blobs/x': utf8('x') }), 'does not belong'],
    ['a page that is not listed', headed({}, { 'pages/7/entities.msgpack': utf8('x') }), 'does not list'],
    ['pages without a size', headed({ pages: [{ id: 'p', name: 'P' }] }), 'needs a number'],
    ['more pages than a folio has', headed({ pages: Array.from({ length: 1_001 }, () => HEAD.pages[0]) }), 'at most'],
    ['a bomb', headed({}, { 'rack.json': new Uint8Array(2 ** 27) }), 'unpacks to more'],
  ])('is refused with a reason: %s', async (_what, bytes, reason) => {
    await expect(read(bytes, 65_536)).rejects.toThrow(reason);
  });
});
