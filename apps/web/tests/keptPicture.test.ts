import { apply, invert, seededRandom, type Box, type Matrix } from '@true-nib/core/math';
import { KeptPicture, type BoxPainter } from '../src/render/keptPicture';

/** A canvas of numbers, which can be cleared and laid on others: as much of one as these pictures need. */
class NumberCanvas {
  readonly values: Float64Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.values = new Float64Array(width * height);
  }

  readonly canvas = this;
  getContext = () => this;
  private isMapped = false;

  /** Painters leave their own map behind. */
  setTransform(...map: number[]): void {
    this.isMapped = map.join() !== '1,0,0,1,0,0';
  }

  set(x: number, y: number, value: number): void {
    if (x >= 0 && y >= 0 && x < this.width && y < this.height) this.values[this.width * y + x] = value;
  }

  clearRect(left: number, top: number, width: number, height: number): void {
    expect(this.isMapped).toBe(false);
    for (let y = top; y < top + height; y++) for (let x = left; x < left + width; x++) this.set(x, y, 0);
  }

  /** Where 0 is transparent. */
  drawImage({ values, width, height }: NumberCanvas, ...places: number[]): void {
    expect(this.isMapped).toBe(false);
    const [fromX, fromY, across, down, , toX, toY] =
      places.length === 2 ? [0, 0, width, height, 0, ...places] : [...places.slice(0, 4), 0, places[4], places[5]];
    for (let y = 0; y < down; y++)
      for (let x = 0; x < across; x++) {
        const value = values[width * (fromY + y) + fromX + x];
        if (value !== 0) this.set(toX + x, toY + y, value);
      }
  }
}
Object.assign(globalThis, { OffscreenCanvas: NumberCanvas });

/** Squares of ink on a page, each of its own number. */
type Ink = Box & { readonly value: number };

const inkAt = (inks: readonly Ink[], { x, y }: { x: number; y: number }): number =>
  inks.findLast(({ minX, minY, maxX, maxY }) => x >= minX && y >= minY && x < maxX && y < maxY)?.value ?? 0;

describe('a picture that is kept', () => {
  const random = seededRandom(23);
  const whole = (least: number, most: number) => least + Math.floor(random() * (most - least + 1));

  it.each(Array.from({ length: 24 }, (_value, k) => k))('shows what one painted as a whole would, hand %d', () => {
    let inks: readonly Ink[] = [];
    let value = 0;
    let painted = 0;
    const paint: BoxPainter = (context, map, { minX, minY, maxX, maxY }) => {
      const back = invert(map);
      const canvas = context as unknown as NumberCanvas;
      canvas.setTransform(...map);
      for (let y = minY; y < maxY; y++)
        for (let x = minX; x < maxX; x++) {
          canvas.set(x, y, inkAt(inks, apply(back, { x: x + 0.5, y: y + 0.5 })));
          painted++;
        }
    };
    const kept = new KeptPicture(paint, whole(0, 3));
    const [width, height] = [whole(20, 60), whole(20, 50)];
    let map: Matrix = [0.71, 0, 0, 0.71, 3, 4];
    let asked = 0;
    for (let step = 0; step < 12; step++) {
      if (random() < 0.6) {
        // No edge lies in the middle of a px, where it would be a matter of rounding.
        const [minX, minY] = [110 * random() - 20, 100 * random() - 20];
        const came = { minX, minY, maxX: minX + 9 * random(), maxY: minY + 9 * random(), value: ++value };
        const gone = random() < 0.4 ? inks.slice(0, 1) : [];
        inks = [...inks.slice(gone.length), came];
        kept.touch([came, ...gone]);
      }
      const [a, b, c, d, e, f] = map;
      const moves: readonly Matrix[] = [
        map,
        [a, b, c, d, e + whole(-20, 20), f + whole(-20, 20)],
        [a, b, c, d, e + 1000, f],
        [a, b, c, d, e + random(), f],
        [0.6, 0.2, -0.2, 0.6, e, f],
      ];
      map = moves[Math.min(moves.length - 1, Math.floor(random() * 6.5))];
      const shown = kept.picture({ map, width, height }) as unknown as NumberCanvas;
      asked += width * height;
      const all = new NumberCanvas(width, height);
      const before = painted;
      paint(all as unknown as OffscreenCanvasRenderingContext2D, map, { minX: 0, minY: 0, maxX: width, maxY: height });
      painted = before;
      expect(shown.values.filter((one, k) => one !== all.values[k])).toHaveLength(0);
    }
    expect(painted).toBeLessThan(asked);
  });

  it('is not painted at all where nothing has changed, and only what came into sight where it was moved', () => {
    const boxes: Box[] = [];
    const kept = new KeptPicture((_context, _map, box) => void boxes.push(box), 2);
    const at = (x: number, inPlaces = true) =>
      kept.picture({ map: [1, 0, 0, 1, x, 0], width: 100, height: 80 }, inPlaces);
    const whole = { minX: 0, minY: 0, maxX: 100, maxY: 80 };
    at(0);
    expect(boxes.splice(0)).toEqual([whole]);
    at(0);
    at(0, false);
    expect(boxes).toEqual([]);
    at(-10);
    // With the margin that is thrown away.
    expect(boxes.splice(0)).toEqual([{ minX: 0, minY: 0, maxX: 14, maxY: 84 }]);
    kept.touch([{ minX: 40, minY: 40, maxX: 44, maxY: 44 }]);
    at(-10);
    expect(boxes.splice(0)).toHaveLength(1);
    kept.forget();
    at(-10);
    at(-12, false);
    expect(boxes).toEqual([whole, whole]);
  });
});
