import { checkSvgPicture } from '@true-nib/core/formats';
import { PageError } from '@true-nib/core/gate';
import { PICTURE_LIMITS, type Placement } from '@true-nib/core/page';
import { bringInRough } from '@true-nib/core/tools';
import { ApiProblem, Offline } from '../api';
import { newId, type PageSession } from '../session';
import { sha256Of } from '../base';

const TYPES = new Set(['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml']);

/** A picture file that cannot be brought in; the message says why and what to do. */
export class RefusedPicture extends Error {
  override readonly name = 'RefusedPicture';
}

/**
 * Brings a picture into the page as a rough of its own, fitted and centred or where `placement` says, at 50 % and blue, under
 * everything. Answers the
 * new picture's id. Throws a RefusedPicture, with the page as it was, when the file is no picture we can use.
 */
export async function bringIn(session: PageSession, file: File, placement?: Placement): Promise<string> {
  if (file.size > PICTURE_LIMITS.bytes)
    throw new RefusedPicture(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; at most 64 MB can be brought in. Make it smaller first.`,
    );
  if (file.size === 0) throw new RefusedPicture(`${file.name} is empty.`);
  const type = file.type || (file.name.endsWith('.svg') ? 'image/svg+xml' : '');
  if (!TYPES.has(type)) throw new RefusedPicture(`${file.name} is not a PNG, JPEG, WebP or SVG.`);
  const bytes = new Blob([await file.arrayBuffer()], { type });
  const size = await measured(bytes, file.name);
  const sha256 = await sha256Of(await bytes.arrayBuffer());
  await send(session, sha256, bytes);
  const ids = { layer: newId(), picture: newId() };
  if (!session.make(bringInRough(session.page, { blob: sha256, ...size }, ids, placement)))
    throw new RefusedPicture('The page changed meanwhile. Try once more.');
  return ids.picture;
}

/** The server looks at the whole file and says what is wrong with it; while it is away the outbox keeps the bytes. */
async function send(session: PageSession, sha256: string, bytes: Blob): Promise<void> {
  try {
    await session.sendBlob(sha256, bytes);
  } catch (error) {
    if (error instanceof ApiProblem) throw new RefusedPicture(error.message);
    if (!(error instanceof Offline)) throw error;
    await session.keepBlob(sha256, bytes);
  }
}

async function measured(bytes: Blob, name: string): Promise<{ width: number; height: number }> {
  if (bytes.type === 'image/svg+xml') {
    try {
      const { width, height } = checkSvgPicture(await bytes.text());
      return { width: Math.max(1, width), height: Math.max(1, height) };
    } catch (error) {
      if (error instanceof PageError) throw new RefusedPicture(error.message);
      throw error;
    }
  }
  const address = URL.createObjectURL(bytes);
  try {
    // An image element reads the header without unpacking the pixels.
    const image = new Image();
    image.src = address;
    await new Promise((resolve, reject) => {
      image.onload = resolve;
      image.onerror = reject;
    });
    const { naturalWidth: width, naturalHeight: height } = image;
    if (width * height > PICTURE_LIMITS.area || Math.max(width, height) > PICTURE_LIMITS.side)
      throw new RefusedPicture(
        `${name} is ${width} × ${height} px; at most 20,000 px a side and 80 million px in all can be brought in.`,
      );
    return { width, height };
  } catch (error) {
    if (error instanceof RefusedPicture) throw error;
    throw new RefusedPicture(`${name} cannot be read as a picture. It is damaged, or not what its name says.`);
  } finally {
    URL.revokeObjectURL(address);
  }
}
