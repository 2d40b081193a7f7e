import { strokeMarks } from '@true-nib/core/drawn';
import { drawStroke } from '@true-nib/core/ink';
import type { Nib } from '@true-nib/core/nib';
import { about, rotation, seededRandom, then, translation, type Matrix } from '@true-nib/core/math';
import { EntityMap, newLayer, newPage, orderBetween, ordersBetween, type Page } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { foundInLoop } from '@true-nib/core/select';
import { BoardPicture } from '../../apps/web/src/render/boardPicture';
import type { BoardCanvases } from '../../apps/web/src/render/boardCanvases';
import { pathOf, paintTolerance } from '../../apps/web/src/render/inkPaint';
import { fitted, zoomOf, type View } from '../../apps/web/src/render/view';

// Runs in the browser: a page of many strokes, painted naively and by the board.

const BOARD = { width: 1280, height: 800 };
const nib: Nib = { name: 'Pressure nib', size: 10, thinnest: 0.2, taperIn: 0, taperOut: 0, color: '#14161a' };
const layer = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });

export interface PageSizePx {
  readonly width: number;
  readonly height: number;
}

/** Strokes of sixty samples each, some 180 px long, strewn over a page. */
function strokes(count: number, size: PageSizePx): StrokeEntity[] {
  const random = seededRandom(5);
  const orders = ordersBetween(undefined, undefined, count);
  return orders.map((order, k) => {
    const [x, y, turn, bend] = [random() * size.width, random() * size.height, random() * 7, (random() - 0.5) * 0.08];
    const samples = Array.from({ length: 60 }, (__, j) => ({
      x: x + 3 * j * Math.cos(turn + bend * j),
      y: y + 3 * j * Math.sin(turn + bend * j),
      pressure: 0.3 + 0.5 * random(),
    }));
    const drawn = drawStroke(samples, nib, { way: 'even', strength: 30 });
    return { kind: 'stroke', id: `s${k}`, layerId: 'inks', order, ...drawn };
  });
}

/** Fills are deferred: reading a px makes them count. */
const force = (canvas: HTMLCanvasElement) => canvas.getContext('2d')?.getImageData(0, 0, 1, 1);

const middle = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];
const nextFrame = () => new Promise((resolve) => requestAnimationFrame(resolve));

function timed(canvas: HTMLCanvasElement, work: () => void): number {
  force(canvas);
  const start = performance.now();
  work();
  force(canvas);
  return performance.now() - start;
}

/** Medians in ms of one view of a page; means over all frames for what moves. */
export interface ViewTimes {
  readonly naive: number;
  readonly pan: number;
  readonly turn: number;
  readonly edit: number;
  /** The longest that the main thread was held up while tiles came in cold. */
  readonly cold: number;
}

export interface BoardTimes {
  readonly fit: ViewTimes;
  readonly oneToOne: ViewTimes;
  readonly loop: number;
  readonly loopScan: number;
}

function canvasOn(body: HTMLElement): HTMLCanvasElement {
  const element = document.createElement('canvas');
  body.append(element);
  return element;
}

async function run(count: number, size: PageSizePx, repeats: number): Promise<BoardTimes> {
  const drawn = strokes(count, size);
  let page: Page = { ...newPage({ ...size, ppi: 300 }), entities: EntityMap.of([layer, ...drawn]) };
  const canvas = () => canvasOn(document.body);
  const canvases: BoardCanvases = {
    under: canvas(),
    sets: canvas(),
    ink: canvas(),
    live: canvas(),
    over: canvas(),
    veil: canvas(),
    grids: canvas(),
    guides: canvas(),
    overlay: canvas(),
  };
  const colours = () => ({ seal: '#b8402a', raised: '#ffffff', desk: '#ddd8cd', shadow: '#0004' });
  const noPicture = () => Promise.reject(new Error('No pictures here.'));
  const board = new BoardPicture(canvases, page, { pictureBytes: noPicture, colours, onError: console.error });
  const settled = () =>
    new Promise<void>((resolve) => {
      const stop = board.inks.onRest((isResting) => {
        if (!isResting) return;
        stop();
        resolve();
      });
    });
  let first = settled();
  board.resize(BOARD, 0);
  await first;
  const show = async (view: View) => {
    first = settled();
    board.show(view, false);
    await first;
  };
  let order = drawn.at(-1)?.order;

  async function measure(view: View): Promise<ViewTimes> {
    await show(view);
    // Cold: nothing of this view has been painted as tiles; the main thread must stay free while they come.
    let longest = 0;
    let last = performance.now();
    for (let k = 1; k <= 60; k++) {
      board.show(then(view, translation(k, 0)), true);
      await nextFrame();
      const now = performance.now();
      longest = Math.max(longest, now - last - 1000 / 60);
      last = now;
    }
    await show(view);
    // Tiles are brought up to date while the hand rests.
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    // Naively: clear, and fill every stroke's cached path anew.
    const naiveCanvas = canvas();
    Object.assign(naiveCanvas, BOARD);
    const context = naiveCanvas.getContext('2d');
    if (!context) throw new Error('No canvas.');
    const tolerance = paintTolerance(zoomOf(board.view));
    const redraw = () => {
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, BOARD.width, BOARD.height);
      context.setTransform(...board.map);
      context.fillStyle = nib.color;
      for (const mark of drawn.flatMap(strokeMarks)) context.fill(pathOf(mark, tolerance));
    };
    redraw();
    const naive = middle(Array.from({ length: 5 }, () => timed(naiveCanvas, redraw)));
    naiveCanvas.remove();
    const frames = async (step: (k: number) => Matrix) => {
      const times: number[] = [];
      for (let k = 1; k <= repeats; k++) {
        await nextFrame();
        times.push(timed(canvases.ink, () => board.show(then(view, step(k)), true)));
      }
      await show(view);
      // The mean: most frames only carry the canvases along, now and then they are put together anew.
      return times.reduce((sum, time) => sum + time, 0) / times.length;
    };
    const pan = await frames((k) => translation(2 * k, k));
    const turn = await frames((k) => about({ x: BOARD.width / 2, y: BOARD.height / 2 }, rotation(k * 0.01)));
    const edits: number[] = [];
    for (let k = 0; k < 15; k++) {
      order = orderBetween(order, undefined);
      const stroke: StrokeEntity = { ...drawn[k * 7], id: `new${view[0]}${k}`, order };
      page = { ...page, entities: page.entities.with(stroke) };
      edits.push(timed(canvases.ink, () => board.edit(page, [{ before: null, after: stroke }])));
    }
    return { naive, pan, turn, edit: middle(edits), cold: longest };
  }

  const fit = await measure(fitted(size, BOARD));
  const oneToOne = await measure([1, 0, 0, 1, -size.width / 3, -Math.min(size.height / 3, 2_000)]);

  // A loop about a tenth of the page, through the index, and over all strokes.
  const loop = Array.from({ length: 200 }, (_, k) => {
    const t = (k / 200) * 2 * Math.PI;
    const reach = 0.17 * Math.min(size.width, size.height);
    return { x: size.width / 2 + reach * Math.cos(t), y: size.height / 2 + reach * Math.sin(t) };
  });
  const reach = 0.17 * Math.min(size.width, size.height);
  const box = {
    minX: size.width / 2 - reach,
    minY: size.height / 2 - reach,
    maxX: size.width / 2 + reach,
    maxY: size.height / 2 + reach,
  };
  const clock = (work: () => unknown) => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  const loops = Array.from({ length: 9 }, () => clock(() => foundInLoop(board.strokesOn('inks', box), loop)));
  const scans = Array.from({ length: 3 }, () => clock(() => scan(drawn, loop)));
  board.dispose();
  Object.values(canvases).forEach((element) => element.remove());
  return { fit, oneToOne, loop: middle(loops), loopScan: middle(scans) };
}

/** Every point of every stroke against every edge of the loop, as one would at first write it. */
function scan(drawn: readonly StrokeEntity[], loop: readonly { readonly x: number; readonly y: number }[]): number {
  let count = 0;
  for (const { spine } of drawn) {
    let isIn = false;
    for (let i = 0; i < spine.points.length && !isIn; i += 3) {
      const [x, y] = [spine.points[i], spine.points[i + 1]];
      let odd = false;
      for (let k = 0, j = loop.length - 1; k < loop.length; j = k++) {
        const [a, b] = [loop[k], loop[j]];
        if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
      }
      isIn = odd;
    }
    if (isIn) count++;
  }
  return count;
}

Object.assign(window, { run });
