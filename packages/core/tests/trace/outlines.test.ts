import { contours } from 'd3-contour';
import opentype from 'opentype.js';
import { segmentCount } from '../../src/curve';
import { ringArea, seededRandom } from '../../src/math';
import { TRACE_SETTINGS } from '../../src/page';
import { contoursAt, outlines } from '../../src/trace';
import { fontBytes, LOUD } from '../typeset/fonts';
import { overlap, redrawn } from './icons';
import { mean } from './score';
import { inkFrom } from './scans';

/** Letters of a comic font as ink. Source: Bangers (OFL), by opentype.js. */
async function letters(side: number) {
  const font = opentype.parse(fontBytes(LOUD).buffer as ArrayBuffer);
  return Promise.all(
    [...'abdegkmqrsxyABDGQRSW&8?'].map(async (letter) => {
      const path = font.getPath(letter, 0.15 * side, 0.75 * side, 0.8 * side);
      const curves = path.commands.filter(({ type }) => type !== 'M' && type !== 'Z').length;
      return { raster: await inkFrom(`<path d="${path.toPathData(3)}"/>`, side, side), curves };
    }),
  );
}

describe('Outlines', () => {
  it('of letters cover what the letters do, with few nodes', async () => {
    const overlaps: number[] = [];
    let [nodes, drawn] = [0, 0];
    for (const { raster, curves } of await letters(96)) {
      const blacks = outlines(raster, TRACE_SETTINGS);
      overlaps.push(overlap(await redrawn({ lines: [], blacks }, raster), raster.ink));
      nodes += blacks.reduce((sum, { rings }) => sum + rings.reduce((all, ring) => all + segmentCount(ring), 0), 0);
      drawn += curves;
    }
    expect(mean(overlaps)).toBeGreaterThan(0.985);
    expect(nodes / drawn).toBeLessThan(1.5);
  });

  it('keep holes, as rings of one area that wind the other way, and let white be', async () => {
    const raster = await inkFrom(
      '<circle cx="60" cy="60" r="40"/><circle cx="60" cy="60" r="20" fill="#fff"/><circle cx="60" cy="60" r="8"/>',
      120,
      120,
    );
    const areas = outlines(raster, TRACE_SETTINGS);
    expect(areas.map(({ rings }) => rings.length).sort()).toEqual([1, 2]);
  });

  it('of two px that touch by a corner hang together where the four are dark on the whole, and part where they are not', () => {
    const corner = (beside: number) => ({ width: 2, height: 2, ink: Uint8Array.of(255, beside, beside, 255) });
    expect(contoursAt(corner(90), 128)).toHaveLength(1);
    expect(contoursAt(corner(0), 128)).toHaveLength(2);
  });

  it('run along the very level that an independent library finds (d3-contour)', () => {
    const random = seededRandom(9);
    const [width, height] = [40, 30];
    // Smooth hills, none of them at the edge, where the library does not mix.
    const hills = Array.from({ length: 7 }, () => [
      ...[10 + 20 * random(), 10 + 10 * random()],
      ...[2 + 2 * random(), 90 + 160 * random()],
    ]);
    const ink = Uint8Array.from({ length: width * height }, (_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      return Math.min(
        255,
        hills.reduce((sum, [u, v, r, h]) => sum + h * Math.exp(-((x - u) ** 2 + (y - v) ** 2) / (r * r)), 0),
      );
    });
    for (const level of [60, 100, 140.5]) {
      const own = contoursAt({ width, height, ink }, level).map(ringArea);
      const [other] = contours().size([width, height]).thresholds([level])(Array.from(ink));
      const theirs = other.coordinates.flat().map((ring) => ringArea(ring.slice(1).flat()));
      expect(own).toHaveLength(theirs.length);
      const size = (areas: readonly number[]) => areas.map(Math.abs).sort((a, b) => a - b);
      size(own).forEach((area, k) => expect(area).toBeCloseTo(size(theirs)[k], 6));
    }
  });
});
