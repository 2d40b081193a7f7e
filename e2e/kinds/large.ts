// Runs in the browser: selects and moves pixels of a page of A3, and looks at every surface that is made for it.
import { newLayer, tileBox, washTile, WASH_SIDE, type Entity } from '@true-nib/core/page';
import { InkDesk } from '../../apps/web/src/render/inkDesk';
import { packTile } from '../../apps/web/src/render/washCode';
import { WashWork } from '../../apps/web/src/render/washWork';

/** A3 at 300 ppi. */
const SIZE = { width: 3508, height: 4961, ppi: 300 };

let [side, area] = [0, 0];
const Surface = OffscreenCanvas;
Object.assign(window, {
  OffscreenCanvas: class extends Surface {
    constructor(width: number, height: number) {
      super(width, height);
      side = Math.max(side, width, height);
      area = Math.max(area, width * height);
    }
  },
});

/** Pixels of a tile: a square of one colour in its middle. */
function square(r: number): ImageData {
  const image = new ImageData(WASH_SIDE, WASH_SIDE);
  for (let y = 64; y < 192; y++)
    for (let x = 64; x < 192; x++) image.data.set([r, 90, 40, 255], 4 * (y * WASH_SIDE + x));
  return image;
}

async function proof() {
  const corners = [
    [0, 0],
    [12, 18],
  ] as const;
  const tiles = await Promise.all(
    corners.map(async ([column, row], k) => ({ column, row, ...(await packTile(square(100 + 50 * k))) })),
  );
  const entities: Entity[] = [
    newLayer({ id: 'sky', medium: 'wash', name: 'Sky', order: 'a0' }),
    ...tiles.map(({ column, row, blob }) => washTile('sky', column, row, blob)),
  ];
  const work = new WashWork(new InkDesk(SIZE, entities));
  for (const { blob, bytes } of tiles) await work.addTile(blob, bytes);
  const counts: Record<string, number | undefined> = {};
  const loop = [
    { x: 0, y: 0 },
    { x: SIZE.width, y: 0 },
    { x: SIZE.width, y: SIZE.height },
    { x: 0, y: SIZE.height },
  ];
  counts.loop = (await work.select('sky', { by: 'loop', loop }, 'instead'))?.count;
  counts.touch = (await work.select('sky', { by: 'touch', at: { x: 100, y: 100 } }, 'instead'))?.count;
  counts.others = (await work.select('sky', { by: 'others' }, 'instead'))?.count;
  counts.all = (await work.select('sky', { by: 'all' }, 'instead'))?.count;
  const { cover, taken } = await work.lift('sky');
  work.putBack();
  const refused = await work.take('sky').then(
    () => '',
    (error: Error) => error.message,
  );
  const moved = await work.move('sky', [1, 0, WASH_SIDE, 0, 1, 0, 0, 0, 1], 'sky');
  const places = moved.map(({ column, row, blob }) => [column, row, tiles.findIndex((tile) => tile.blob === blob)]);
  const lying = tileBox({ column: 12, row: 18 });
  return { counts, side, area, places, refused, lifted: [cover.height, taken.bitmap.height, taken.height], lying };
}

Object.assign(window, { proof });
