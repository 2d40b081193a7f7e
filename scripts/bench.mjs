// Measures against naive methods and libraries, in the same run, and prints ratios. npm run bench [-- core mend …]; only when
// it is named, `wild` lets a wild hand loose on the app.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { requireChromium } from './chromium.mjs';
import { installPackages, root } from './install.mjs';

installPackages();
const { buildAll } = await import('./build.mjs');
// Deeds are measured in the built app.
await buildAll();
const env = { ...process.env, CHROMIUM: requireChromium() };

// Bundled as a browser gets it: run from its sources, every import would cost a call.
async function run(bench) {
  const { build } = await import('esbuild');
  const outfile = join(root, '.cache', `${bench}.mjs`);
  const external = ['esbuild', '@playwright/test', 'sharp', '@cantoo/pdf-lib', '@resvg/resvg-js'];
  await build({
    entryPoints: [join(root, 'bench', `${bench}.ts`)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    external,
    // The stories' desk finds the app from where it lies.
    define: { __dirname: JSON.stringify(join(root, 'bench')) },
    logLevel: 'error',
  });
  return spawnSync(process.execPath, [outfile], { cwd: root, stdio: 'inherit', env }).status;
}

const ALL = [
  'core',
  'calm',
  'guides',
  'perspective',
  'mend',
  'regions',
  'texture',
  'tracing',
  'set',
  'comic',
  'deliver',
  'board',
  'frames',
  'deeds',
];
const asked = process.argv.slice(2);
const results = [];
for (const bench of asked.length > 0 ? asked : ALL) results.push(await run(`${bench}.bench`));
process.exit(results.every((status) => status === 0) ? 0 : 1);
