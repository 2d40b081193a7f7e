import { readFileSync } from 'node:fs';
import svgpath from 'svgpath';
import type { Page as Tab } from '@playwright/test';
import { courseOf, flattenSpine, pointAt, placeAlong, placeOf } from '@true-nib/core/curve';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { expect } from './desk';

/** Takes a mending tool in hand on the wide board. */
export async function takeMending(tab: Tab, tool: string): Promise<void> {
  await tab.getByRole('tab', { name: 'Mend' }).click();
  await tab.getByRole('button', { name: tool, exact: true }).first().click();
}

/** Waits until a deed over many lines says what it would do, then does it. */
export async function doPlanned(tab: Tab, words: RegExp, deed: string): Promise<void> {
  await expect(tab.getByTestId('plan')).toHaveText(words);
  await tab.getByRole('button', { name: deed, exact: true }).last().click();
}

/** The page delivered as SVG. */
export async function deliveredSvg(tab: Tab): Promise<string> {
  await tab.getByRole('tab', { name: 'Finish' }).click();
  await tab.getByRole('radio', { name: 'SVG' }).click();
  const arriving = tab.waitForEvent('download');
  await tab.getByRole('button', { name: /Deliver/ }).click();
  return readFileSync(await (await arriving).path(), 'utf8');
}

/** Hundredths of a px, in which paths are written. */
const PARTS = 100;

/** The rings of all paths of an SVG that we delivered, as x, y pairs, px; curves by eight places each. */
export function ringsIn(svg: string): number[][] {
  const rings: number[][] = [];
  for (const [, d] of svg.matchAll(/<path[^>]* d="([^"]+)"/g))
    svgpath(d)
      .abs()
      .iterate(([command, ...values], _k, x, y) => {
        const v = values.map(Number);
        if (command === 'M') rings.push([v[0] / PARTS, v[1] / PARTS]);
        else if (command === 'L') rings.at(-1)?.push(v[0] / PARTS, v[1] / PARTS);
        else if (command === 'C')
          for (let k = 1; k <= 8; k++) {
            const [t, s] = [k / 8, 1 - k / 8];
            const at = (a: number, b: number, c: number, e: number) =>
              (s * s * s * a + 3 * s * s * t * b + 3 * s * t * t * c + t * t * t * e) / PARTS;
            rings.at(-1)?.push(at(x, v[0], v[2], v[4]), at(y, v[1], v[3], v[5]));
          }
      });
  return rings;
}

/** The full width of a line at a share of its length, page px. */
export function widthAtShare({ spine }: StrokeEntity, share: number): number {
  const course = courseOf(spine);
  return pointAt(spine, placeOf(spine, placeAlong(course, share * course.along[course.along.length - 1]))).width;
}

/** How far a line strays, page px, from the circle that lies best among its points (Kåsa 1976). */
export function straysFromCircle({ spine }: StrokeEntity): number {
  const p = flattenSpine(spine, 0.5);
  let [n, sx, sy, sxx, syy, sxy, sz, szx, szy] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  const [ox, oy] = [p[0], p[1]];
  for (let i = 0; i < p.length; i += 3) {
    const [x, y] = [p[i] - ox, p[i + 1] - oy];
    const z = x * x + y * y;
    [n, sx, sy, sxx, syy, sxy] = [n + 1, sx + x, sy + y, sxx + x * x, syy + y * y, sxy + x * y];
    [sz, szx, szy] = [sz + z, szx + z * x, szy + z * y];
  }
  // The normal equations of x² + y² = a·x + b·y + c.
  const rows = [
    [sxx, sxy, sx, szx],
    [sxy, syy, sy, szy],
    [sx, sy, n, sz],
  ];
  for (let k = 0; k < 3; k++)
    for (let r = 0; r < 3; r++) {
      if (r === k) continue;
      const factor = rows[r][k] / rows[k][k];
      for (let c = k; c < 4; c++) rows[r][c] -= factor * rows[k][c];
    }
  const [a, b, c] = rows.map((row, k) => row[3] / row[k]);
  const radius = Math.sqrt(c + (a * a + b * b) / 4);
  let sum = 0;
  for (let i = 0; i < p.length; i += 3) sum += (Math.hypot(p[i] - ox - a / 2, p[i + 1] - oy - b / 2) - radius) ** 2;
  return Math.sqrt(sum / n);
}
