// Puts a backup in the database's place: npm run restore -- FILE. What was there is kept beside the backups.
import { copyFileSync, existsSync, mkdirSync, renameSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { root } from './install.mjs';

const sqlite3 = createRequire(import.meta.url)('sqlite3');
const folder = process.env.TRUE_NIB_DATA ?? join(root, 'data');
const place = join(folder, 'true-nib.sqlite');
const stamp = new Date().toISOString().slice(0, 19).replace(/[T:]/g, '-');
const aside = join(folder, 'backups', `replaced-${stamp}.sqlite`);

/** Ends with a sentence. */
function refuse(sentence) {
  console.error(sentence);
  process.exit(1);
}

/** The answer of a database file to a question of one row. */
async function asked(file, sql) {
  const database = new sqlite3.Database(file, sqlite3.OPEN_READWRITE);
  try {
    return await promisify(database.get.bind(database))(sql);
  } finally {
    await promisify(database.close.bind(database))();
  }
}

const [, , named] = process.argv;
if (!named) refuse('Name the backup to go back to: npm run restore -- FILE');
const backup = resolve(named);
if (!existsSync(backup)) refuse(`${backup} does not exist.`);
const whole = await asked(backup, 'PRAGMA integrity_check').catch(() => undefined);
const pages = await asked(backup, 'SELECT COUNT(*) AS count FROM pages').catch(() => undefined);
if (whole?.integrity_check !== 'ok' || !pages) refuse(`${backup} is no whole backup of True Nib.`);

mkdirSync(join(folder, 'backups'), { recursive: true });
if (existsSync(place)) {
  // Takes the write-ahead log into the file: left behind, it would be played onto the backup. Only one who is alone can.
  const mode = await asked(place, 'PRAGMA journal_mode = DELETE').catch(() => undefined);
  if (mode?.journal_mode !== 'delete') refuse('The database is in use. Stop True Nib first; nothing has been changed.');
  renameSync(place, aside);
  console.log(`What was there is kept as ${aside}.`);
}
copyFileSync(backup, place);
console.log(`${place} is now ${backup}, with ${pages.count} pages.`);
