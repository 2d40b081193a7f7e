import { TRACE_SETTINGS, type Said } from '../../src/page';
import { segmentCount, type Spine } from '../../src/curve';
import { centreLines, withSaid, type Place, type Traced } from '../../src/trace';
import { inkFrom } from './scans';

const drawn = (d: string, side = 300) =>
  inkFrom(
    `<path d="${d}" stroke="#000" stroke-width="6" stroke-linecap="round" stroke-linejoin="round" fill="none"/>`,
    side,
    side,
  );

const of = ({ places }: Traced, kind: Place['kind']) => places.filter((place) => place.kind === kind);
const corners = ({ lines }: Traced) => lines.map(({ spine }) => segmentCount(spine));

const inOrder = ({ points }: Spine, forward: boolean): number[] => {
  const widths = [...points].filter((_, i) => i % 3 === 2);
  return forward ? widths : widths.reverse();
};

describe('What the artist says of a place', () => {
  it('pairs a crossing anew, and stands when settings change', async () => {
    const raster = await drawn('M40 40 L260 220 M40 220 L260 40');
    const first = centreLines(raster, TRACE_SETTINGS);
    const [junction] = of(first, 'junction');
    expect(first.lines).toHaveLength(2);
    expect(junction.choices.length).toBeGreaterThan(2);
    const pairs = (place: Place) => {
      const choice = place.choices[place.choice];
      return choice.as === 'junction' ? choice.pairs.length : 0;
    };
    const other = junction.choices.find((choice) => choice.as === 'junction' && choice.pairs.length === 0);
    if (!other) throw new Error('All four may end there.');
    const parted = centreLines(raster, TRACE_SETTINGS, [other]);
    expect(parted.lines).toHaveLength(4);
    expect(pairs(of(parted, 'junction')[0])).toBe(0);
    expect(of(parted, 'junction')[0].isUnsure).toBe(false);
    expect(centreLines(raster, { ...TRACE_SETTINGS, darkness: 0.4, smoothness: 0.8 }, [other]).lines).toHaveLength(4);
  });

  it('makes a corner a bend, and a bend a corner again', async () => {
    const raster = await drawn('M40 40 L150 200 L260 40');
    const sharp = centreLines(raster, TRACE_SETTINGS);
    const [corner] = of(sharp, 'corner');
    expect(corner.choice).toBe(0);
    const smooth = centreLines(raster, TRACE_SETTINGS, [corner.choices[1]]);
    expect(of(smooth, 'corner')[0].choice).toBe(1);
    expect(corners(smooth)).not.toEqual(corners(sharp));
    const said = withSaid([corner.choices[1]], corner.choices[0], 4);
    expect(said).toHaveLength(1);
    expect(centreLines(raster, TRACE_SETTINGS, said)).toEqual(centreLines(raster, TRACE_SETTINGS, [corner.choices[0]]));
  });

  it('draws a tip out to a point, or leaves it blunt', async () => {
    const raster = await drawn('M40 150 H260');
    const blunt = centreLines(raster, TRACE_SETTINGS);
    const tip = of(blunt, 'tip').find(({ x }) => x > 200);
    expect(tip?.choice).toBe(1);
    if (!tip) throw new Error('A line has two tips.');
    const [line] = centreLines(raster, TRACE_SETTINGS, [tip.choices[0]]).lines;
    const { points } = line.spine;
    const right = points[0] > points[points.length - 3] ? points[2] : points[points.length - 1];
    expect(right).toBeLessThan(0.5);
    const widths = inOrder(line.spine, points[0] < points[points.length - 3]);
    for (let k = 1; k < widths.length; k++) expect(widths[k]).toBeLessThan(widths[k - 1] + 0.15);
  });

  it('fills a pointed tip out near its end alone', async () => {
    const raster = await inkFrom('<path d="M40 147 L200 147 L262 150 L200 153 L40 153 Z"/>', 300, 300);
    const pointed = centreLines(raster, TRACE_SETTINGS);
    const tip = of(pointed, 'tip').find(({ x }) => x > 200);
    expect(tip?.choice).toBe(0);
    if (!tip) throw new Error('A line has two tips.');
    const widths = ({ lines: [{ spine }] }: Traced) =>
      inOrder(spine, spine.points[0] < spine.points[spine.points.length - 3]);
    const [before, after] = [widths(pointed), widths(centreLines(raster, TRACE_SETTINGS, [tip.choices[1]]))];
    expect(before.at(-1)).toBeLessThan(1.5);
    expect(after.at(-1)).toBeGreaterThan(4);
    expect(Math.abs(after[0] - before[0])).toBeLessThan(0.3);
    expect(Math.max(...after)).toBeLessThan(8);
  });

  it('bridges a gap, so that two lines are one', async () => {
    const raster = await drawn('M40 150 H140 M156 150 H260');
    const two = centreLines(raster, TRACE_SETTINGS);
    expect(two.lines).toHaveLength(2);
    const [gap] = of(two, 'gap');
    expect(gap.isUnsure).toBe(true);
    const one = centreLines(raster, TRACE_SETTINGS, [gap.choices[1]]);
    expect(one.lines).toHaveLength(1);
    expect(of(one, 'gap')[0].choice).toBe(1);
  });

  it('splits a line where it is touched, and opens a ring there', async () => {
    const line = await drawn('M40 150 H260');
    const cut: Said = { x: 120, y: 151, as: 'split' };
    const { lines } = centreLines(line, TRACE_SETTINGS, [cut]);
    expect(lines).toHaveLength(2);
    expect(new Set(lines.map(({ key }) => key)).size).toBe(2);
    const ring = await drawn('M150 60 A90 90 0 0 1 150 240 A90 90 0 0 1 150 60');
    expect(centreLines(ring, TRACE_SETTINGS).lines[0].spine.closed).toBe(true);
    expect(centreLines(ring, TRACE_SETTINGS, [{ x: 240, y: 150, as: 'split' }]).lines[0].spine.closed).toBe(false);
    expect(centreLines(line, TRACE_SETTINGS, [{ x: 10, y: 10, as: 'split' }]).lines).toHaveLength(1);
  });

  it('makes a black a broad line, and a line a black', async () => {
    const raster = await inkFrom(
      '<path d="M60 60 H240 V90 H60Z"/><path d="M40 200 H260" stroke="#000" stroke-width="6"/>',
      300,
      300,
    );
    const first = centreLines(raster, TRACE_SETTINGS);
    const [solid] = of(first, 'black');
    const other = centreLines(raster, TRACE_SETTINGS, [solid.choices[1 - solid.choice]]);
    expect(other.blacks.length).toBe(1 - first.blacks.length);
    expect(other.lines.length).not.toBe(first.lines.length);
  });
});
