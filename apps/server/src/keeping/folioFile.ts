import { packedValues, openPackage, type PackageHead, type PackagePart } from '@true-nib/core/formats';
import { id as idIn, list, PageError, record } from '@true-nib/core/gate';
import { checkChange, checkEntity, draftChange, type Change } from '@true-nib/core/page';
import { checkRack, mergeRacks, SHIPPED_NIBS } from '@true-nib/core/rack';
import { checkOwnTemplate, templateToJson } from '@true-nib/core/templates';
import { packedList } from '@true-nib/core/wire';
import { checked, SetBody } from '../dto';
import { getBlob, keepBlob, sha256Of, wordsLikeSums, type Keeping } from './blobs';
import { addFolio, changeFolio, getFolio, type Folio } from './folios';
import { appendChanges } from './journal';
import { addPage, listPages, type ListedPage } from './pages';
import { getRack, keepRack } from './rack';
import { changeLengths, changesSince, entityRows } from './rows';
import { getSet, getSets, keepSet } from './sets';
import type { Store } from './store';
import { getTemplates, keepTemplate } from './templates';
import { getThumbnail, keepThumbnail } from './thumbnails';

/** Changes, and about how many bytes of them, that stand in one stretch of a journal. */
const STRETCH = { changes: 500, bytes: 8 * 2 ** 20 } as const;

export interface FolioFile {
  readonly head: PackageHead;
  readonly parts: AsyncIterable<PackagePart>;
}

/**
 * A folio as a package has it: with its journals, so that undo goes on elsewhere, or as it stands alone. What it is made with, nibs,
 * templates and sets, goes along.
 */
export async function folioFile(store: Store, folioId: string, withJournal: boolean): Promise<FolioFile> {
  const { name, reads, firstAlone } = await getFolio(store, folioId);
  const pages = await listPages(store, folioId);
  const sums = await blobsOf(store, pages, withJournal);
  const head: PackageHead = {
    ...{ name, reads, firstAlone },
    pages: pages.map(({ id, name: called, width, height, ppi, revision }) => ({
      ...{ id, name: called, width, height, ppi },
      ...(withJournal && { changes: revision }),
    })),
    blobs: await typesOf(store, sums),
  };
  return { head, parts: partsOf(store, pages, head, withJournal) };
}

/** All blobs that pages need, those that an undo would bring back included, and those of the sets in the library. */
async function blobsOf(store: Store, pages: readonly ListedPage[], withJournal: boolean): Promise<Set<string>> {
  const sums = new Set<string>();
  for (const { id, revision } of pages)
    for await (const bytes of withJournal ? changesOf(store, id, revision) : bytesOn(store, id))
      for (const word of wordsLikeSums(bytes)) sums.add(word);
  for (const { id } of await getSets(store))
    for (const word of wordsLikeSums(Buffer.from(JSON.stringify(await getSet(store, id))))) sums.add(word);
  return sums;
}

async function* changesOf(store: Store, id: string, revision: number): AsyncGenerator<Uint8Array> {
  for (let since = 0; since < revision; since += STRETCH.changes)
    yield* await changesSince(store, id, since, Math.min(STRETCH.changes, revision - since));
}

async function* bytesOn(store: Store, id: string): AsyncGenerator<Uint8Array> {
  for (const { bytes } of await entityRows(store, id)) yield bytes;
}

async function typesOf(store: Store, sums: ReadonlySet<string>): Promise<PackageHead['blobs']> {
  const rows = await store.blobs.findAll({ attributes: ['sha256', 'type'], ...store.within });
  return rows.flatMap(({ sha256, type }) => (sums.has(sha256) ? [{ sha256, type }] : []));
}

async function* partsOf(
  store: Store,
  pages: readonly ListedPage[],
  { blobs }: PackageHead,
  withJournal: boolean,
): AsyncGenerator<PackagePart> {
  for (const { sha256 } of blobs) yield { as: 'blob', sha256, bytes: (await getBlob(store, sha256)).bytes };
  const { nibs } = await getRack(store);
  if (nibs) yield { as: 'rack', value: nibs };
  const templates = await getTemplates(store);
  if (templates.length > 0) yield { as: 'templates', value: templates };
  const cards = await getSets(store);
  if (cards.length > 0)
    yield {
      as: 'sets',
      value: await Promise.all(cards.map(async ({ id, picture }) => ({ id, picture, file: await getSet(store, id) }))),
    };
  for (const [page, { id, revision }] of pages.entries()) {
    if (withJournal) yield* journalOf(store, { page, id, revision });
    else yield { as: 'entities', page, bytes: packedList((await entityRows(store, id)).map(({ bytes }) => bytes)) };
    const thumbnail = await getThumbnail(store, id);
    if (thumbnail) yield { as: 'thumbnail', page, bytes: thumbnail.bytes };
  }
}

/** The journal of a page up to a revision, in stretches. */
async function* journalOf(
  store: Store,
  { page, id, revision }: { readonly page: number; readonly id: string; readonly revision: number },
): AsyncGenerator<PackagePart> {
  for (let since = 0; since < revision;) {
    const most = Math.min(STRETCH.changes, revision - since);
    let [count, size] = [0, 0];
    for (const length of await changeLengths(store, id, since, most)) {
      if (count > 0 && size + length > STRETCH.bytes) break;
      size += length;
      count++;
    }
    yield { as: 'journal', page, bytes: packedList(await changesSince(store, id, since, count)) };
    since += count;
  }
}

/** Reads a package anew from its beginning. */
export type PackageChunks = () => AsyncIterable<Uint8Array>;

/**
 * Takes a package in as a folio of its own, whole or not at all: it is read through once before anything is kept. Blobs, templates and sets that are
 * there already stay as they are, and so do nibs. Throws a PageError or a Problem that says why it is refused.
 */
export async function takeInFolio(store: Store, chunks: PackageChunks, keeping: Keeping): Promise<Folio> {
  const whole = await headOf(chunks);
  const types = new Map(whole.blobs.map(({ sha256, type }) => [sha256, type]));
  // Blobs are looked at one by one, outside of the transaction: those that nobody comes to need are tidied away.
  for await (const part of openPackage(chunks(), sha256Of))
    if (part.as === 'blob')
      await keepBlob(store, { ...part, bytes: Buffer.from(part.bytes), type: types.get(part.sha256) }, keeping);
  return store.atomically(async (inside) => {
    const folio = await addFolio(inside, whole.name);
    const { reads, firstAlone } = whole;
    const pages: Intake[] = [];
    for (const { name, width, height, ppi, changes } of whole.pages) {
      const page = await addPage(inside, { folioId: folio.id, name, width, height, ppi });
      pages.push({ page, expected: changes, taken: 0 });
    }
    for await (const part of openPackage(chunks(), sha256Of)) if (part.as !== 'head') await take(inside, part, pages);
    for (const { page, expected, taken } of pages)
      if (expected !== undefined && expected !== taken)
        throw new PageError(`The journal of “${page.name}” is not whole: ${taken} of ${expected} changes are there.`);
    return changeFolio(inside, folio.id, { reads, firstAlone });
  });
}

/** What a package says of itself, once all of it was read and found whole. */
async function headOf(chunks: PackageChunks): Promise<PackageHead> {
  let head: PackageHead | undefined;
  for await (const part of openPackage(chunks(), sha256Of)) if (part.as === 'head') ({ head } = part);
  if (!head) throw new PageError('This is not a folio of True Nib.');
  return head;
}

/** A page that is being taken in. */
interface Intake {
  readonly page: ListedPage;
  readonly expected: number | undefined;
  taken: number;
}

async function take(store: Store, part: PackagePart, pages: readonly Intake[]): Promise<void> {
  switch (part.as) {
    case 'blob':
      return;
    case 'rack':
      return takeNibs(store, part.value);
    case 'templates':
      return takeTemplates(store, part.value);
    case 'sets':
      return takeSets(store, part.value);
    case 'thumbnail': {
      const { page, taken } = pages[part.page];
      return keepThumbnail(store, page.id, taken, Buffer.from(part.bytes));
    }
    case 'entities': {
      const { page } = pages[part.page];
      const edits = packedValues(part.bytes).map((value) => ({ before: null, after: checkEntity(value) }));
      const change = { ...draftChange('Brought in', edits), id: `${page.id}:in`, by: 'shelf', at: page.createdAt };
      return takeChanges(store, pages[part.page], edits.length > 0 ? [change] : []);
    }
    case 'journal':
      return takeChanges(store, pages[part.page], packedValues(part.bytes).map(checkChange));
  }
}

async function takeChanges(store: Store, intake: Intake, changes: readonly Change[]): Promise<void> {
  if (changes.length === 0) return;
  const { outcome } = await appendChanges(store, intake.page.id, { since: intake.taken }, changes);
  if (outcome !== 'saved') throw new PageError('The journal in this package is damaged.');
  intake.taken += changes.length;
}

/** Nibs that are not in the rack yet are put into it; those that are stay as they are. */
async function takeNibs(store: Store, value: unknown): Promise<void> {
  const { revision, nibs } = await getRack(store);
  await keepRack(store, revision, mergeRacks([], nibs ?? SHIPPED_NIBS, checkRack(value)));
}

async function takeTemplates(store: Store, value: unknown): Promise<void> {
  const known = new Set((await getTemplates(store)).map((one) => checkOwnTemplate(one).id));
  for (const one of listed(value).map(checkOwnTemplate))
    if (!known.has(one.id)) await keepTemplate(store, one.id, templateToJson(one));
}

async function takeSets(store: Store, value: unknown): Promise<void> {
  const known = new Set((await getSets(store)).map(({ id }) => id));
  for (const one of listed(value)) {
    const fields = record(one, 'A set of a package');
    const id = idIn(fields.id, 'id');
    const { picture, file } = checked(SetBody, { picture: fields.picture, file: fields.file });
    if (!known.has(id)) await keepSet(store, id, { picture, file });
  }
}

const listed = (value: unknown): readonly unknown[] => list(value, 'list', 5_000);
