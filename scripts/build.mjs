// Builds the server into one file and exports the web app. Does nothing when neither has changed since the last build.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './install.mjs';

const SKIPPED = new Set(['node_modules', 'dist', '.expo', 'tests', 'bench']);

function* filesIn(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (SKIPPED.has(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesIn(path);
    else yield path;
  }
}

function fingerprint(folders) {
  const hash = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')));
  for (const folder of folders)
    for (const file of filesIn(join(root, folder))) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest('hex');
}

async function whenChanged(name, folders, output, build) {
  const mark = join(root, '.cache', `${name}.built`);
  const now = fingerprint(folders);
  if (existsSync(join(root, output)) && existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  console.log(`Building the ${name}.`);
  await build();
  mkdirSync(join(root, '.cache'), { recursive: true });
  writeFileSync(mark, now);
}

async function buildServer() {
  const { build } = await import('esbuild');
  const { dependencies } = JSON.parse(readFileSync(join(root, 'apps/server/package.json'), 'utf8'));
  await build({
    entryPoints: [join(root, 'apps/server/src/main.ts')],
    outfile: join(root, 'apps/server/dist/main.cjs'),
    tsconfig: join(root, 'apps/server/tsconfig.json'),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    sourcemap: true,
    // Ours is TypeScript, and p-queue an ES module only: both go into the file. What reads fonts is large, and seldom asked for.
    external: [...Object.keys(dependencies).filter((name) => !['@true-nib/core', 'p-queue'].includes(name)), 'fontkit'],
    logLevel: 'warning',
  });
}

function exportWeb() {
  const env = { ...process.env, EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', CI: '1' };
  const expo = join(root, 'node_modules/expo/bin/cli');
  execFileSync(
    process.execPath,
    [expo, 'export', '--platform', 'web', '--output-dir', 'dist', ...(process.env.NO_MINIFY ? ['--no-minify'] : [])],
    {
      cwd: join(root, 'apps/web'),
      env,
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
}

export async function buildAll() {
  await whenChanged('server', ['packages/core/src', 'apps/server'], 'apps/server/dist/main.cjs', buildServer);
  await whenChanged('web app', ['packages/core/src', 'apps/web'], 'apps/web/dist/index.html', exportWeb);
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) await buildAll();
