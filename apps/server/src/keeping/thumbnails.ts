import { Problem } from '../problem';
import { getPage } from './pages';
import type { Store } from './store';

export const THUMBNAIL_BYTES = 2 * 1024 * 1024;

export interface Thumbnail {
  readonly revision: number;
  readonly type: string;
  readonly bytes: Buffer;
}

/** The picture of a page; nothing before its first. Throws a Problem where there is no such page. */
export async function getThumbnail(store: Store, pageId: string): Promise<Thumbnail | undefined> {
  const thumbnail = await store.thumbnails.findByPk(pageId, store.within);
  if (!thumbnail) await getPage(store, pageId);
  return thumbnail ?? undefined;
}

/** Whether a page has a picture; a database that cannot tell has none. */
export const hasThumbnail = (store: Store, pageId: string): Promise<boolean> =>
  store.thumbnails.count({ where: { pageId }, ...store.within }).then(Boolean, () => false);

/** Keeps the picture of a page at a revision. An older picture never replaces a newer one. */
export async function keepThumbnail(store: Store, pageId: string, revision: number, bytes: Buffer): Promise<void> {
  const page = await getPage(store, pageId);
  if (revision > page.revision)
    throw new Problem(
      400,
      'This revision does not exist yet',
      `The page stands at revision ${page.revision}; ${revision} was named.`,
    );
  // Loaded with the first picture: it takes as long as all else that a start needs.
  const { default: sharp } = await import('sharp');
  const header = await sharp(bytes)
    .metadata()
    .catch(() => undefined);
  const type = header && { png: 'image/png', webp: 'image/webp', jpeg: 'image/jpeg' }[String(header.format)];
  if (!header || !type || header.width > 1_024 || header.height > 4_096)
    throw new Problem(
      415,
      'This is not a picture of a page',
      'A PNG, JPEG or WebP of at most 1,024 × 4,096 px is expected.',
    );
  await store.atomically(async ({ thumbnails, within }) => {
    const known = await thumbnails.findByPk(pageId, { attributes: ['revision'], ...within });
    if (known && known.revision > revision) return;
    await thumbnails.upsert({ pageId, revision, type, bytes }, within);
  });
}
