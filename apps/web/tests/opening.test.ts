import type { Box, Matrix } from '@true-nib/core/math';
import { newLayer } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { breath } from '../src/base/breath';
import { lastBoard, rememberBoard } from '../src/open/boardSize';
import { InkDesk } from '../src/render/inkDesk';

/** A context that takes everything and paints nothing. */
const blank: Record<string, () => void> = new Proxy({}, { get: () => () => undefined, set: () => true });
class BlankCanvas {
  getContext = () => Object.assign(blank, { canvas: this });
}
class BlankPath {
  moveTo(): void {}
  lineTo(): void {}
  closePath(): void {}
}
Object.assign(globalThis, { OffscreenCanvas: BlankCanvas, Path2D: BlankPath });

const size = { width: 400, height: 300, ppi: 300 };
const map: Matrix = [0.5, 0, 0, 0.5, 3, 4];
const picture = { map, width: 200, height: 150 };
const stroke = (id: string): StrokeEntity => ({
  ...{ kind: 'stroke', id, layerId: 'inks', order: 'a1', ends: ['round', 'round'] },
  spine: { points: Float64Array.of(9, 9, 5, 20, 9, 5, 30, 9, 5, 40, 9, 5), closed: false },
  nib: { name: 'Liner', size: 5, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' },
  origin: { samples: `${id}:hand`, calm: { way: 'raw' }, zoom: 1 },
});
const layer = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });

describe('the first picture of a page', () => {
  it('is painted before anybody asks for it, and given to who asks for that very one', async () => {
    const desk = new InkDesk(size, [layer, stroke('a')]);
    const painting = jest.spyOn(desk, 'paint');
    await desk.warm({ scale: 0.5, picture });
    expect(painting).toHaveBeenCalledTimes(1);
    desk.view({ ...picture, map: [...map] as unknown as Matrix });
    expect(painting).toHaveBeenCalledTimes(1);
    desk.view({ ...picture, width: 201 });
    expect(painting).toHaveBeenCalledTimes(2);
  });

  it.each<[string, (desk: InkDesk) => void]>([
    ['an edit', (desk) => desk.edit([{ before: null, after: stroke('b') }])],
    ['strokes left out', (desk) => desk.setAside(['a'])],
    ['another look', (desk) => desk.setLook({ solo: ['other'], standIns: false })],
    ['another view', (desk) => void desk.view({ ...picture, width: 201 })],
  ])('is painted anew after %s', async (_what, happen) => {
    const desk = new InkDesk(size, [layer, stroke('a')]);
    await desk.warm({ scale: 0.5, picture });
    happen(desk);
    const painting = jest.spyOn(desk, 'paint');
    desk.view(picture);
    expect(painting).toHaveBeenCalledTimes(1);
  });

  it('is not begun once a picture has been asked for', async () => {
    const desk = new InkDesk(size, [layer, stroke('a')]);
    const painting = jest.spyOn(desk, 'paint');
    const warming = desk.warm({ scale: 0.5, picture });
    desk.tile([1, 0, 0, 1, 0, 0], 10);
    await warming;
    await breath();
    expect(painting).toHaveBeenCalledTimes(1);
  });
});

describe('small pictures beside the board', () => {
  const tiny = { map: [0.1, 0, 0, 0.1, 0, 0] as Matrix, width: 40, height: 30 };
  const points = Float64Array.of(309, 209, 5, 320, 209, 5, 330, 209, 5, 340, 209, 5);
  const far = (id: string): StrokeEntity => ({ ...stroke(id), spine: { points, closed: false } });
  const boxesOf = (desk: InkDesk, work: () => void): Box[] => {
    const painting = jest.spyOn(desk, 'paint').mockClear();
    work();
    return painting.mock.calls.map(([, , box]) => box);
  };
  const whole = { minX: 0, minY: 0, maxX: 40, maxY: 30 };

  it('are painted anew where lines came, changed or went, and nowhere else', () => {
    const desk = new InkDesk(size, [layer, stroke('a')]);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toEqual([whole]);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toEqual([]);
    desk.edit([{ before: null, after: far('b') }]);
    const [came, ...others] = boxesOf(desk, () => desk.smallPicture(tiny));
    expect(others).toEqual([]);
    expect(came.maxX * came.maxY).toBeLessThan(0.5 * whole.maxX * whole.maxY);
    desk.edit([{ before: far('b'), after: null }]);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toEqual([came]);
    desk.setAside(['a']);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toHaveLength(1);
    desk.setAside([]);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toHaveLength(1);
    desk.edit([{ before: null, after: { ...stroke('a'), spine: far('b').spine } }]);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toHaveLength(2);
  });

  it.each<[string, (desk: InkDesk) => void]>([
    ['a layer is another one', (desk) => desk.edit([{ before: layer, after: { ...layer, opacity: 0.5 } }])],
    ['layers are shown in another way', (desk) => desk.setLook({ solo: ['other'], standIns: false })],
  ])('are painted anew as a whole when %s', (_when, happen) => {
    const desk = new InkDesk(size, [layer, stroke('a')]);
    desk.smallPicture(tiny);
    happen(desk);
    expect(boxesOf(desk, () => desk.smallPicture(tiny))).toEqual([whole]);
  });

  it('take no outline away from the board, and use what it has', () => {
    const outlined = jest.spyOn(BlankPath.prototype, 'closePath');
    const desk = new InkDesk(size, [layer, stroke('a')]);
    desk.view(picture);
    outlined.mockClear();
    desk.smallPicture(tiny);
    desk.layerPicture('inks', tiny);
    desk.view({ ...picture, width: 201 });
    expect(outlined).not.toHaveBeenCalled();
  });
});

describe('the last board', () => {
  const kept = new Map<string, string>();
  const of = (innerWidth: number) =>
    Object.assign(globalThis, {
      window: Object.assign(globalThis.window ?? {}, { innerWidth, innerHeight: 800 }),
      localStorage: {
        getItem: (key: string) => kept.get(key) ?? null,
        setItem: (k: string, v: string) => kept.set(k, v),
      },
    });

  it('is known in a window of its size alone; what cannot be read is none', () => {
    of(1280);
    expect(lastBoard()).toBeUndefined();
    rememberBoard({ width: 752, height: 752 });
    expect(lastBoard()).toEqual({ width: 752, height: 752 });
    of(1180);
    expect(lastBoard()).toBeUndefined();
    of(1280);
    for (const broken of ['{', '[1,2]', '"x"', '[1280,800,"a",3]']) {
      kept.set([...kept.keys()][0], broken);
      expect(lastBoard()).toBeUndefined();
    }
  });
});
