// Takes away for good what was deleted more than 30 days ago, and the pictures that nothing needs any more: npm run tidy
import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { buildAll } from './build.mjs';
import { database, folder, refuse } from './data.mjs';
import { installPackages, root } from './install.mjs';
import { requireNode } from './requirements.mjs';

requireNode();
if (!existsSync(database)) refuse(`There is nothing to tidy: ${database} does not exist.`);
installPackages();
await buildAll();
execFileSync(process.execPath, [join(root, 'apps/server/dist/main.cjs'), 'tidy'], {
  env: { ...process.env, TRUE_NIB_DATA: folder },
  stdio: 'inherit',
});
console.log('Tidy.');
