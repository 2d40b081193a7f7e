import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { build } from 'esbuild';
import sharp from 'sharp';
import { apartFromEdges } from './pixels';

interface Proof {
  readonly ring: readonly number[];
  readonly between: readonly number[];
  readonly line: readonly number[];
  readonly hole: readonly number[];
  /** Greatest differences to the board away from edges, of 255. */
  readonly bands: number;
  readonly svg: number;
  readonly found: readonly string[];
  readonly left: readonly string[];
}

/** The code of a page that proves something in the browser. */
async function bundled(name: string): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [join(__dirname, 'kinds', name)],
    ...{ bundle: true, write: false, format: 'iife', target: 'es2022', logLevel: 'error' },
  });
  return outputFiles[0].text;
}

interface Shown {
  readonly board: string;
  readonly png: string;
  readonly svg: string;
}

test('board, PNG and SVG show the same page, whatever is faded, grouped, hidden or laid over something else', async ({
  page,
}) => {
  const SIDE = 240;
  await page.setContent('<!doctype html><title>Stacks</title>');
  await page.addScriptTag({ content: await bundled('stacks.ts') });
  let flat = 0;
  for (let seed = 1; seed <= 24; seed++) {
    const { board, png, svg } = await page.evaluate(
      (seed) => (window as unknown as { shown: (seed: number) => Promise<Shown> }).shown(seed),
      seed,
    );
    // An SVG renderer that is not the browser's: librsvg, by sharp 0.35. It is asked for px in place of mm.
    const inPx = svg.replace(/width="[\d.]+mm" height="[\d.]+mm"/, `width="${SIDE}" height="${SIDE}"`);
    const drawn = await sharp(Buffer.from(inPx)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    expect([drawn.info.width, drawn.info.height]).toEqual([SIDE, SIDE]);
    const [onBoard, inPng] = [board, png].map((text) => new Uint8Array(Buffer.from(text, 'base64')));
    const bands = apartFromEdges(onBoard, inPng, SIDE);
    const vectors = apartFromEdges(onBoard, drawn.data, SIDE);
    expect(Math.max(bands.most, vectors.most), `seed ${seed}: ${bands.most}, ${vectors.most}`).toBeLessThanOrEqual(8);
    flat += vectors.compared;
  }
  // Most of the px are compared: few lie by an edge.
  expect(flat).toBeGreaterThan(24 * SIDE * SIDE * 0.6);
});

interface Large {
  readonly counts: Readonly<Record<string, number>>;
  readonly side: number;
  readonly area: number;
  readonly places: readonly (readonly [column: number, row: number, tile: number])[];
  readonly refused: string;
  readonly lifted: readonly number[];
}

test('pixels of a page of A3 are selected and moved without a surface that is too large', async ({ page }) => {
  // Fingerprints are made in secure contexts only, of which this host is one.
  await page.route('http://localhost/', (route) =>
    route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }),
  );
  await page.goto('http://localhost/');
  await page.addScriptTag({ content: await bundled('large.ts') });
  const large = await page.evaluate(() => (window as unknown as { proof: () => Promise<Large> }).proof());
  const square = 128 * 128;
  expect(large.counts).toEqual({ loop: 3508 * 4961, touch: square, others: 3508 * 4961 - square, all: 2 * square });
  expect(large.side).toBeLessThanOrEqual(4096);
  expect(large.area).toBeLessThanOrEqual(2 ** 24);
  // Shown at fewer px than it takes up; moved px for px.
  const [cover, bitmap, height] = large.lifted;
  expect([cover, bitmap]).toEqual([4096, 4096]);
  expect(height).toBe(4736);
  expect(large.refused).toMatch(/more than can be copied at once/);
  expect([...large.places].sort(([a], [b]) => a - b)).toEqual([
    [0, 0, -1],
    [1, 0, 0],
    [12, 18, -1],
    [13, 18, 1],
  ]);
});

test('a kind that only tests know is painted by its marks alone: board, PNG and SVG show the same', async ({
  page,
}) => {
  await page.setContent('<!doctype html><title>Marks</title>');
  await page.addScriptTag({ content: await bundled('page.ts') });
  const proof = await page.evaluate(() => (window as unknown as { proof: () => Promise<Proof> }).proof());
  expect(proof.ring).toEqual([0xb8, 0x40, 0x2a]);
  expect(proof.between).toEqual([255, 255, 255]);
  expect(proof.line).toEqual([0x14, 0x16, 0x1a]);
  // Through the hole one sees the layer beneath.
  expect(proof.hole).toEqual([0x2a, 0x6f, 0x97]);
  expect(proof.bands).toBeLessThanOrEqual(8);
  expect(proof.svg).toBeLessThanOrEqual(8);
  expect(proof.found).toEqual(['below', 'line', 'mark']);
  expect(proof.left).toEqual(['below', 'line']);
});
