import { randomUUID } from 'node:crypto';
import { writtenOn, type Written } from '@true-nib/core/comic';
import { ChangeConflict } from '@true-nib/core/gate';
import { foundIn, type FontFaces, type Sought } from '@true-nib/core/lettering';
import { draftChange, EntityMap, invertChange, type Page } from '@true-nib/core/page';
import type { LetterFont, ReadFonts } from '@true-nib/core/typeset';
import { unpackChange, unpackEntity } from '@true-nib/core/wire';
import { getBlob } from './blobs';
import { getFolio } from './folios';
import { appendChanges, getChange } from './journal';
import { getPage, listPages, type ListedPage } from './pages';
import { entitiesOfKinds } from './rows';
import type { Store } from './store';

/** What lettering is read and set anew by: of a page of many lines nothing else is fetched. */
const KINDS = ['panel', 'balloon', 'lettering', 'layer', 'sheet'];

async function letteredPage(store: Store, { id, width, height, ppi }: ListedPage): Promise<Page> {
  const rows = await entitiesOfKinds(store, id, KINDS);
  return { size: { width, height, ppi }, entities: EntityMap.of(rows.map(({ bytes }) => unpackEntity(bytes))) };
}

/** What is written on the pages of a folio, page by page, each as it is read. */
export async function writtenInFolio(
  store: Store,
  folioId: string,
): Promise<{ readonly id: string; readonly name: string; readonly written: readonly Written[] }[]> {
  await getFolio(store, folioId);
  const pages = await listPages(store, folioId);
  return Promise.all(
    pages.map(async (page) => ({
      ...{ id: page.id, name: page.name },
      written: writtenOn(await letteredPage(store, page)),
    })),
  );
}

/** A change of a page. */
interface Place {
  readonly id: string;
  readonly changeId: string;
}

/** What came of words that were replaced in a folio. */
export interface ReplacedWords {
  readonly count: number;
  readonly locked: number;
  /** Texts that do not fit any more, by the page that they are on. */
  readonly tight: readonly { readonly id: string; readonly count: number }[];
  readonly missing: readonly string[];
  /** By these it can be taken back. */
  readonly changes: readonly Place[];
}

/** Replaces words on all pages of a folio, or on none: one change a page, signed by whoever asks. */
export async function replaceInFolio(
  store: Store,
  folioId: string,
  { sought, other, by }: { readonly sought: Sought; readonly other: string; readonly by: string },
): Promise<ReplacedWords> {
  // What sets type is loaded when it is first needed.
  const { readFont, replaceWords } = await import('@true-nib/core/typeset');
  const read = new Map<string, LetterFont>();
  const fontsOn = async (inside: Store, page: Page): Promise<void> => {
    for (const entity of page.entities) {
      if (entity.kind !== 'lettering' || foundIn(entity.runs, sought).length === 0) continue;
      for (const { sha256 } of facesIn(entity.style.fonts))
        if (!read.has(sha256)) read.set(sha256, readFont((await getBlob(inside, sha256)).bytes));
    }
  };
  return store.atomically(async (inside) => {
    await getFolio(inside, folioId);
    const missing = new Set<string>();
    const tight: { id: string; count: number }[] = [];
    const changes: Place[] = [];
    let [count, locked] = [0, 0];
    for (const listed of await listPages(inside, folioId)) {
      const page = await letteredPage(inside, listed);
      await fontsOn(inside, page);
      const done = replaceWords(page, sought, other, (faces) => fontsOf(faces, read));
      locked += done.locked;
      if (done.edits.length === 0) continue;
      const signed = { ...draftChange('Replace words', done.edits), id: randomUUID(), by, at: Date.now() };
      await appendChanges(inside, listed.id, { since: listed.revision }, [signed]);
      count += done.count;
      if (done.tight > 0) tight.push({ id: listed.id, count: done.tight });
      for (const letter of done.missing) missing.add(letter);
      changes.push({ id: listed.id, changeId: signed.id });
    }
    return { count, locked, tight, missing: [...missing], changes };
  });
}

const facesIn = ({ plain, bold, italic, boldItalic }: FontFaces) =>
  [plain, bold, italic, boldItalic].flatMap((face) => face ?? []);

function fontsOf({ plain, bold, italic, boldItalic }: FontFaces, read: ReadonlyMap<string, LetterFont>): ReadFonts {
  const font = read.get(plain.sha256);
  if (!font) throw new TypeError(`The font ${plain.name} was not read.`);
  const face = (ref: FontFaces['bold']) => ref && read.get(ref.sha256);
  return { plain: font, bold: face(bold), italic: face(italic), boldItalic: face(boldItalic) };
}

/** Takes changes of a folio's pages back where nothing came over them since. Answers how many pages were left as they are. */
export function takeBackWords(
  store: Store,
  folioId: string,
  places: readonly Place[],
  by: string,
): Promise<{ readonly left: number }> {
  return store.atomically(async (inside) => {
    const own = new Set((await listPages(inside, folioId)).map(({ id }) => id));
    let left = 0;
    for (const { id, changeId } of places) {
      if (!own.has(id)) {
        left++;
        continue;
      }
      const change = unpackChange(await getChange(inside, id, changeId));
      const back = invertChange(change, { id: randomUUID(), by, at: Date.now() });
      try {
        await appendChanges(inside, id, { since: (await getPage(inside, id)).revision }, [back]);
      } catch (error) {
        if (!(error instanceof ChangeConflict)) throw error;
        left++;
      }
    }
    return { left };
  });
}
