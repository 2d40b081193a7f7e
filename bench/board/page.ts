import { drawStroke, type Nib } from '@true-nib/core/ink';
import { seededRandom, then, translation } from '@true-nib/core/math';
import {
  applyChange,
  newLayer,
  newPage,
  orderBetween,
  type Entity,
  type Page,
  type StrokeEntity,
} from '@true-nib/core/page';
import { BoardPicture, type BoardCanvases } from '../../apps/web/src/render/boardPicture';
import { pathOf, paintTolerance } from '../../apps/web/src/render/inkPaint';
import { zoomOf } from '../../apps/web/src/render/view';

// Runs in the browser: a page of many strokes, painted naively and by the board.

const SIZE = { width: 2650, height: 4100, ppi: 400 };
const nib: Nib = { name: 'Pressure nib', size: 10, thinnest: 0.2, taperIn: 0, taperOut: 0, color: '#14161a' };
const layer = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });

function strokes(count: number): StrokeEntity[] {
  const random = seededRandom(5);
  let order: string | undefined;
  return Array.from({ length: count }, (_, k) => {
    const [x, y, turn, bend] = [random() * SIZE.width, random() * SIZE.height, random() * 7, (random() - 0.5) * 0.08];
    const samples = Array.from({ length: 62 }, (__, j) => ({
      x: x + 3 * j * Math.cos(turn + bend * j),
      y: y + 3 * j * Math.sin(turn + bend * j),
      pressure: 0.3 + 0.5 * random(),
    }));
    order = orderBetween(order, undefined);
    return {
      kind: 'stroke',
      id: `s${k}`,
      layerId: 'inks',
      order,
      ...drawStroke(samples, nib, { way: 'even', strength: 30 }),
    };
  });
}

const pageOf = (entities: readonly Entity[]): Page =>
  applyChange(newPage(SIZE), {
    id: 'c',
    by: 'b',
    label: 'x',
    at: 0,
    needs: [],
    edits: entities.map((after) => ({ before: null, after })),
  });

/** Fills are deferred: reading a px makes them count. */
const force = (canvas: HTMLCanvasElement) => canvas.getContext('2d')?.getImageData(0, 0, 1, 1);

const middle = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
const mean = (times: number[]) => times.reduce((sum, time) => sum + time, 0) / times.length;
const nextFrame = () => new Promise((resolve) => requestAnimationFrame(resolve));

function timed(canvas: HTMLCanvasElement, work: () => void): number {
  force(canvas);
  const start = performance.now();
  work();
  force(canvas);
  return performance.now() - start;
}

export interface BoardTimes {
  readonly naive: number;
  readonly pan: number;
  readonly worstPan: number;
  readonly edit: number;
  readonly removal: number;
}

async function run(count: number): Promise<BoardTimes> {
  const drawn = strokes(count);
  const page = pageOf([layer, ...drawn]);
  const canvas = () => {
    const element = document.createElement('canvas');
    document.body.append(element);
    return element;
  };
  const canvases: BoardCanvases = {
    under: canvas(),
    ink: canvas(),
    live: canvas(),
    over: canvas(),
    veil: canvas(),
    overlay: canvas(),
  };
  const colours = () => ({ seal: '#b8402a', raised: '#ffffff', desk: '#ddd8cd', shadow: '#0004' });
  const board = new BoardPicture(
    canvases,
    page,
    () => Promise.reject(new Error('No pictures here.')),
    colours,
    console.error,
  );
  const settled = () =>
    new Promise<void>((resolve) => {
      const stop = board.inks.onRest((isResting) => {
        if (!isResting) return;
        stop();
        resolve();
      });
    });
  board.resize({ width: 1280, height: 800 }, 0);
  await settled();
  // Tiles are brought up to date while the hand rests.
  await new Promise((resolve) => setTimeout(resolve, 6_000));

  // Naively: clear, and fill every stroke's cached path anew.
  const naiveCanvas = canvas();
  naiveCanvas.width = 1280;
  naiveCanvas.height = 800;
  const context = naiveCanvas.getContext('2d');
  if (!context) throw new Error('No canvas.');
  const tolerance = paintTolerance(zoomOf(board.view));
  const redraw = () => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, 1280, 800);
    context.setTransform(...board.map);
    context.fillStyle = nib.color;
    for (const stroke of drawn) context.fill(pathOf(stroke, tolerance));
  };
  redraw();
  const naive = middle(Array.from({ length: 7 }, () => timed(naiveCanvas, redraw)));

  const pans: number[] = [];
  const start = board.view;
  for (let k = 1; k <= 90; k++) {
    await nextFrame();
    pans.push(timed(canvases.ink, () => board.show(then(start, translation(k * 2, k)), true)));
  }
  board.show(start, false);
  await settled();

  const [edits, removals]: [number[], number[]] = [[], []];
  let now = page;
  let order = drawn.at(-1)?.order;
  for (let k = 0; k < 15; k++) {
    order = orderBetween(order, undefined);
    const stroke: StrokeEntity = { ...drawn[k], id: `new${k}`, order };
    const add = [{ before: null, after: stroke }];
    now = { ...now, entities: now.entities.with(stroke) };
    edits.push(timed(canvases.ink, () => board.edit(now, add)));
    // From under others: the boxes it leaves are painted anew.
    const gone = drawn[200 + k];
    now = { ...now, entities: now.entities.without(gone.id) };
    removals.push(timed(canvases.ink, () => board.edit(now, [{ before: gone, after: null }])));
  }
  board.dispose();
  return { naive, pan: mean(pans), worstPan: Math.max(...pans), edit: middle(edits), removal: middle(removals) };
}

Object.assign(window, { run });
