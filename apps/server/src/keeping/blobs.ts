import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { inflate } from 'node:zlib';
import { checkSvgPicture } from '@true-nib/core/formats';
import { PageError } from '@true-nib/core/gate';
import { PICTURE_LIMITS, WASH_BYTES, WASH_SIDE, WASH_TYPE } from '@true-nib/core/page';
import sharp from 'sharp';
import { Problem } from '../problem';
import type { Store } from './query';

const TYPES: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  svg: 'image/svg+xml',
};

export interface Blob {
  readonly sha256: string;
  readonly type: string;
  readonly width: number;
  readonly height: number;
}

export interface BlobBytes extends Blob {
  readonly bytes: Buffer;
}

export const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

export const hasBlob = async (store: Store, sha256: string): Promise<boolean> =>
  (await store.one('SELECT sha256 FROM blobs WHERE sha256 = ?', sha256)) !== undefined;

export async function getBlob(store: Store, sha256: string): Promise<BlobBytes> {
  const blob = await store.one<BlobBytes>(
    'SELECT sha256, type, width, height, bytes FROM blobs WHERE sha256 = ?',
    sha256,
  );
  if (!blob)
    throw new Problem(404, 'There is no such picture', 'No picture with this fingerprint was ever brought in.');
  return blob;
}

const inflated = promisify(inflate);

/** Keeps a picture, or the pixels of a wash tile, under its SHA-256, after looking at all of it. Throws a Problem that says why one is refused. */
export async function keepBlob(store: Store, sha256: string, bytes: Buffer, claimedType?: string): Promise<Blob> {
  if (sha256Of(bytes) !== sha256)
    throw new Problem(
      400,
      'The picture was damaged on its way',
      'Its bytes do not match its fingerprint. Try bringing it in again.',
    );
  const known = await store.one<Blob>('SELECT sha256, type, width, height FROM blobs WHERE sha256 = ?', sha256);
  if (known) return known;
  const blob = { sha256, ...(await (claimedType === WASH_TYPE ? examinedWash(bytes) : examined(bytes, claimedType))) };
  await store.run(
    'INSERT OR IGNORE INTO blobs (sha256, type, width, height, bytes) VALUES ($1, $2, $3, $4, $5)',
    ...[blob.sha256, blob.type, blob.width, blob.height, bytes],
  );
  return blob;
}

/** A wash tile is exactly as many pixels as it is; unpacking stops where they would be more. */
async function examinedWash(bytes: Buffer): Promise<Omit<Blob, 'sha256'>> {
  const pixels = await inflated(bytes, { maxOutputLength: WASH_BYTES }).catch(() => undefined);
  if (pixels?.length !== WASH_BYTES)
    throw new Problem(
      422,
      'These pixels are cut short or damaged',
      `A wash tile is a zlib stream of ${WASH_SIDE} × ${WASH_SIDE} px, RGBA.`,
    );
  return { type: WASH_TYPE, width: WASH_SIDE, height: WASH_SIDE };
}

async function examined(bytes: Buffer, claimedType: string | undefined): Promise<Omit<Blob, 'sha256'>> {
  const { side, area } = PICTURE_LIMITS;
  const header = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => undefined);
  const type = header ? TYPES[header.format] : undefined;
  if (!header || !type)
    throw new Problem(
      415,
      'This is not a picture we can bring in',
      'Bring in a PNG, a JPEG, a WebP or an SVG. This file is none of these, or it is damaged.',
    );
  if (claimedType?.startsWith('image/') && claimedType !== type)
    throw new Problem(
      415,
      'The picture is not what its name says',
      `It calls itself ${claimedType} but holds ${type}. Rename it and bring it in again.`,
    );
  if (type === 'image/svg+xml') checkSvg(bytes);
  // EXIF may ask for a quarter turn; browsers show the picture turned, so its size counts turned too.
  const isTurned = (header.orientation ?? 1) >= 5;
  const [width, height] = isTurned ? [header.height, header.width] : [header.width, header.height];
  if (width > side || height > side || width * height > area)
    throw new Problem(
      413,
      'The picture is too large',
      `It is ${width} × ${height} px; at most ${side} px a side and ${area / 1e6} million px in all can be brought in. Make it smaller first.`,
    );
  await sharp(bytes, { limitInputPixels: area, failOn: 'truncated' })
    .stats()
    .catch(() => {
      throw new Problem(
        422,
        'The picture is cut short or damaged',
        'Its end is missing or cannot be read. Copy it again from where it came.',
      );
    });
  return { type, width, height };
}

function checkSvg(bytes: Buffer): void {
  try {
    checkSvgPicture(bytes.toString('utf8'));
  } catch (error) {
    if (error instanceof PageError) throw new Problem(422, 'This SVG cannot be brought in', error.message);
    throw error;
  }
}
