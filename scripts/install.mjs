// Installs the packages of the lockfile when they are not there, or are another lockfile's.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { requireToolchain } from './requirements.mjs';

export const root = join(import.meta.dirname, '..');

const mark = join(root, 'node_modules', '.true-nib-installed');

export function installPackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const present = existsSync(mark) ? readFileSync(mark, 'utf8') : undefined;
  if (present === wanted) return;
  const byHand = join(root, 'node_modules', '.package-lock.json');
  const isCurrent = (file) =>
    existsSync(file) && statSync(file).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs;
  // An `npm ci` by hand leaves no mark of ours; it counts when it is newer than the lockfile.
  const isComplete =
    present === undefined && isCurrent(byHand) && existsSync(join(root, 'node_modules', 'sqlite3', 'build'));
  if (!isComplete) {
    requireToolchain();
    console.log('Installing packages. The first time takes some minutes, since SQLite is compiled.');
    execFileSync('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root, stdio: 'inherit' });
  }
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  writeFileSync(mark, wanted);
}
