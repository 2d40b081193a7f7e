import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Problem } from '../problem';

/** Bytes that a package may have. */
const MOST = 8 * 2 ** 30;

/** Puts what comes into a file that is there as long as `work` needs it. Throws a Problem where the disk has no room for it. */
export async function spooled<T>(
  incoming: Readable,
  free: (() => Promise<number>) | undefined,
  work: (path: string) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'true-nib-in-'));
  try {
    const path = join(folder, 'package');
    const room = free ? Math.min(MOST, (await free()) / 2) : MOST;
    await pipeline(
      incoming,
      async function* (chunks: AsyncIterable<Buffer>) {
        let size = 0;
        for await (const chunk of chunks) {
          size += chunk.length;
          if (size > room)
            throw new Problem(
              507,
              'There is no room for this file',
              'It is larger than what may be kept on this disk. Make room, and bring it in again.',
            );
          yield chunk;
        }
      },
      createWriteStream(path),
    );
    return await work(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
