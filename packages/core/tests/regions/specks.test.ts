import { nested, type Area } from '../../src/area';
import { evenlyWide } from '../../src/curve';
import type { Stroke } from '../../src/stroke';
import { inkOfEach, specksOf, withoutPieces } from '../../src/regions';
import { specksOfPixels } from '../../src/select';
import { ellipseSpine, lineSpine } from '../../src/shapes';
import { stroke } from '../page/entities';

const disc = (x: number, y: number, r: number): Area => ({
  rings: nested([ellipseSpine({ centre: { x, y }, rx: r, ry: r })]),
  fill: { as: 'colour', color: '#14161a' },
});
const line = (y: number) => ({
  ...stroke('one'),
  spine: evenlyWide(lineSpine({ x: 10, y }, { x: 190, y }), 6),
});

function found(things: readonly (Stroke | Area)[], most: number) {
  const work = specksOf(inkOfEach(things), most);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

describe('specks', () => {
  it('are what is small and touches nothing large; two that touch count as one', () => {
    const things = [line(50), disc(40, 51, 2), disc(40, 80, 2.1), disc(90, 80, 2), disc(93, 80, 2), disc(150, 80, 9)];
    const areas = found(things, 40).map(({ x, y, area }) => [Math.round(x), y, Math.round(area)]);
    expect(areas).toEqual([
      [40, 80, 14],
      [92, 80, 23],
    ]);
    // Together they are no longer small.
    expect(found(things, 20)).toHaveLength(1);
    expect(found([], 40)).toEqual([]);
  });

  it('a small dot that hangs on a speck that hangs on a line is a part of the line', () => {
    expect(found([disc(40, 55.5, 1.5), line(50), disc(40, 53.5, 1.5)], 40)).toEqual([]);
  });

  it('the crumbs that a nick leaves of a line go, and the rest of the line stays', () => {
    const nick: Area = {
      rings: nested([ellipseSpine({ centre: { x: 20, y: 50 }, rx: 8, ry: 8 })]),
      fill: { as: 'nothing' },
    };
    const own = line(50);
    const specks = found([own, nick], 40);
    expect(specks).toHaveLength(1);
    expect(specks[0].x).toBeLessThan(12);
    expect(withoutPieces(own, specks[0].rings)).toHaveLength(1);
  });

  it('of pixels hang together by their corners too (8-connectivity, Rosenfeld & Pfaltz 1966)', () => {
    const rows = ['#....##', '.#...##', '......#', '...#...', '......#'];
    const [width, height] = [7, 5];
    const data = new Uint8ClampedArray(4 * width * height);
    for (const [y, row] of rows.entries())
      for (const [x, px] of [...row].entries()) data[4 * (y * width + x) + 3] = px === '#' ? 9 : 0;
    const { specks, mask } = specksOfPixels({ x: 100, y: 200, width, height, data }, 5);
    expect(specks.map(({ x, y, area }) => [x, y, area])).toEqual([
      [103.5, 203.5, 1],
      [106.5, 204.5, 1],
      [101, 201, 2],
    ]);
    expect(mask.data.filter((meant) => meant === 255)).toHaveLength(4);
    expect(specksOfPixels({ x: 0, y: 0, width, height, data }, 6).specks).toHaveLength(4);
  });
});
