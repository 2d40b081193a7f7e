import { gzipSync } from 'node:zlib';
import { Resvg } from '@resvg/resvg-js';
import { PRESS_SETTINGS, pressChecking, type Finding } from '@true-nib/core/audit';
import { allMarks, isDrawn } from '@true-nib/core/drawn';
import { bilevel, pageToPdf, pageToSvg } from '@true-nib/core/formats';
import { applyChange, draftChange, newPage, ofKind, type Page } from '@true-nib/core/page';
import { FULL_SIZE, fullEdits } from '../e2e/fullPage';
import { report, type Row } from './timing';

/** How far an outline may stray from the exact one, page px. */
const STRAY = 0.03;
const KB = 1024;

async function timed<T>(work: () => T | Promise<T>): Promise<readonly [T, number]> {
  const start = performance.now();
  const answer = await work();
  return [answer, performance.now() - start];
}

const pageOf = (count: number): Page => {
  const edits = fullEdits({ count }).filter(({ after }) => after?.kind !== 'samples');
  return applyChange(newPage(FULL_SIZE), draftChange('All', edits));
};

/** The obvious way: each outline as a chain of straight lines as true to it as our curves are. */
function chained(page: Page): string {
  const paths = allMarks([...page.entities].filter(isDrawn)).map(({ rings, color }) => {
    const d = rings(STRAY).map((ring) => {
      const at = (i: number) => `${ring[i].toFixed(2)} ${ring[i + 1].toFixed(2)}`;
      return `M${at(0)}L${Array.from({ length: ring.length / 2 - 1 }, (_, k) => at(2 * k + 2)).join(' ')}Z`;
    });
    return `<path fill="${color}" d="${d.join('')}"/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg">${paths.join('')}</svg>`;
}

/** A finished picture of the page, and then what of it is darker than half. */
function thresholded(svg: string, width: number): Uint8Array {
  const { pixels, width: across, height } = new Resvg(svg, { fitTo: { mode: 'width', value: width } }).render();
  const stride = Math.ceil(across / 8);
  const bits = new Uint8Array(stride * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < across; x++)
      if (pixels[4 * (y * across + x)] < 128) bits[y * stride + (x >> 3)] |= 0x80 >> (x & 7);
  return bits;
}

/** What the last check knew of ends. */
const known = {};

/** The findings of a page, and when the first came and the last, ms. */
function checked(page: Page): { readonly found: readonly Finding[]; readonly first: number; readonly all: number } {
  const start = performance.now();
  let first: number | undefined;
  const found: Finding[] = [];
  for (const finding of pressChecking(page, { ...PRESS_SETTINGS, scale: 0.5 }, known)) {
    if (!finding) continue;
    first ??= performance.now() - start;
    found.push(finding);
  }
  const all = performance.now() - start;
  return { found, first: first ?? all, all };
}

const rows: Row[] = [];

const some = pageOf(5_000);
const [svg, svgMs] = await timed(() => pageToSvg(some, { title: 'Full', paper: true }));
const chain = chained(some);
const packed = gzipSync(svg).length;
console.log(
  `SVG of 5,000 strokes: ${(svg.length / KB).toFixed(0)} kB in ${svgMs.toFixed(0)} ms, as chains ${(chain.length / KB).toFixed(0)} kB: ratio ${(svg.length / chain.length).toFixed(2)} (half is asked); gzipped ${(packed / KB).toFixed(0)} kB`,
);
const [pdf, pdfMs] = await timed(() => pageToPdf(some, 'Full', { paper: true }));
console.log(
  `PDF of the same: ${(pdf.length / KB).toFixed(0)} kB in ${pdfMs.toFixed(0)} ms, ${(pdf.length / packed).toFixed(2)} × the gzipped SVG (1.2 is asked)`,
);

const scale = 4_000 / FULL_SIZE.width;
bilevel(some, { scale: 0.2 });
const [, bits] = await timed(() => bilevel(some, { scale }));
const [, plain] = await timed(() =>
  thresholded(chain.replace('<svg ', `<svg viewBox="0 0 ${FULL_SIZE.width} ${FULL_SIZE.height}" `), 4_000),
);
rows.push({
  what: '1-bit, 4,000 px wide, of 5,000 strokes',
  ...{ ours: bits, other: plain, against: 'painting by resvg and a plain threshold', most: 1.2 },
});

const full = pageOf(20_000);
const cold = checked(full);
const [stroke] = ofKind(full, 'stroke');
const after = applyChange(
  full,
  draftChange('Edit', [{ before: stroke, after: { ...stroke, nib: { ...stroke.nib, color: '#202020' } } }]),
);
const again = checked(after);
console.log(
  `press check of 20,000 strokes: ${cold.found.length} findings, the first after ${cold.first.toFixed(0)} ms, all after ${cold.all.toFixed(0)} ms (3,000 is asked, 500 for the first)`,
);
rows.push({
  what: 'press check of 20,000 strokes after one edit',
  ...{ ours: again.all, other: cold.all, against: 'the first check, 1/10 is asked', most: 0.2 },
});
process.exitCode = report(rows) ? 0 : 1;
