// Breaks the core by hand, one small place at a time, and notes which law of its tests sees it: `npm run mutate`.
// Each break is made in this working tree and taken back; so run it in a clone, and let it run for an hour.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

const CORE = 'packages/core';
/** Rooms whose laws stand in the tests of another one. */
const TESTED_IN = {
  math: ['math', 'guides'],
  gate: ['page', 'rack'],
  wire: ['page'],
  nib: ['page', 'rack', 'ink'],
  hand: ['page', 'ink'],
  stroke: ['page', 'drawn', 'ink'],
  tethers: ['guides'],
};
const ROOMS =
  'math curve page gate wire nib hand stroke ink rack shapes guides tethers drawn mend select tools formats'.split(' ');
const EACH = Number(process.argv[2] ?? 4);
const LIMIT_MS = 240_000;
const OUT = 'docs/mutations.md';
const REPORT = 'mutation-report.json';

if (execFileSync('git', ['status', '--porcelain', CORE], { encoding: 'utf8' }) !== '')
  throw new Error('The core has changes that are not committed: they could be lost. Run this in a clean clone.');

/** A small stream of numbers from 0 to 1 that is the same each time (xorshift32). */
let state = 20_261;
function random() {
  state ^= state << 13;
  state ^= state >>> 17;
  state ^= state << 5;
  return (state >>> 0) / 2 ** 32;
}

const { SyntaxKind: Kind } = ts;
/** What an operator is broken into. */
const SWAPS = new Map([
  [Kind.LessThanToken, '>='],
  [Kind.LessThanEqualsToken, '>'],
  [Kind.GreaterThanToken, '<='],
  [Kind.GreaterThanEqualsToken, '<'],
  [Kind.PlusToken, '-'],
  [Kind.MinusToken, '+'],
  [Kind.AsteriskToken, '/'],
  [Kind.SlashToken, '*'],
  [Kind.AmpersandAmpersandToken, '||'],
  [Kind.BarBarToken, '&&'],
  [Kind.EqualsEqualsEqualsToken, '!=='],
  [Kind.ExclamationEqualsEqualsToken, '==='],
]);

/** All places of a file that can be broken: where, and what stands there then. */
function breaks(file) {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const visit = (node) => {
    if (ts.isThrowStatement(node) || ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const to = SWAPS.get(node.operatorToken.kind);
      const isText = [node.left, node.right].some(
        (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
      );
      if (to && !isText) found.push({ from: node.operatorToken.getStart(), end: node.operatorToken.end, to });
    }
    if (node.kind === Kind.TrueKeyword) found.push({ from: node.getStart(), end: node.end, to: 'false' });
    if (node.kind === Kind.FalseKeyword) found.push({ from: node.getStart(), end: node.end, to: 'true' });
    if (ts.isPropertyAccessExpression(node) && node.expression.getText() === 'Math') {
      const to = { min: 'max', max: 'min', sin: 'cos', cos: 'sin', floor: 'ceil', ceil: 'floor' }[node.name.text];
      if (to) found.push({ from: node.name.getStart(), end: node.end, to });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found.map((place) => ({
    ...place,
    file,
    text,
    line: source.getLineAndCharacterOfPosition(place.from).line + 1,
  }));
}

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith('.ts'))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
    .sort();

/** Runs the tests of rooms, one after the other. Answers the law that failed first, or nothing where all hold. */
function caughtBy(rooms) {
  for (const room of rooms) {
    const law = caughtIn(`${CORE}/tests/${room}/`);
    if (law !== undefined) return law;
  }
  return undefined;
}

function caughtIn(path) {
  rmSync(REPORT, { force: true });
  spawnSync('npx', ['jest', '--selectProjects', 'core', '-w', '1', '--json', '--outputFile', REPORT, path], {
    timeout: LIMIT_MS,
    stdio: 'ignore',
  });
  if (!existsSync(REPORT)) return 'no test came to its end';
  const { testResults } = JSON.parse(readFileSync(REPORT, 'utf8'));
  for (const { status, name, assertionResults } of testResults) {
    const file = name.split('/tests/')[1].replace('.test.ts', '');
    const failed = assertionResults.find((one) => one.status === 'failed');
    if (failed) return `${file}: ${failed.fullName}`;
    if (status === 'failed') return `${file}: the whole file`;
  }
  return undefined;
}

const rows = [];
for (const room of ROOMS) {
  const places = filesIn(`${CORE}/src/${room}`).flatMap(breaks);
  for (let k = 0; k < EACH && places.length > 0; k++) {
    const [{ file, text, from, end, to, line }] = places.splice(Math.floor(random() * places.length), 1);
    try {
      writeFileSync(file, text.slice(0, from) + to + text.slice(end));
      const law = caughtBy(TESTED_IN[room] ?? [room]);
      const code = text.split('\n')[line - 1].trim();
      rows.push({
        where: `${file.replace(`${CORE}/src/`, '')}:${line}`,
        code,
        what: `${text.slice(from, end)} → ${to}`,
        law,
      });
      console.log(rows.at(-1));
    } finally {
      writeFileSync(file, text);
    }
  }
}
rmSync(REPORT, { force: true });
const caught = rows.filter(({ law }) => law !== undefined);
const cell = (words) => words.replaceAll('|', '\\|').replaceAll('`', '´');
writeFileSync(
  OUT,
  `# Mutations

\`npm run mutate\` breaks the core in ${rows.length} small places that a seeded stream of chance picks, ${EACH} in each room, and runs the tests of that
room. ${caught.length} were seen. Each line says what was broken and which law failed first.

| where | broken | seen by |
| --- | --- | --- |
${rows.map(({ where, code, what, law }) => `| \`${where}\` | \`${cell(what)}\` in \`${cell(code.slice(0, 90))}\` | ${law === undefined ? '**nobody**' : cell(law)} |`).join('\n')}
`,
);
