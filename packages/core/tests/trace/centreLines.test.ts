import { renderTextArray } from 'hersheytext';
import { segmentCount, type Spine } from '../../src/curve';
import { drawStroke, outlineOf } from '../../src/ink';
import { TRACE_SETTINGS } from '../../src/page';
import { centreLines, type Traced } from '../../src/trace';
import { brush, drawn, even } from '../hands';
import { iconsOf, linesIn, overlap, redrawn, scanned } from './icons';
import { inkFrom, takenFrom } from './scans';
import { addTo, mean, newScore, share } from './score';

const ends = ({ points }: Spine) => [
  [points[0], points[1]],
  [points[points.length - 3], points[points.length - 2]],
];

const touches = ({ lines }: Traced, x: number, y: number, within: number) =>
  lines.filter(({ spine }) => !spine.closed && ends(spine).some(([u, v]) => Math.hypot(u - x, v - y) < within)).length;

// Many icons in one test: slow where other work runs beside it.
jest.setTimeout(120_000);

describe('Lines off a scan', () => {
  it('lie where they were drawn, as wide, with few nodes: stroked icons of which none was looked at while this was made', async () => {
    // The even ones; the odd ones were there to build by. Lines of 1/48 of a side, as line art has them, on uneven paper.
    const score = newScore();
    for (const icon of iconsOf('even', 24)) {
      const picture = await scanned(icon, { line: 6, width: 0.5, wear: 'paper' });
      const traced = centreLines(takenFrom(picture), TRACE_SETTINGS);
      addTo(score, icon.lines, traced.lines, picture.scale, 6);
      score.overlaps.push(overlap(await redrawn(traced, picture), takenFrom(picture).ink));
    }
    expect(mean(score.there)).toBeLessThan(0.14);
    expect(mean(score.back)).toBeLessThan(0.14);
    expect(mean(score.width)).toBeLessThan(0.015);
    expect(share(score.nodes)).toBeLessThan(1.1);
    expect(share(score.lines)).toBeLessThan(1.12);
    expect(share(score.crossings)).toBeGreaterThan(0.9);
    expect(share(score.tees)).toBeGreaterThan(0.95);
    expect(share(score.corners)).toBeGreaterThan(0.86);
    expect(mean(score.overlaps)).toBeGreaterThan(0.967);
  });

  it('hold where lines are a twelfth of the picture, as a test of strength', async () => {
    const score = newScore();
    for (const icon of iconsOf('even', 30)) {
      const picture = await scanned(icon, { line: 6, width: 2, wear: 'jpeg' });
      const traced = centreLines(picture, TRACE_SETTINGS);
      addTo(score, icon.lines, traced.lines, picture.scale, 6);
      score.overlaps.push(overlap(await redrawn(traced, picture), picture.ink));
    }
    expect(mean(score.overlaps)).toBeGreaterThan(0.935);
    expect(mean(score.width)).toBeLessThan(0.05);
  });

  it('lie where single-line letters do (hersheytext, MIT)', async () => {
    const score = newScore();
    for (const { d } of renderTextArray('SaltmarshFerry', {})) {
      const svg = `<path transform="translate(30 30)" d="${d}" fill="none" stroke="#000" stroke-width="0.9" stroke-linecap="round" stroke-linejoin="round"/>`;
      const scale = 6.5;
      const raster = await inkFrom(`<g transform="scale(${scale})">${svg}</g>`, 60 * scale, 70 * scale);
      const letter = linesIn(svg).map((line) => ({
        ...line,
        points: line.points.map(([x, y]) => [x + 30, y + 30] as const),
      }));
      addTo(score, letter, centreLines(raster, TRACE_SETTINGS).lines, scale, 0.9 * scale);
    }
    expect(score.there.length).toBeGreaterThan(500);
    expect(mean(score.there)).toBeLessThan(0.2);
    expect(mean(score.back)).toBeLessThan(0.25);
    expect(mean(score.width)).toBeLessThan(0.03);
  });

  it('of a pressured hand cover what the pen did, one line to a line', async () => {
    const strokes = Array.from({ length: 12 }, (_, k) => {
      const way = (t: number) => [60 + 1000 * t, 60 + 75 * k + 30 * Math.sin((5 + 0.4 * k) * t)] as const;
      const samples = drawn(way, { pressure: (t) => 0.35 + 0.6 * Math.sin(Math.PI * t) });
      return drawStroke(samples, { ...brush, size: 14 }, even(30));
    });
    const paths = strokes.map((stroke) =>
      outlineOf(stroke)
        .rings.map(
          (ring) =>
            `M${Array.from({ length: ring.length / 2 }, (_, k) => `${ring[2 * k]} ${ring[2 * k + 1]}`).join('L')}Z`,
        )
        .join(''),
    );
    const raster = await inkFrom(paths.map((d) => `<path d="${d}"/>`).join(''), 1200, 1000);
    const traced = centreLines(raster, TRACE_SETTINGS);
    expect(Math.abs(traced.lines.length - strokes.length)).toBeLessThanOrEqual(1);
    expect(overlap(await redrawn(traced, raster), raster.ink)).toBeGreaterThan(0.95);
  });

  it('go on over a crossing, and end on the line that they run up to', async () => {
    const raster = await inkFrom(
      '<path d="M40 40 L260 200 M40 200 L260 40 M40 300 H260 M150 300 V400" stroke="#000" stroke-width="6" stroke-linecap="round" fill="none"/>',
      300,
      440,
    );
    const traced = centreLines(raster, TRACE_SETTINGS);
    expect(traced.lines).toHaveLength(4);
    expect(touches(traced, 150, 120, 9)).toBe(0);
    expect(touches(traced, 150, 300, 3)).toBe(1);
    for (const { spine } of traced.lines) expect(segmentCount(spine)).toBe(1);
  });

  it('hatched one by one come back one by one', async () => {
    const rows = Array.from({ length: 14 }, (_, k) => `M${30 + 12 * k} 30 L${60 + 12 * k} 200`).join('');
    const raster = await inkFrom(
      `<path d="${rows}" stroke="#000" stroke-width="4" stroke-linecap="round" fill="none"/>`,
      260,
      230,
    );
    expect(centreLines(raster, TRACE_SETTINGS).lines).toHaveLength(14);
  });

  it('leave blacks as areas, with their holes, that lines run into', async () => {
    const raster = await inkFrom(
      '<path d="M60 60 L260 80 L220 240 L80 220Z"/><circle cx="150" cy="150" r="24" fill="#fff"/><path d="M240 160 C320 140 360 240 440 200" stroke="#000" stroke-width="6" stroke-linecap="round" fill="none"/>',
      480,
      300,
    );
    const traced = centreLines(raster, TRACE_SETTINGS);
    expect(traced.blacks.map(({ rings }) => rings.length)).toEqual([2]);
    expect(traced.lines).toHaveLength(1);
    expect(overlap(await redrawn(traced, raster), raster.ink)).toBeGreaterThan(0.98);
  });

  it('of blank paper, of black paper and of one px are none, and dots stay', async () => {
    const blank = { width: 40, height: 30, ink: new Uint8Array(1200) };
    expect(centreLines(blank, TRACE_SETTINGS)).toEqual({ lines: [], blacks: [], places: [] });
    expect(centreLines({ width: 1, height: 1, ink: Uint8Array.of(255) }, TRACE_SETTINGS).lines).toHaveLength(0);
    const black = centreLines({ width: 60, height: 60, ink: new Uint8Array(3600).fill(255) }, TRACE_SETTINGS);
    expect(black.blacks).toHaveLength(1);
    const dots = await inkFrom(
      '<circle cx="30" cy="30" r="4"/><path d="M60 10 V50" stroke="#000" stroke-width="6"/>',
      90,
      60,
    );
    expect(centreLines(dots, TRACE_SETTINGS).lines).toHaveLength(2);
  });
});
