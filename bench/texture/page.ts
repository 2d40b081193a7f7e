// Runs in the browser: paints a full page with and without texture.
import { nested } from '@true-nib/core/area';
import { newLayer, newPage, type Entity } from '@true-nib/core/page';
import { seededRandom, type Matrix } from '@true-nib/core/math';
import { drawStroke } from '@true-nib/core/ink';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { rectSpine } from '@true-nib/core/shapes';
import { stipple } from '@true-nib/core/texture';
import { InkDesk } from '../../apps/web/src/render/inkDesk';

const SIZE = { width: 4000, height: 6000, ppi: 600 } as const;
const { nib } = SHIPPED_NIBS[1];
const COLOR = '#14161a';

function strokes(count: number): Entity[] {
  const random = seededRandom(5);
  return Array.from({ length: count }, (_, k): Entity => {
    const [x, y, way] = [SIZE.width * random(), SIZE.height * random(), 6.28 * random()];
    const samples = Array.from({ length: 30 }, (__, n) => ({
      x: x + 8 * n * Math.cos(way),
      y: y + 8 * n * Math.sin(way) + 20 * Math.sin(n / 6),
      pressure: 0.5 + 0.3 * Math.sin(n / 5),
      time: 8 * n,
    }));
    const stroke = drawStroke(samples, nib, { way: 'even', strength: 20 });
    return { kind: 'stroke', id: `s${k}`, layerId: 'inks', order: `a0${String(k).padStart(6, '0')}V`, ...stroke };
  });
}

const corner = { x: SIZE.width, y: SIZE.height };
const page = [{ x: 0, y: 0 }, { x: SIZE.width, y: 0 }, corner, { x: 0, y: SIZE.height }];

const dots = (): Entity => ({
  ...{ kind: 'dots', id: 'd', layerId: 'inks', order: 'a1', fill: { as: 'colour', color: COLOR } },
  dots: stipple(page, { share: 0.058 }, { size: 6, uneven: 0.3 }, 1),
});
const tone = (): Entity => ({
  ...{ kind: 'area', id: 't', layerId: 'inks', order: 'a1', rings: nested([rectSpine({ x: 0, y: 0 }, corner)]) },
  fill: { as: 'tone', color: COLOR, screen: 'dots', period: 10, angle: Math.PI / 4, at: { x: 0, y: 0 }, share: 0.3 },
});

/** The median ms of painting a view of 1280 × 800 at a scale, its paths kept, when it is moved a little each time. */
function painted(desk: InkDesk, scale: number, round: number): number {
  const canvas = new OffscreenCanvas(1280, 800);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('No canvas.');
  const box = { minX: 0, minY: 0, maxX: 1280, maxY: 800 };
  const at = (k: number): Matrix => [scale, 0, 0, scale, -scale * 900 - 3 * k, -scale * 1500];
  const start = performance.now();
  context.clearRect(0, 0, 1280, 800);
  desk.paint(context, at(round), box);
  // Painting is done when its px are read.
  context.getImageData(0, 0, 1, 1);
  return performance.now() - start;
}

/** Pages with lines alone, with dots, and toned, painted turn by turn at some scales: medians, ms, and how many dots there are. */
function texturePainting() {
  const layer = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });
  const lines = strokes(5000);
  const strewn = dots();
  const pages = [lines, [...lines, strewn], [...lines, tone()]];
  const desks = pages.map((entities) => new InkDesk(newPage(SIZE).size, [layer, ...entities]));
  const scales = [0.13, 0.5, 1];
  return {
    dots: strewn.kind === 'dots' ? strewn.dots.length / 3 : 0,
    rows: scales.map((scale) => {
      const times: number[][] = [[], [], []];
      for (let round = -2; round < 15; round++)
        desks.forEach((desk, k) => {
          const ms = painted(desk, scale, round);
          if (round >= 0) times[k].push(ms);
        });
      return { scale, ms: times.map((all) => all.sort((a, b) => a - b)[7]) };
    }),
  };
}

Object.assign(window, { texturePainting });
