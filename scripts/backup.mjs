// Writes a copy of the database, whole and consistent, while the server may be running.
// npm run backup [-- FILE]; without a file into data/backups, named by the time.
import { existsSync, mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { besideIt, database, refuse, sqlite3 } from './data.mjs';

const target = resolve(process.argv[2] ?? besideIt('true-nib'));
if (!existsSync(database)) refuse(`There is nothing to back up: ${database} does not exist.`);
if (existsSync(target)) refuse(`${target} is there already; name another file.`);
mkdirSync(dirname(target), { recursive: true });
// VACUUM INTO takes one snapshot of everything, the write-ahead log included.
new sqlite3.Database(database, sqlite3.OPEN_READONLY).run('VACUUM INTO ?', target, (error) => {
  if (error) refuse(`The backup failed: ${error.message}`);
  console.log(`Backed up to ${target}. To go back to it, stop True Nib, then: npm run restore -- ${target}`);
});
