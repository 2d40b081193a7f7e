import { applyChange, newPage, type Change, type Edit, type Page, type PageSize } from '@true-nib/core/page';
import { pageToSvg, type SvgOptions } from '@true-nib/core/formats';
import sharp from 'sharp';
import { appendChanges } from '../keeping/journal';
import { addPage } from '../keeping/pages';
import type { Store } from '../keeping/store';
import { keepThumbnail } from '../keeping/thumbnails';

export const FOLIO = 'demo-saltmarsh-ferry';
const AUTHOR = 'demo';

/** A change of the demo's own hand. */
export const change = (id: string, label: string, edits: readonly Edit[], needs: readonly string[] = []): Change => ({
  id,
  by: AUTHOR,
  label,
  at: 0,
  needs,
  edits,
});

/** A page as a picture of 320 px across, as the shelf shows it. */
export const thumbnailFrom = (svg: string): Promise<Buffer> =>
  sharp(Buffer.from(svg), { unlimited: true }).resize({ width: 320 }).webp({ quality: 82 }).toBuffer();

/** Keeps a page that some changes make, with its picture. Answers the page. */
export async function keepPage(
  store: Store,
  { id, name, size }: { readonly id: string; readonly name: string; readonly size: PageSize },
  changes: readonly Change[],
  seen: SvgOptions = {},
): Promise<Page> {
  await addPage(store, { id, name, folioId: FOLIO, ...size });
  await appendChanges(store, id, { since: 0 }, changes);
  const page = changes.reduce(applyChange, newPage(size));
  await keepThumbnail(store, id, changes.length, await thumbnailFrom(pageToSvg(page, seen)));
  return page;
}
