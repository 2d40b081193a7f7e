import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { inflate } from 'node:zlib';
import { checkSvgPicture } from '@true-nib/core/formats';
import { PageError } from '@true-nib/core/gate';
import type { BlobRef } from '@true-nib/core/kind';
import { FONT_TYPE } from '@true-nib/core/lettering';
import { PICTURE_LIMITS, WASH_BYTES, WASH_SIDE, WASH_TYPE } from '@true-nib/core/page';
import { MODEL_TYPE, unpackModel } from '@true-nib/core/set';
import { Problem } from '../problem';
import type { Examiner } from './examiner';
import type { BlobRow } from './models';
import { blobBytes } from './rows';
import type { Store } from './store';

const TYPES: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
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

/** All in some bytes that reads like a SHA-256. */
export const wordsLikeSums = (bytes: Uint8Array): string[] =>
  [
    ...Buffer.from(bytes)
      .toString('latin1')
      .matchAll(/[0-9a-f]{64}/g),
  ].map(([word]) => word);

const SORTS: Readonly<Record<string, BlobRef['as']>> = {
  [WASH_TYPE]: 'pixels',
  [FONT_TYPE]: 'font',
  [MODEL_TYPE]: 'model',
};

/** What bytes of a type are taken for. */
const sortOf = (type: string): BlobRef['as'] => SORTS[type] ?? 'picture';

/** Whether bytes are there that can be taken for a picture, for the pixels of a wash tile, or for a font. */
export async function hasBlob(store: Store, { sha256, as }: BlobRef): Promise<boolean> {
  const blob = await store.blobs.findByPk(sha256, { attributes: ['type'], ...store.within });
  return blob !== null && sortOf(blob.type) === as;
}

export async function getBlob(store: Store, sha256: string): Promise<BlobBytes> {
  const blob = await store.blobs.findByPk(sha256, store.within);
  if (!blob)
    throw new Problem(
      404,
      'There is no such file',
      'No picture, font or model with this fingerprint was ever brought in.',
    );
  return blob;
}

const inflated = promisify(inflate);

/** A picture, or the pixels of a wash tile, as they come. */
export interface Sent {
  readonly sha256: string;
  readonly bytes: Buffer;
  /** What they call themselves. */
  readonly type?: string | undefined;
}

/** What pictures are looked at by, and how much room there is for them on the disk, bytes. */
export interface Keeping {
  readonly examiner: Pick<Examiner, 'examine'>;
  readonly free?: () => Promise<number>;
}

/** Keeps bytes under their SHA-256, after looking at all of them. Throws a Problem that says why they are refused. */
export async function keepBlob(
  store: Store,
  { sha256, bytes, type }: Sent,
  { examiner, free }: Keeping,
): Promise<Blob> {
  if (sha256Of(bytes) !== sha256)
    throw new Problem(
      400,
      'The file was damaged on its way',
      'Its bytes do not match its fingerprint. Try bringing it in again.',
    );
  const known = await store.atomically((inside) => neededAgain(inside, sha256));
  if (known) return known;
  if (free) await requireRoom(store, bytes.length, await free());
  const looks = await lookedAt({ sha256, bytes, type }, examiner);
  return store.atomically(async (inside) => {
    // It may have come a second time while this one was looked at.
    const meanwhile = await neededAgain(inside, sha256);
    return (
      meanwhile ?? blobOf(await inside.blobs.create({ sha256, ...looks, keptAt: Date.now(), bytes }, inside.within))
    );
  });
}

async function lookedAt({ bytes, type }: Sent, examiner: Keeping['examiner']): Promise<Omit<Blob, 'sha256'>> {
  if (type === WASH_TYPE) return examinedWash(bytes);
  if (type === MODEL_TYPE) return examinedModel(bytes);
  return type === FONT_TYPE ? examinedFont(bytes) : examined(bytes, type, examiner);
}

/** A model is read as whoever draws from it will. Throws a PageError. */
function examinedModel(bytes: Buffer): Omit<Blob, 'sha256'> {
  try {
    unpackModel(bytes);
    return { type: MODEL_TYPE, width: 1, height: 1 };
  } catch (error) {
    if (error instanceof PageError) throw new Problem(422, 'This model cannot be brought in', error.message);
    throw error;
  }
}

/** A font is read as whoever sets type with it will; what reads it is loaded with the first one. */
async function examinedFont(bytes: Buffer): Promise<Omit<Blob, 'sha256'>> {
  const { readFont } = await import('@true-nib/core/typeset');
  try {
    readFont(bytes);
    return { type: FONT_TYPE, width: 1, height: 1 };
  } catch (error) {
    if (error instanceof PageError) throw new Problem(422, 'This font cannot be brought in', error.message);
    throw error;
  }
}

const blobOf = ({ sha256, type, width, height }: BlobRow): Blob => ({ sha256, type, width, height });

/** A blob that is there: whoever sends it again is about to need it. */
async function neededAgain({ blobs, within }: Store, sha256: string): Promise<Blob | undefined> {
  const known = await blobs.findByPk(sha256, { attributes: { exclude: ['bytes'] }, ...within });
  return known ? blobOf(await known.update({ keptAt: Date.now() }, within)) : undefined;
}

/** The share of what pictures take up and of what is free beside them that they may take up. */
const SHARE = 1 / 2;
const inMegabytes = (bytes: number): string => `${Math.round(bytes / 1e6).toLocaleString('en-GB')} MB`;

async function requireRoom(store: Store, more: number, free: number): Promise<void> {
  const kept = await blobBytes(store);
  if (kept + more <= SHARE * (kept + free)) return;
  throw new Problem(
    507,
    'There is no room for more pictures and fonts',
    `They take up ${inMegabytes(kept)} here, and ${inMegabytes(free)} are free on the disk: they may have half of both. Make room on the disk, or delete pages that are done: after 30 days \`npm run tidy\` gives back what they held.`,
  );
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

/** Bytes of SVG that are read: a drawing of tens of thousands of lines has fewer. */
const MOST_SVG = 8 * 1024 * 1024;

async function examined(
  bytes: Buffer,
  claimedType: string | undefined,
  examiner: Keeping['examiner'],
): Promise<Omit<Blob, 'sha256'>> {
  if (claimedType === 'image/svg+xml' || looksLikeSvg(bytes)) return examinedSvg(bytes, claimedType);
  const picture = await examiner.examine(bytes);
  if (!picture)
    throw new Problem(
      422,
      'The picture takes too long to read',
      'It was given up. Save it anew with a program that draws, and bring that in.',
    );
  const type = picture.format === undefined ? undefined : TYPES[picture.format];
  if (!type)
    throw new Problem(
      415,
      'This is not a picture we can bring in',
      'Bring in a PNG, a JPEG, a WebP or an SVG. This file is none of these, or it is damaged.',
    );
  requireType(claimedType, type);
  // EXIF may ask for a quarter turn; browsers show the picture turned, so its size counts turned too.
  const isTurned = picture.orientation >= 5;
  const [width, height] = isTurned ? [picture.height, picture.width] : [picture.width, picture.height];
  if (picture.isTooLarge) throw tooLarge(width, height);
  if (!picture.isWhole)
    throw new Problem(
      422,
      'The picture is cut short or damaged',
      'Its end is missing or cannot be read. Copy it again from where it came.',
    );
  return { type, width, height };
}

/** Whether bytes begin as an XML text does. */
const looksLikeSvg = (bytes: Buffer): boolean =>
  /^(\ufeff)?\s*<(\?xml|!--|!doctype svg|svg)/i.test(bytes.toString('utf8', 0, 200));

/** An SVG is read, and never drawn here: how long that takes is up to whoever wrote it. */
function examinedSvg(bytes: Buffer, claimedType: string | undefined): Omit<Blob, 'sha256'> {
  requireType(claimedType, 'image/svg+xml');
  if (bytes.length > MOST_SVG)
    throw new Problem(413, 'The SVG is too large', 'At most 8 MB of SVG are read. Bring it in as a PNG.');
  try {
    const { width, height } = checkSvgPicture(bytes.toString('utf8'));
    const [wide, high] = [width, height].map((length) => Math.max(1, Math.round(length)));
    if (isTooLarge(wide, high)) throw tooLarge(wide, high);
    return { type: 'image/svg+xml', width: wide, height: high };
  } catch (error) {
    if (error instanceof PageError) throw new Problem(422, 'This SVG cannot be brought in', error.message);
    throw error;
  }
}

function requireType(claimed: string | undefined, type: string): void {
  if (!claimed?.startsWith('image/') || claimed === type) return;
  throw new Problem(
    415,
    'The picture is not what its name says',
    `It calls itself ${claimed} but holds ${type}. Rename it and bring it in again.`,
  );
}

const { side: MOST_SIDE, area: MOST_AREA } = PICTURE_LIMITS;

const isTooLarge = (width: number, height: number): boolean =>
  width > MOST_SIDE || height > MOST_SIDE || width * height > MOST_AREA;

const tooLarge = (width: number, height: number): Problem =>
  new Problem(
    413,
    'The picture is too large',
    `It is ${width} × ${height} px; at most ${MOST_SIDE} px a side and ${MOST_AREA / 1e6} million px in all can be brought in. Make it smaller first.`,
  );
