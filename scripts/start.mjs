// Starts True Nib: installs and builds what is missing, then serves app and API on one port of this machine.
// --demo starts on a fresh copy of the demo folio in a folder of its own.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { buildAll } from './build.mjs';
import { installPackages, root } from './install.mjs';
import { requireNode } from './requirements.mjs';

requireNode();
installPackages();
await buildAll();
if (process.argv.includes('--demo')) {
  process.env.TRUE_NIB_DATA = join(root, 'data-demo');
  process.env.PORT ??= '4821';
  rmSync(process.env.TRUE_NIB_DATA, { recursive: true, force: true });
}
process.env.TRUE_NIB_DATA ??= join(root, 'data');
await import(pathToFileURL(join(root, 'apps/server/dist/main.cjs')).href);
