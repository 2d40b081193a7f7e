// What a machine must have before anything of True Nib can be installed or run.
import { spawnSync } from 'node:child_process';

const has = (command, ...args) => spawnSync(command, args, { stdio: 'ignore' }).status === 0;

/** Ends the run with a sentence when Node is not the version that everything here was tried with. */
export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major === 20 && minor >= 11) return;
  console.error(`True Nib needs Node 20 (20.11 or later); this is ${process.versions.node}. With nvm: nvm install 20`);
  process.exit(1);
}

/** Ends the run with a sentence when the tools that compile SQLite are missing. */
export function requireToolchain() {
  const missing = [
    ['python3', '--version'],
    ['make', '--version'],
    ['g++', '--version'],
  ].flatMap(([command, ...args]) => (has(command, ...args) ? [] : [command]));
  if (missing.length === 0) return;
  console.error(
    `SQLite is compiled during the installation, and ${missing.join(', ')} cannot be found here.\n` +
      'On Debian or Ubuntu: sudo apt install build-essential python3. On macOS: xcode-select --install',
  );
  process.exit(1);
}
