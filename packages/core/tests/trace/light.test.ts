import { seededRandom } from '../../src/math';
import { evenLight, grainOf, inkOf, type Picture } from '../../src/trace';

/** A picture of so many px, each as it is told. */
function painted(
  width: number,
  height: number,
  at: (x: number, y: number) => readonly [number, number, number],
): Picture {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i += 4) data.set([...at(x, y), 255], i);
  return { width, height, data };
}

const isLine = (x: number, y: number) => x % 90 > 40 && x % 90 < 48 && y > 20 && y < 380;
const isBlack = (x: number, y: number) => x > 250 && x < 370 && y > 120 && y < 240;

describe('Even light', () => {
  it('takes tint and shadow off the paper, and leaves lines and blacks dark', () => {
    const photo = painted(600, 400, (x, y) => {
      const shade = 1 - 0.5 / (1 + Math.exp(-(x - 300) / 30));
      const ink = isLine(x, y) || isBlack(x, y) ? 0.1 : 1;
      return [240 * shade * ink, 232 * shade * ink, 205 * shade * ink];
    });
    const before = photo.data.slice();
    const even = evenLight(photo, { evened: true, drop: [] });
    expect(Buffer.compare(Buffer.from(photo.data.buffer), Buffer.from(before.buffer))).toBe(0);
    let [palest, darkest, paper] = [255, 0, 255];
    for (let y = 30; y < 370; y += 3)
      for (let x = 5; x < 595; x += 3) {
        const value = Math.min(...even.data.subarray(4 * (y * 600 + x), 4 * (y * 600 + x) + 3));
        if (isLine(x, y) || isBlack(x, y)) darkest = Math.max(darkest, value);
        else [paper, palest] = [Math.min(paper, value), palest];
      }
    expect(paper).toBeGreaterThan(225);
    expect(darkest).toBeLessThan(70);
  });

  it('drops blue pencil and red rulings when asked to, and keeps black ink over them', () => {
    const page = painted(60, 60, (x, y) =>
      x === 30 ? [20, 20, 22] : y === 20 ? [150, 200, 240] : y === 40 ? [240, 120, 130] : [255, 255, 255],
    );
    const at = (picture: Picture, x: number, y: number) => [
      ...picture.data.subarray(4 * (y * 60 + x), 4 * (y * 60 + x) + 3),
    ];
    const dropped = evenLight(page, { evened: false, drop: ['blue', 'red'] });
    expect(Math.min(...at(dropped, 10, 20))).toBeGreaterThanOrEqual(240);
    expect(Math.min(...at(dropped, 10, 40))).toBeGreaterThanOrEqual(240);
    expect(Math.max(...at(dropped, 30, 20))).toBeLessThan(30);
    expect(at(evenLight(page, { evened: false, drop: ['blue'] }), 10, 40)).toEqual([240, 120, 130]);
  });

  it('leaves ink dark that only leans towards a colour which is dropped', () => {
    const navy = painted(20, 20, () => [18, 26, 74]);
    const [, , blue] = evenLight(navy, { evened: false, drop: ['blue'] }).data;
    expect(blue).toBeLessThan(90);
  });

  it('makes grey pencil full ink, and clear paper none', () => {
    const pencil = inkOf(painted(100, 100, (x) => (x % 20 < 3 ? [120, 120, 120] : [255, 255, 255])));
    expect(pencil.ink[101]).toBeGreaterThan(230);
    expect(pencil.ink[110]).toBe(0);
  });

  it('measures grain as it is: normal noise of a known deviation within a tenth', () => {
    const random = seededRandom(3);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    for (const deviation of [2, 4, 8]) {
      const ink = Uint8Array.from({ length: 200 * 200 }, () =>
        Math.max(0, Math.min(255, Math.round(30 + deviation * normal()))),
      );
      expect(Math.abs(grainOf({ width: 200, height: 200, ink }) / deviation - 1)).toBeLessThan(0.1);
    }
  });
});
