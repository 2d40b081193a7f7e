// Runs in the browser: paints a page with a kind that exists in tests alone, as the board does it, in bands as a PNG is made, and
// as the browser draws the SVG that is delivered.
import { pageToSvg } from '@true-nib/core/formats';
import { applyChange, draftChange, newLayer, newPage, type Entity } from '@true-nib/core/page';
import { translation, type Matrix } from '@true-nib/core/math';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { issuePostmarks, postmark } from '../../packages/core/tests/postmark/postmark';
import { InkDesk } from '../../apps/web/src/render/inkDesk';
import { InkIndex } from '../../apps/web/src/render/inkIndex';
import { apartFromEdges } from '../pixels';

const SIDE = 400;
const BAND = 64;

/** Px of a picture: four numbers each. */
type Pixels = Uint8ClampedArray;

issuePostmarks();

const stroke: StrokeEntity = {
  kind: 'stroke',
  ...{ id: 'line', layerId: 'inks', order: 'a0' },
  spine: { points: Float64Array.of(0, 260, 60, 130, 260, 60, 260, 260, 60, 400, 260, 60), closed: false },
  nib: { name: 'Liner', size: 60, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' },
  ends: ['flat', 'flat'],
};
const entities: readonly Entity[] = [
  newLayer({ id: 'under', medium: 'ink', name: 'Under', order: 'a0' }),
  newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a1' }),
  // A line on the layer beneath shows through the hole.
  { ...stroke, id: 'below', layerId: 'under', nib: { ...stroke.nib, color: '#2a6f97' } },
  stroke,
  postmark(),
];
const page = applyChange(
  newPage({ width: SIDE, height: SIDE, ppi: 300 }),
  draftChange(
    'all',
    entities.map((after) => ({ before: null, after })),
  ),
);

function ground(height = SIDE): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(SIDE, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('No canvas.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, SIDE, height);
  return context;
}

const pixels = (context: OffscreenCanvasRenderingContext2D): Pixels => context.getImageData(0, 0, SIDE, SIDE).data;

function asBoard(desk: InkDesk): Pixels {
  const context = ground();
  context.drawImage(desk.view({ map: [1, 0, 0, 1, 0, 0], width: SIDE, height: SIDE }), 0, 0);
  return pixels(context);
}

function inBands(desk: InkDesk): Pixels {
  const whole = ground();
  for (let top = 0; top < SIDE; top += BAND) {
    const band = ground(BAND);
    const map: Matrix = translation(0, -top);
    desk.paint(band, map, { minX: 0, minY: 0, maxX: SIDE, maxY: BAND });
    whole.drawImage(band.canvas, 0, top);
  }
  return pixels(whole);
}

async function asSvg(): Promise<Pixels> {
  const image = new Image();
  image.src = URL.createObjectURL(new Blob([pageToSvg(page)], { type: 'image/svg+xml' }));
  await image.decode();
  const context = ground();
  context.drawImage(image, 0, 0, SIDE, SIDE);
  return pixels(context);
}

/** How far the three are apart, some px of the board, and what the board's index finds and leaves out. */
async function proof() {
  const desk = new InkDesk(page.size, entities);
  const index = new InkIndex(page);
  const box = { minX: 90, minY: 90, maxX: 110, maxY: 310 };
  const idsIn = () => [...index.within(box).values()].flat().map(({ id }) => id);
  const found = idsIn();
  index.aside = new Set(['mark']);
  const board = asBoard(desk);
  const colour = (x: number, y: number) => [...board.slice(4 * (y * SIDE + x), 4 * (y * SIDE + x) + 3)];
  return {
    ring: colour(200, 110),
    between: colour(200, 215),
    line: colour(380, 260),
    hole: colour(260, 260),
    bands: apartFromEdges(board, inBands(desk), SIDE).most,
    svg: apartFromEdges(board, await asSvg(), SIDE).most,
    ...{ found, left: idsIn() },
  };
}

Object.assign(window, { proof });
