import { createRequire } from 'node:module';
import { join } from 'node:path';
import { root } from './install.mjs';

/** Where True Nib keeps everything, for the scripts that look after it. */
export const folder = process.env.TRUE_NIB_DATA ?? join(root, 'data');
export const database = join(folder, 'true-nib.sqlite');
export const sqlite3 = createRequire(import.meta.url)('sqlite3');

/** A name for what is laid beside the database now. */
export const besideIt = (kind) =>
  join(folder, 'backups', `${kind}-${new Date().toISOString().slice(0, 19).replace(/[T:]/g, '-')}.sqlite`);

/** Ends with a sentence. */
export function refuse(sentence) {
  console.error(sentence);
  process.exit(1);
}
