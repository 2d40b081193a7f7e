// Sees to it that the stories have a browser, Debian's Chromium, and PDF an independent reader.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const DEBIAN = '/usr/bin/chromium';

const isRoot = process.getuid?.() === 0;

/** Runs a command that changes what is installed. Answers whether it was fine. */
function run(...args) {
  const [command, ...rest] = isRoot ? args : ['sudo', '-n', ...args];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  return spawnSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'], env }).status === 0;
}

/** An independent reader of PDF, for the tests that are held against one: they are left out where it cannot be had. */
export function tryPoppler() {
  if (existsSync('/usr/bin/pdftoppm') || !existsSync('/usr/bin/apt-get')) return;
  console.log('Installing Poppler, which PDF is held against.');
  run('apt-get', 'update', '-qq') && run('apt-get', 'install', '-y', '-qq', 'poppler-utils');
}

/** The browser's path. Installs it with apt when it is missing; ends the run with a sentence when that cannot be done. */
export function requireChromium() {
  const path = process.env.CHROMIUM ?? DEBIAN;
  if (existsSync(path)) return path;
  console.log('Installing Chromium for the stories.');
  const isThere =
    run('apt-get', 'update', '-qq') && run('apt-get', 'install', '-y', '-qq', 'chromium') && existsSync(DEBIAN);
  if (isThere) return DEBIAN;
  console.error(
    'Chromium cannot be installed here. Install it (on Debian: sudo apt install chromium) or name it: CHROMIUM=/path npm test',
  );
  process.exit(1);
}
