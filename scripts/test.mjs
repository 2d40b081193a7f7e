// The whole proof: format, lint with the floors, types, dead code, units, build, stories in a browser.
// Ends with a line "N passed, N failed"; every check and every test counts as one.
import { Buffer } from 'node:buffer';
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { requireChromium, tryPoppler } from './chromium.mjs';
import { installPackages, root } from './install.mjs';
import { requireNode } from './requirements.mjs';

requireNode();
installPackages();
process.env.CHROMIUM = requireChromium();
tryPoppler();

const bin = (name) => join(root, 'node_modules', '.bin', name);
const jestReport = join(root, '.cache', 'units.json');
const storyReport = join(root, 'test-results', 'stories.json');
mkdirSync(join(root, '.cache'), { recursive: true });
for (const report of [jestReport, storyReport]) rmSync(report, { force: true });

let passed = 0;
let failed = 0;

/** Checks that run side by side: one for each processor. */
const LANES = 2;

/** Runs a command to its end and prints what it said when that is there. Answers whether it was fine. */
function run(what, command, ...args) {
  const start = Date.now();
  return new Promise((resolve) => {
    const said = [];
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (bytes) => said.push(bytes));
    const end = (isFine) => {
      const seconds = ((Date.now() - start) / 1000).toFixed(1);
      process.stdout.write(`\n— ${what}\n${Buffer.concat(said)}  ${isFine ? 'fine' : 'NOT FINE'}, ${seconds} s\n`);
      resolve(isFine);
    };
    child.once('error', (error) => end(!said.push(Buffer.from(`${error.message}\n`))));
    child.once('close', (code) => end(code === 0));
  });
}

async function check(what, command, ...args) {
  if (await run(what, command, ...args)) passed++;
  else failed++;
}

/** Starts jobs in their order, so many at a time. */
async function inLanes(jobs) {
  const left = [...jobs];
  const lane = async () => {
    for (let job = left.shift(); job; job = left.shift()) await job();
  };
  await Promise.all(Array.from({ length: LANES }, lane));
}

const report = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return undefined;
  }
};

/** Titles of stories that passed at their second try only. */
function flaky(suites = []) {
  return suites.flatMap(({ suites: inner, specs = [] }) => [
    ...specs.filter(({ tests }) => tests.some(({ status }) => status === 'flaky')).map(({ title }) => title),
    ...flaky(inner),
  ]);
}

async function units() {
  const isFine = await run('Units', bin('jest'), '--silent', '--json', '--outputFile', jestReport);
  const told = report(jestReport);
  passed += told?.numPassedTests ?? 0;
  failed += told?.numFailedTests ?? 0;
  if (!isFine && !told?.numFailedTests) failed++;
}

// The longest first: what is short fits in beside it.
await inLanes([
  () => check('Build', process.execPath, join(root, 'scripts', 'build.mjs')),
  units,
  () => check('Lint', bin('eslint'), '.', '--max-warnings', '0'),
  () =>
    check(
      'Floors',
      bin('depcruise'),
      'packages',
      'apps',
      '--config',
      '.dependency-cruiser.cjs',
      '--output-type',
      'err',
    ),
  ...['packages/core', 'apps/server', 'apps/web', '.'].map(
    (project) => () => check(`Types of ${project}`, bin('tsc'), '--noEmit', '-p', project),
  ),
  () => check('Format', bin('prettier'), '--check', '--log-level', 'warn', '.'),
  () => check('Dead code', bin('knip')),
]);

console.log('\n— Stories');
const areStoriesFine = spawnSync(bin('playwright'), ['test'], { cwd: root, stdio: 'inherit' }).status === 0;
const storiesTold = report(storyReport);
const stories = storiesTold?.stats;
passed += (stories?.expected ?? 0) + (stories?.flaky ?? 0);
failed += stories?.unexpected ?? 0;
for (const title of flaky(storiesTold?.suites)) console.log(`  needed a second try, mend it: ${title}`);
if (!areStoriesFine && !stories?.unexpected) failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
