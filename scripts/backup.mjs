// Writes a copy of the database, whole and consistent, while the server may be running.
// npm run backup [-- FILE]; without a file into data/backups, named by the time.
import { existsSync, mkdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { root } from './install.mjs';

const sqlite3 = createRequire(import.meta.url)('sqlite3');
const folder = process.env.TRUE_NIB_DATA ?? join(root, 'data');
const source = join(folder, 'true-nib.sqlite');
const stamp = new Date().toISOString().slice(0, 19).replace(/[T:]/g, '-');
const target = resolve(process.argv[2] ?? join(folder, 'backups', `true-nib-${stamp}.sqlite`));

if (!existsSync(source)) {
  console.error(`There is nothing to back up: ${source} does not exist.`);
  process.exit(1);
}
if (existsSync(target)) {
  console.error(`${target} is there already; name another file.`);
  process.exit(1);
}
mkdirSync(dirname(target), { recursive: true });
const database = new sqlite3.Database(source, sqlite3.OPEN_READONLY);
// VACUUM INTO takes one snapshot of everything, the write-ahead log included.
database.run('VACUUM INTO ?', target, (error) => {
  if (error) {
    console.error(`The backup failed: ${error.message}`);
    process.exit(1);
  }
  console.log(`Backed up to ${target}. To go back to it, stop True Nib, then: npm run restore -- ${target}`);
});
