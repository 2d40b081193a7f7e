import { WASH_SIDE } from '@true-nib/core/page';
import { sha256Of } from '../base/sha256';

/** A tile's pixels as they are kept: a zlib stream of RGBA, named by its SHA-256. */
export interface PackedTile {
  readonly blob: string;
  readonly bytes: ArrayBuffer;
}

export async function packTile({ data }: ImageData): Promise<PackedTile> {
  const bytes = await piped(data, new CompressionStream('deflate'));
  return { blob: await sha256Of(bytes), bytes };
}

/** The pixels in a tile's bytes. Throws when they are not one tile's. */
export async function unpackTile(bytes: ArrayBuffer): Promise<ImageData> {
  const pixels = await piped(bytes, new DecompressionStream('deflate'));
  return new ImageData(new Uint8ClampedArray(pixels), WASH_SIDE, WASH_SIDE);
}

const piped = (bytes: BufferSource, through: CompressionStream | DecompressionStream): Promise<ArrayBuffer> =>
  new Response(new Response(bytes).body?.pipeThrough(through)).arrayBuffer();
