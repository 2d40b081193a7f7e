// Scans to lines: how long a full page takes and how much memory, against thinning it naively; and how well it comes out.
import { TRACE_SETTINGS } from '@true-nib/core/page';
import { centreLines } from '@true-nib/core/trace';
import { iconsOf, overlap, redrawn, scanned, type Wear } from '../packages/core/tests/trace/icons';
import { pageOf } from '../packages/core/tests/trace/page';
import { takenFrom } from '../packages/core/tests/trace/scans';
import { addTo, mean, newScore, share } from '../packages/core/tests/trace/score';
import { inkedFrom, type Inked } from '../packages/core/src/trace/inked';
import { thinned } from '../packages/core/src/trace/thin';

const timed = <T>(work: () => T): readonly [T, number] => {
  const since = performance.now();
  const made = work();
  return [made, performance.now() - since];
};

/** Thinning as it is written down (Guo & Hall 1989): every px in every pass. */
function naivelyThinned({ width, height, on }: Inked): Uint8Array {
  const left = on.slice();
  const gone: number[] = [];
  for (let half = 0, still = 0; still < 2; half = 1 - half) {
    gone.length = 0;
    for (let y = 1; y < height - 1; y++)
      for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
        if (!left[i]) continue;
        const p = [i - width, i - width + 1, i + 1, i + width + 1, i + width, i + width - 1, i - 1, i - width - 1].map(
          (at) => left[at],
        );
        const [a, b, c, d, e, f, g, h] = p;
        const pieces = (1 - a) * (b | c) + (1 - c) * (d | e) + (1 - e) * (f | g) + (1 - g) * (h | a);
        const fewest = Math.min((h | a) + (b | c) + (d | e) + (f | g), (a | b) + (c | d) + (e | f) + (g | h));
        const side = half === 0 ? (e | f | (1 - h)) & g : (a | b | (1 - d)) & c;
        if (pieces === 1 && fewest >= 2 && fewest <= 3 && side === 0) gone.push(i);
      }
    for (const i of gone) left[i] = 0;
    still = gone.length > 0 ? 0 : still + 1;
  }
  return left;
}

async function pages(): Promise<void> {
  for (const times of [1, 2]) {
    const page = await pageOf(2480 * times, 3508 * times, 144 * times, 4 * times);
    const [, thinning] = timed(() => thinned(inkedFrom(page, 0.5)));
    const [, naive] = timed(() => naivelyThinned(inkedFrom(page, 0.5)));
    const [traced, whole] = timed(() => centreLines(page, TRACE_SETTINGS));
    const memory = Math.round(process.memoryUsage().rss / 1e6);
    console.log(
      `A4 at ${300 * times} ppi, ${page.lines} lines drawn: ${traced.lines.length} traced in ${(whole / 1000).toFixed(1)} s, ${memory} MB in all;`,
      `thinning ${(naive / thinning).toFixed(1)} × quicker than every px in every pass, and ${(whole / naive).toFixed(2)} × that for all of it`,
    );
  }
}

async function icons(): Promise<void> {
  const sets: readonly (readonly [string, number, number, Wear])[] = [
    ['sparse, 3 px, uneven paper', 3, 0.5, 'paper'],
    ['sparse, 6 px, uneven paper', 6, 0.5, 'paper'],
    ['sparse, 12 px, uneven paper', 12, 0.5, 'paper'],
    ['dense, 3 px', 3, 2, 'clean'],
    ['dense, 6 px', 6, 2, 'clean'],
    ['dense, 12 px', 12, 2, 'clean'],
    ['dense, 6 px, blurred', 6, 2, 'blur'],
    ['dense, 6 px, noise', 6, 2, 'noise'],
    ['dense, 6 px, JPEG', 6, 2, 'jpeg'],
  ];
  console.log(
    '| set | traced → true, px | true → traced | width error | strokes | nodes | X right | T clean | corner sharp | overlap |',
  );
  for (const [name, line, width, wear] of sets) {
    const score = newScore();
    for (const icon of iconsOf('even', 8)) {
      const picture = await scanned(icon, { line, width, wear });
      const raster = wear === 'paper' ? takenFrom(picture) : picture;
      const traced = centreLines(raster, TRACE_SETTINGS);
      addTo(score, icon.lines, traced.lines, picture.scale, line);
      score.overlaps.push(overlap(await redrawn(traced, raster), raster.ink));
    }
    const percent = (part: number) => `${(100 * part).toFixed(1)} %`;
    const of = ([right, all]: readonly [number, number]) => `${right}/${all}`;
    console.log(
      `| ${name} | ${mean(score.there).toFixed(3)} | ${mean(score.back).toFixed(3)} | ${percent(mean(score.width))} | ${share(score.lines).toFixed(2)} | ${share(score.nodes).toFixed(2)} | ${of(score.crossings)} | ${of(score.tees)} | ${of(score.corners)} | ${mean(score.overlaps).toFixed(3)} |`,
    );
  }
}

await pages();
await icons();
