import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { build } from 'esbuild';

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

test('a kind that only tests know is painted by its marks alone: board, PNG and SVG show the same', async ({
  page,
}) => {
  const { outputFiles } = await build({
    entryPoints: [join(__dirname, 'kinds', 'page.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
    logLevel: 'error',
  });
  await page.setContent('<!doctype html><title>Marks</title>');
  await page.addScriptTag({ content: outputFiles[0].text });
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
