import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import { balloonRings, type Balloon } from '@true-nib/core/balloon';
import type { LetterStyle } from '@true-nib/core/lettering';
import { identity } from '@true-nib/core/math';
import { fittedBody, readFont, setLettering } from '@true-nib/core/typeset';
import { middle, report, type Row } from './timing';

function median(work: () => void): number {
  for (let k = 0; k < 20; k++) work();
  return middle(
    Array.from({ length: 25 }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    }),
  );
}

const file = createRequire(join(__dirname, 'x.js')).resolve(
  '@expo-google-fonts/comic-neue/400Regular/ComicNeue_400Regular.ttf',
);
const fonts = { plain: readFont(new Uint8Array(readFileSync(file))) };
const style: LetterStyle = {
  fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
  ...{ size: 33, leading: 1.12, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};
const WORDS = ['boat', 'tonight', 'lamp', 'tide', 'everybody', 'ferry', 'quay'];
const text = (count: number) => [{ text: Array.from({ length: count }, (_, k) => WORDS[k % WORDS.length]).join(' ') }];

const body = { shape: 'oval', width: 1500, height: 1000, place: identity } as const;
const setting = median(() => setLettering(text(200), style, fonts, { as: 'body', body, air: 24 }));
console.log(`200 words set into an oval: ${setting.toFixed(1)} ms`);
const fitting = median(() => fittedBody(text(15), style, fonts, { shape: 'oval', air: 24 }));
console.log(`an oval fitted round 15 words: ${fitting.toFixed(1)} ms`);

const balloon: Balloon = {
  bodies: [{ ...body, width: 400, height: 260 }],
  tails: [{ kind: 'pointed', body: 0, root: 2, width: 60, tip: { x: -100, y: 300 }, bend: 0.2 }],
};
let tip = 300;
const outlining = median(() => {
  tip += 1;
  balloonRings({ ...balloon, tails: [{ ...balloon.tails[0], tip: { x: -100, y: tip } }] }, 0.1);
});
console.log(`the outline of a balloon whose tail is dragged: ${outlining.toFixed(2)} ms`);

const { outputFiles } = await build({
  entryPoints: [join(__dirname, 'comic', 'page.ts')],
  ...{ bundle: true, write: false, format: 'iife', target: 'es2022', logLevel: 'error' },
});
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu'],
});
const tab = await browser.newPage();
await tab.setContent('<!doctype html><title>Comic</title>');
await tab.addScriptTag({ content: outputFiles[0].text });
interface Painting {
  readonly rows: readonly { readonly scale: number; readonly ms: readonly number[] }[];
  readonly dragged: number;
}
const { rows, dragged } = await tab.evaluate(() =>
  (window as unknown as { comicPainting: () => Painting }).comicPainting(),
);
await browser.close();
console.log(`a border between two panels of 12 is moved, and both are painted anew: ${dragged.toFixed(1)} ms`);

const table = rows.flatMap(({ scale, ms: [plain, panelled, lettered] }): Row[] => [
  {
    what: `a view at ${scale * 100} % of 5,000 lines in 12 panels`,
    ...{ ours: panelled, other: plain, against: 'the same lines in none', most: 1.2 },
  },
  {
    what: `the same with 30 balloons`,
    ...{ ours: lettered, other: plain, against: 'the lines alone', most: 1.3 },
  },
]);
process.exitCode = report(table) ? 0 : 1;
