import sharp from 'sharp';
import { Problem } from '../problem';
import { getPage } from './pages';
import type { Store } from './query';

export const THUMBNAIL_BYTES = 2 * 1024 * 1024;

export interface Thumbnail {
  readonly revision: number;
  readonly type: string;
  readonly bytes: Buffer;
}

/** The picture of a page; nothing before its first. Throws a Problem where there is no such page. */
export async function getThumbnail(store: Store, pageId: string): Promise<Thumbnail | undefined> {
  const thumbnail = await store.one<Thumbnail>('SELECT revision, type, bytes FROM thumbnails WHERE pageId = ?', pageId);
  if (!thumbnail) await getPage(store, pageId);
  return thumbnail;
}

/** Whether a page has a picture; a database that cannot tell has none. */
export const hasThumbnail = (store: Store, pageId: string): Promise<boolean> =>
  store.one('SELECT 1 FROM thumbnails WHERE pageId = ?', pageId).then(Boolean, () => false);

/** Keeps the picture of a page at a revision. An older picture never replaces a newer one. */
export async function keepThumbnail(store: Store, pageId: string, revision: number, bytes: Buffer): Promise<void> {
  const page = await getPage(store, pageId);
  if (revision > page.revision)
    throw new Problem(
      400,
      'This revision does not exist yet',
      `The page stands at revision ${page.revision}; ${revision} was named.`,
    );
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
  await store.run(
    `INSERT INTO thumbnails (pageId, revision, type, bytes) VALUES ($1, $2, $3, $4)
      ON CONFLICT (pageId) DO UPDATE SET revision = $2, type = $3, bytes = $4 WHERE excluded.revision >= thumbnails.revision`,
    ...[pageId, revision, type, bytes],
  );
}
