// Puts a backup in the database's place: npm run restore -- FILE. What was there is kept beside the backups.
import { copyFileSync, existsSync, mkdirSync, renameSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { promisify } from 'node:util';
import { besideIt, database, refuse, sqlite3 } from './data.mjs';

/** The answer of a database file to a question of one row; nothing where it has none. */
async function asked(file, sql) {
  const opened = new sqlite3.Database(file, sqlite3.OPEN_READWRITE);
  try {
    return await promisify(opened.get.bind(opened))(sql);
  } catch {
    return undefined;
  } finally {
    await promisify(opened.close.bind(opened))();
  }
}

const [, , named] = process.argv;
if (!named) refuse('Name the backup to go back to: npm run restore -- FILE');
const backup = resolve(named);
if (!existsSync(backup)) refuse(`${backup} does not exist.`);
if (backup === resolve(database)) refuse(`${backup} is the database itself. Name a backup.`);
const whole = await asked(backup, 'PRAGMA integrity_check');
const pages = await asked(backup, 'SELECT COUNT(*) AS count FROM pages');
if (whole?.integrity_check !== 'ok' || !pages) refuse(`${backup} is no whole backup of True Nib.`);

// Takes the write-ahead log into the file: left behind, it would be played onto the backup. Only one who is alone can.
const mode = existsSync(database) ? await asked(database, 'PRAGMA journal_mode = DELETE') : undefined;
if (existsSync(database) && mode?.journal_mode !== 'delete')
  refuse('The database is in use. Stop True Nib first; nothing has been changed.');
// All of the copy is there before anything is moved: a disk that is full loses nothing.
const fresh = `${database}.new`;
copyFileSync(backup, fresh);
if (existsSync(database)) {
  const aside = besideIt('replaced');
  mkdirSync(dirname(aside), { recursive: true });
  renameSync(database, aside);
  console.log(`What was there is kept as ${aside}.`);
}
renameSync(fresh, database);
console.log(`${database} is now ${backup}, with ${pages.count} pages.`);
