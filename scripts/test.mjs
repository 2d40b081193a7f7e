// The whole proof: format, lint with the floors, types, dead code, units, build, stories in a browser.
// Ends with a line "N passed, N failed"; every check and every test counts as one.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { requireChromium } from './chromium.mjs';
import { installPackages, root } from './install.mjs';
import { requireNode } from './requirements.mjs';

requireNode();
installPackages();
process.env.CHROMIUM = requireChromium();

const bin = (name) => join(root, 'node_modules', '.bin', name);
const jestReport = join(root, '.cache', 'units.json');
const storyReport = join(root, 'test-results', 'stories.json');
mkdirSync(join(root, '.cache'), { recursive: true });
for (const report of [jestReport, storyReport]) rmSync(report, { force: true });

let passed = 0;
let failed = 0;

function run(what, command, ...args) {
  console.log(`\n— ${what}`);
  const start = Date.now();
  const isFine = spawnSync(command, args, { cwd: root, stdio: 'inherit' }).status === 0;
  console.log(`  ${isFine ? 'fine' : 'NOT FINE'}, ${((Date.now() - start) / 1000).toFixed(1)} s`);
  return isFine;
}

function check(what, command, ...args) {
  if (run(what, command, ...args)) passed++;
  else failed++;
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

check('Format', bin('prettier'), '--check', '--log-level', 'warn', '.');
check('Lint', bin('eslint'), '.', '--max-warnings', '0');
check('Floors', bin('depcruise'), 'packages', 'apps', '--config', '.dependency-cruiser.cjs', '--output-type', 'err');
for (const project of ['packages/core', 'apps/server', 'apps/web', '.'])
  check(`Types of ${project}`, bin('tsc'), '--noEmit', '-p', project);
check('Dead code', bin('knip'));

const areUnitsFine = run('Units', bin('jest'), '--silent', '--json', '--outputFile', jestReport);
const units = report(jestReport);
passed += units?.numPassedTests ?? 0;
failed += units?.numFailedTests ?? 0;
if (!areUnitsFine && !units?.numFailedTests) failed++;

check('Build', process.execPath, join(root, 'scripts', 'build.mjs'));

const areStoriesFine = run('Stories', bin('playwright'), 'test');
const storiesTold = report(storyReport);
const stories = storiesTold?.stats;
passed += (stories?.expected ?? 0) + (stories?.flaky ?? 0);
failed += stories?.unexpected ?? 0;
for (const title of flaky(storiesTold?.suites)) console.log(`  needed a second try, mend it: ${title}`);
if (!areStoriesFine && !stories?.unexpected) failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
