import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import { evenlyWide } from '@true-nib/core/curve';
import { seededRandom } from '@true-nib/core/math';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { polylineSpine } from '@true-nib/core/shapes';
import { combRows, roomFor, spanRows, stipple } from '@true-nib/core/texture';
import { middle, report, type Row } from './timing';

const nib = { ...SHIPPED_NIBS[0].nib, size: 2 };
const RADIUS = 900;
const loop = Array.from({ length: 200 }, (_, k) => ({
  x: 1000 + RADIUS * Math.cos((2 * Math.PI * k) / 200),
  y: 1000 + RADIUS * Math.sin((2 * Math.PI * k) / 200),
}));

function median(work: () => void): number {
  for (let k = 0; k < 3; k++) work();
  return middle(
    Array.from({ length: 15 }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    }),
  );
}

/** Darts thrown one by one, each held against all that stick: what one would write first. Answers how many stuck. */
function naiveDots(share: number, size: number, tries: number): number {
  const random = seededRandom(1);
  const room = roomFor(share, { size });
  const [xs, ys]: [number[], number[]] = [[], []];
  for (let k = 0; k < tries; k++) {
    const [x, y] = [1000 + RADIUS * (2 * random() - 1), 1000 + RADIUS * (2 * random() - 1)];
    if (Math.hypot(x - 1000, y - 1000) > RADIUS) continue;
    if (xs.every((u, n) => (u - x) ** 2 + (ys[n] - y) ** 2 >= room * room)) {
      xs.push(x);
      ys.push(y);
    }
  }
  return xs.length;
}

const rails = { kind: 'rails', x: 0, y: 0, angle: 0.3 } as const;
let rows = 0;
const combing = median(() => (rows = combRows(loop, rails, { nib, spacing: 0.9 }, 1).length));
console.log(`a comb of ${rows} rows: ${combing.toFixed(1)} ms`);

const [a, b] = [
  [0, 0, 300, 50, 800, 0],
  [0, 400, 400, 350, 800, 500],
].map((p) => evenlyWide(polylineSpine([0, 2, 4].map((i) => ({ x: p[i], y: p[i + 1] }))), 4));
const spanning = median(() => spanRows([a, b], { nib, rows: { count: 500 } }));
console.log(`a span of 500 rows: ${spanning.toFixed(1)} ms`);

let strewn = 0;
const strewing = median(() => (strewn = stipple(loop, { share: 0.35 }, { size: 6.7 }, 1).length / 3));
console.log(`${strewn} dots strewn: ${strewing.toFixed(0)} ms`);
const start = performance.now();
const naive = naiveDots(0.35, 21, 40_000);
const naively = performance.now() - start;
let few = 0;
const strewingFew = median(() => (few = stipple(loop, { share: 0.35 }, { size: 21 }, 1).length / 3));

const { outputFiles } = await build({
  entryPoints: [join(__dirname, 'texture', 'page.ts')],
  ...{ bundle: true, write: false, format: 'iife', target: 'es2022', logLevel: 'error' },
});
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const tab = await browser.newPage();
await tab.setContent('<!doctype html><title>Texture</title>');
await tab.addScriptTag({ content: outputFiles[0].text });
interface Painting {
  readonly dots: number;
  readonly rows: readonly { readonly scale: number; readonly ms: readonly number[] }[];
}
const painting = await tab.evaluate(() => (window as unknown as { texturePainting: () => Painting }).texturePainting());
await browser.close();

const table: Row[] = [
  {
    what: `${few} dots strewn`,
    ours: strewingFew,
    other: naively,
    against: `darts held against all others, ${naive} stuck`,
    most: 1 / 2,
  },
  ...painting.rows.flatMap(({ scale, ms: [lines, dots, toned] }): Row[] => [
    {
      what: `a view at ${scale * 100} % with ${painting.dots} dots`,
      ...{ ours: dots, other: lines, against: 'its 5,000 lines alone', most: 1.2 },
    },
    {
      what: `a view at ${scale * 100} %, wholly toned at 60 lines per inch`,
      ...{ ours: toned, other: lines, against: 'its 5,000 lines alone', most: 1.5 },
    },
  ]),
];
process.exitCode = report(table) ? 0 : 1;
