import { drawStroke } from '@true-nib/core/ink';
import { seededRandom } from '@true-nib/core/math';
import { rubStroke } from '@true-nib/core/mend';
import type { PageSize } from '@true-nib/core/page';
import type { PenSample } from '@true-nib/core/hand';
import type { Stroke } from '@true-nib/core/stroke';
import { nibAt, SHIPPED_NIBS, type RackNib } from '@true-nib/core/rack';

export const SAMPLER_SIZE: PageSize = { width: 2000, height: 2400, ppi: 350 };

/** A line of the sampler: the stroke, and the hand that drew it where it is whole. */
export interface SamplerLine {
  readonly stroke: Stroke;
  readonly samples: readonly PenSample[];
  readonly calm: RackNib['calm'];
  readonly isWhole: boolean;
}

const PAPER = '#ffffff';
const COLUMNS = 2;
const MARGIN = { x: 90, y: 110 };

/** Every nib that ships, as the strokes it draws: in the order of the rack, two columns. White and clearing nibs on black. */
export function nibSampler(seed: number): SamplerLine[] {
  const random = seededRandom(seed);
  const rows = Math.ceil(SHIPPED_NIBS.length / COLUMNS);
  const pitch = { x: (SAMPLER_SIZE.width - MARGIN.x) / COLUMNS, y: (SAMPLER_SIZE.height - 2 * MARGIN.y) / rows };
  return SHIPPED_NIBS.flatMap((one, k) => {
    const left = MARGIN.x + Math.floor(k / rows) * pitch.x;
    const top = MARGIN.y + ((k % rows) + 0.5) * pitch.y;
    const width = pitch.x - MARGIN.x;
    const lines: SamplerLine[] = [];
    const draw = (samples: readonly PenSample[], rackNib = one) => {
      const nib = nibAt(rackNib, SAMPLER_SIZE.ppi, PAPER);
      const stroke = drawStroke(samples, nib, rackNib.calm, { seed: Math.floor(random() * 0xffffffff) });
      lines.push({ stroke, samples, calm: rackNib.calm, isWhole: true });
    };
    const wave = waveFrom(left, top, width * 0.62, random);
    const flick = flickFrom(left + width * 0.72, top, width * 0.26, random);
    if (one.lays === 'ink') {
      draw(wave);
      draw(flick);
      return lines;
    }
    // Laid on a black bar, or taken out of it.
    const bar = { ...SHIPPED_NIBS[0], nib: { ...SHIPPED_NIBS[0].nib, size: 90 } };
    const along = [0, 0.25, 0.5, 0.75, 1].map((t) => ({ x: left + width * t, y: top, pressure: 1, time: 60 * t }));
    draw(along, bar);
    if (one.lays === 'paper') draw(wave);
    else lines.push(...cleared(lines.pop(), wave, nibAt(one, SAMPLER_SIZE.ppi, PAPER).size / 2));
    return lines;
  });
}

function cleared(bar: SamplerLine | undefined, wave: readonly PenSample[], radius: number): SamplerLine[] {
  if (!bar) return [];
  // A clearing nib cuts lines through where it passes: here three short marks across the bar.
  const marks = [0.25, 0.5, 0.75].map((t) => wave[Math.floor(t * (wave.length - 1))]);
  return marks.reduce<SamplerLine[]>(
    (lines, at) =>
      lines.flatMap((line) => {
        const way = [-60, 60].map((aside) => ({ x: at.x + aside / 4, y: at.y + aside }));
        const pieces = rubStroke(line.stroke, way, radius);
        return pieces ? pieces.map((stroke) => ({ ...line, stroke, isWhole: false })) : [line];
      }),
    [bar],
  );
}

/** An easy wave, pressed in the middle, by a hand that leans its pen. */
function waveFrom(x: number, y: number, width: number, random: () => number): PenSample[] {
  const count = Math.round(width / 5);
  return Array.from({ length: count + 1 }, (_, k) => {
    const t = k / count;
    return {
      x: x + width * t,
      y: y + 26 * Math.sin(2 * Math.PI * t * 1.5) + (random() - 0.5),
      pressure: 0.06 + 0.88 * Math.sin(Math.PI * t) ** 1.3,
      tiltX: 35,
      tiltY: 20,
      time: 7 * k,
    };
  });
}

/** A quick stroke that is let go in the air. */
function flickFrom(x: number, y: number, width: number, random: () => number): PenSample[] {
  const count = 26;
  return Array.from({ length: count + 1 }, (_, k) => {
    const t = k / count;
    return {
      x: x + width * t ** 1.2,
      y: y + 34 - 68 * t + (random() - 0.5),
      pressure: 0.9 * (1 - t) ** 0.8,
      tiltX: 35,
      tiltY: 20,
      time: 6 * k,
    };
  });
}
