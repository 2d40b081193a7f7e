// Runs in the browser: paints a page of 5,000 lines with and without panels and balloons.
import { balloonBorder, boxRing, evenRows, panelGrid, plainBorder } from '@true-nib/core/comic';
import type { BalloonEntity } from '@true-nib/core/balloon';
import { drawStroke } from '@true-nib/core/ink';
import { seededRandom, type Matrix } from '@true-nib/core/math';
import { newLayer, type Edit, type Entity } from '@true-nib/core/page';
import type { PanelEntity } from '@true-nib/core/panel';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { InkDesk } from '../../apps/web/src/render/inkDesk';

const SIZE = { width: 2650, height: 4100, ppi: 400 } as const;
const { nib } = SHIPPED_NIBS[1];
const MARGINS = { minX: 150, minY: 150, maxX: 2500, maxY: 3950 };

const panels = panelGrid({ within: MARGINS, rows: evenRows([3, 3, 3, 3]), across: 60, down: 60 }, 30).map(
  (ring, k): PanelEntity => ({
    ...{ kind: 'panel', id: `p${k}`, layerId: 'panels', order: `a${String(k).padStart(3, '0')}V` },
    ...{ ring, border: plainBorder(SIZE.ppi) },
  }),
);

/** Lines all over the page, each begun in the panel that it begins in. */
function strokes(isPanelled: boolean): Entity[] {
  const random = seededRandom(5);
  return Array.from({ length: 5_000 }, (_, k): Entity => {
    const [x, y, way] = [SIZE.width * random(), SIZE.height * random(), 6.28 * random()];
    const samples = Array.from({ length: 30 }, (__, n) => ({
      x: x + 8 * n * Math.cos(way),
      y: y + 8 * n * Math.sin(way) + 20 * Math.sin(n / 6),
      pressure: 0.5 + 0.3 * Math.sin(n / 5),
      time: 8 * n,
    }));
    const own = panels.find(({ ring: { points: p } }) => x > p[0] && y > p[1] && x < p[18] && y < p[19]);
    return {
      ...{ kind: 'stroke', id: `s${k}`, layerId: 'inks', order: `a0${String(k).padStart(6, '0')}V` },
      ...drawStroke(samples, nib, { way: 'even', strength: 20 }),
      ...(isPanelled && own && { panelId: own.id }),
    };
  });
}

const balloons = Array.from({ length: 30 }, (_, k): BalloonEntity => {
  const [x, y] = [300 + 340 * (k % 6), 300 + 700 * Math.floor(k / 6)];
  return {
    ...{ kind: 'balloon', id: `b${k}`, layerId: 'letters', order: `a${String(k).padStart(3, '0')}V` },
    bodies: [{ shape: 'oval', width: 280, height: 170, place: [1, 0, 0, 1, x, y] }],
    tails: [{ kind: 'pointed', body: 0, root: 1.4, width: 40, tip: { x: x + 30, y: y + 180 }, bend: 0.1 }],
    ...{ border: balloonBorder(SIZE.ppi), ground: '#ffffff' },
  };
});

const layers = ['inks', 'panels', 'letters'].map((id, k) => newLayer({ id, medium: 'ink', name: id, order: `a${k}` }));
const BOX = { minX: 0, minY: 0, maxX: 1280, maxY: 800 };

function paint(desk: InkDesk, map: Matrix): number {
  const canvas = new OffscreenCanvas(1280, 800);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('No canvas.');
  const start = performance.now();
  desk.paint(context, map, BOX);
  // Painting is done when its px are read.
  context.getImageData(0, 0, 1, 1);
  return performance.now() - start;
}

const middle = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

/** Views of the page without panels, and with them, painted turn by turn at some scales: medians, ms. */
function comicPainting() {
  const plain = new InkDesk(SIZE, [...layers, ...strokes(false)]);
  const whole = new InkDesk(SIZE, [...layers, ...strokes(true), ...panels]);
  const lettered = new InkDesk(SIZE, [...layers, ...strokes(true), ...panels, ...balloons]);
  const rows = [0.19, 0.5, 1].map((scale) => {
    const times: number[][] = [[], [], []];
    for (let round = -2; round < 15; round++)
      [plain, whole, lettered].forEach((desk, k) => {
        const ms = paint(desk, [scale, 0, 0, scale, -scale * 500 - 3 * round, -scale * 900]);
        if (round >= 0) times[k].push(ms);
      });
    return { scale, ms: times.map(middle) };
  });
  return { rows, dragged: dragging(whole) };
}

/** A border that moves to and fro by 4 px: what the edit and painting its panels anew take, ms. */
function dragging(desk: InkDesk): number {
  let [left, right] = [panels[0], panels[1]];
  const moved = (panel: PanelEntity, low: number, high: number): PanelEntity => ({
    ...panel,
    ring: boxRing({ minX: low, minY: MARGINS.minY, maxX: high, maxY: panel.ring.points[19] }),
  });
  const times: number[] = [];
  for (let round = 0; round < 25; round++) {
    const at = left.ring.points[9] + (round % 2 === 0 ? 4 : -4);
    const [a, b] = [moved(left, MARGINS.minX, at), moved(right, at + 60, right.ring.points[9])];
    const edits: Edit[] = [
      { before: left, after: a },
      { before: right, after: b },
    ];
    const start = performance.now();
    desk.edit(edits);
    const canvas = new OffscreenCanvas(640, 400);
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error('No canvas.');
    desk.paint(context, [0.35, 0, 0, 0.35, -20, -20], { minX: 0, minY: 0, maxX: 640, maxY: 400 });
    context.getImageData(0, 0, 1, 1);
    times.push(performance.now() - start);
    [left, right] = [a, b];
  }
  return middle(times);
}

Object.assign(window, { comicPainting });
