import ClipperLib from 'clipper-lib';
import { flattenSpine, spineLength, widestOf } from '../../src/curve';
import { drawStroke, outlineOf } from '../../src/ink';
import {
  bridge,
  bridgeEdits,
  bridgesAmong,
  Cover,
  cutUnder,
  endPoint,
  planning,
  tidyEnds,
  tidying,
  turnBetween,
  type MendDeed,
  type MendPlan,
} from '../../src/mend';
import { styledStroke, type Stroke, type StrokeEntity } from '../../src/stroke';
import type { InkStyle, Nib } from '../../src/nib';
import { area, inkArea, inkBetween, inkOf, toRing } from '../areas';
import { drawn, edgeKinkOf, even, liner } from '../hands';
import { bar, circle, entities, kinkOf, widthAt } from './lines';

describe('tidying ends', () => {
  /** A house drawn with overshoots: walls, floor, eaves and two roof lines. */
  const house = entities([
    bar([100, 70], [100, 315], 6),
    bar([300, 75], [300, 318], 6),
    bar([85, 300], [312, 300], 6),
    bar([80, 100], [320, 100], 6),
    bar([88, 112], [212, -12], 6),
    bar([312, 112], [188, -12], 6),
  ]);

  it('snips all overshoots of a house, and leaves its corners closed', () => {
    const { edits, report } = tidyEnds(house, { overshoot: 40, gap: 0 });
    expect(report.every(({ kind }) => kind === 'overshoot')).toBe(true);
    expect(report).toHaveLength(12);
    const after = house.map((line) => (edits.find(({ before }) => before === line)?.after ?? line) as StrokeEntity);
    // Nothing stands out beyond the roof, the walls and the floor, by more than a hair.
    const outline = toRing([97, 303, 97, 103, 90.5, 103, 200, -8.3, 309.5, 103, 303, 103, 303, 303]);
    expect(area(ClipperLib.ClipType.ctDifference, inkOf(after), [outline])).toBeLessThan(12);
    // Each corner of the floor is a whole square of 6 px.
    for (const x of [100, 300]) {
      const square = toRing([x - 2.9, 297.1, x + 2.9, 297.1, x + 2.9, 302.9, x - 2.9, 302.9]);
      expect(area(ClipperLib.ClipType.ctIntersection, inkOf(after), [square])).toBeCloseTo(5.8 * 5.8, 0);
    }
    // What is tidy stays as it is.
    expect(tidyEnds(after, { overshoot: 40, gap: 0 }).edits).toEqual([]);
  });

  it('keeps exceptions, longer ends and lines that may not be changed', () => {
    const all = tidyEnds(house, { overshoot: 40, gap: 0 });
    const exceptions = new Set([all.report[0].key]);
    const some = tidyEnds(house, { overshoot: 40, gap: 0, exceptions });
    expect(some.report.filter(({ isException }) => isException).map(({ key }) => key)).toEqual([...exceptions]);
    expect(some.report).toHaveLength(12);
    expect(tidyEnds(house, { overshoot: 5, gap: 0 }).report).toEqual([]);
    const { edits } = tidyEnds(house, { overshoot: 40, gap: 0, mayChange: ({ id }) => id === 'line-2' });
    expect(edits.map(({ before }) => before)).toEqual([house[2]]);
    const work = tidying(house, { overshoot: 40, gap: 0 });
    expect(work.next()).toEqual({ done: false, value: 0 });
  });

  it('grows ends that fall short within the gap, flush into the line they meet', () => {
    const lines = entities([bar([0, 100], [180, 100], 8), bar([200, 0], [200, 200], 12)]);
    expect(tidyEnds(lines, { overshoot: 10, gap: 0 }).edits).toEqual([]);
    expect(tidyEnds(lines, { overshoot: 10, gap: 4 }).edits).toEqual([]);
    const { edits, report } = tidyEnds(lines, { overshoot: 10, gap: 12 });
    expect(report).toEqual([expect.objectContaining({ key: 'line-0:1', kind: 'short' })]);
    expect(report[0].length).toBeCloseTo(10, 1);
    const after = edits[0].after as StrokeEntity;
    expect(inkBetween([after, lines[1]], [bar([0, 100], [200, 100], 8), lines[1]])).toBeLessThan(0.5);
  });
});

describe('what ends are tidied by', () => {
  const tidied = (lines: readonly Stroke[], overshoot = 40) => {
    const own = entities(lines);
    return tidyEnds(own, { overshoot, gap: 0 }).report.map(({ key }) => key);
  };

  it('is a crossing, and no line that is only grazed on the way', () => {
    const upright = bar([200, 0], [200, 200], 6);
    expect(tidied([upright, bar([20, 100], [220, 100], 6)])).toEqual(['line-1:1']);
    // A slanting line whose side touches the end of the first overshoot on its way.
    const beside = bar([20, 100], [220, 100], 6);
    const grazed = bar([205, 104], [260, 160], 4);
    expect(tidied([upright, beside, grazed])).toEqual(['line-1:1']);
  });

  it('is also an end that lies in the ink of a line, for both of them', () => {
    // The second one ends in the first, which runs on beyond it.
    expect(tidied([bar([100, 20], [100, 230], 6), bar([0, 200], [98, 200], 6)])).toEqual(['line-0:1']);
    // An end that lies well in another line is no overshoot of the one it crosses farther in.
    const lines = [bar([180, 0], [180, 200], 6), bar([210, 0], [210, 200], 6), bar([0, 100], [210, 100], 6)];
    expect(tidied(lines)).toEqual([]);
  });

  it('is neither a line that runs along, nor one that goes on where it ends', () => {
    const wall = bar([200, 0], [200, 200], 6);
    // The line is drawn twice over itself: both go beyond the wall.
    expect(tidied([wall, bar([20, 100], [215, 100], 6), bar([20, 102], [217, 102], 6)])).toEqual([
      'line-1:1',
      'line-2:1',
    ]);
    // It goes on as another line: that is where it ends.
    expect(tidied([wall, bar([20, 100], [215, 100], 6), bar([215, 100], [400, 100], 6)])).toEqual([]);
  });

  it('is the ink that layers show: one that shows its lines wider reaches farther', () => {
    const [first, second] = entities([bar([0, 100], [186, 100], 8), bar([200, 0], [200, 200], 8)]);
    const lines = [first, { ...second, layerId: 'wide' }];
    const tidy: MendDeed = { deed: 'tidy', overshoot: 10, gap: 4, exceptions: [] };
    expect(planned(lines, tidy).marks).toEqual([]);
    const { marks, edits } = planned(lines, tidy, { wide: { widthFactor: 2, edge: 'soft' } });
    expect(marks.map(({ key }) => key)).toEqual(['line-0:1']);
    // The line itself is as wide as it was.
    expect((edits[0].after as StrokeEntity).spine.points[2]).toBeCloseTo(8, 9);
    expect(edits[0].before).toBe(lines[0]);
  });

  it('is the ink that layers show: another nib, whose tapers give lines further nodes', () => {
    const lines = entities([bar([20, 100], [330, 100], 4), bar([300, 0], [300, 200], 4)]);
    const nib: Nib = { ...liner, size: 30, taperIn: 1, taperOut: 1 };
    const tidy: MendDeed = { deed: 'tidy', overshoot: 40, gap: 0, exceptions: [] };
    const { marks, edits } = planned(lines, tidy, { ink: { nib, widthFactor: 1, edge: 'soft' } });
    expect(marks.map(({ key }) => key)).toEqual(['line-0:1']);
    const after = edits[0].after as StrokeEntity;
    // As wide as it was drawn, up to the far edge of what is seen: 15 px beyond the middle of the line that is crossed.
    expect(after.spine.points[2]).toBe(4);
    expect(outlineOf(after).box.maxX).toBeCloseTo(315, 1);
    expect(edits[0].before).toBe(lines[0]);
  });
});

describe('other deeds over a page', () => {
  const nib: Nib = { ...liner, size: 30, taperIn: 1, taperOut: 1 };
  const style: InkStyle = { nib, widthFactor: 1, edge: 'soft' };

  it('gather ink where lines are shown to meet, as a share of the width they were drawn with', () => {
    const lines = entities([bar([0, 0], [188, 94], 4), bar([0, 110], [300, 110], 4)]);
    const pool: MendDeed = { deed: 'pool', radius: 40, strength: 1, angle: 1 };
    expect(planned(lines, pool).edits).toEqual([]);
    const { edits } = planned(lines, pool, { ink: { widthFactor: 8, edge: 'soft' } });
    expect(edits.map(({ before }) => before?.id)).toEqual(['line-0', 'line-1']);
    expect(widestOf((edits[0].after as StrokeEntity).spine)).toBeCloseTo(8, 1);
  });

  it('cut lines where the layer in front is shown to hide them', () => {
    const [back, front] = entities([bar([0, 100], [400, 100], 4), bar([200, 0], [200, 200], 4)]);
    const lines = [back, { ...front, layerId: 'front' }];
    const { edits } = planned(lines, { deed: 'clean', frontId: 'front' }, { front: style });
    const boxes = edits.map(({ after }) => outlineOf(after as StrokeEntity).box);
    // Flush within the ink that is seen, which reaches from 185 to 215.
    expect(boxes[0].maxX).toBeGreaterThan(185);
    expect(boxes[0].maxX).toBeLessThan(187);
    expect(boxes[1].minX).toBeGreaterThan(213);
    expect(boxes[1].minX).toBeLessThan(215);
  });

  it('bridge lines as they were drawn, whatever they are shown as', () => {
    const lines = entities([bar([0, 100], [100, 100], 4), bar([108, 100], [300, 100], 4)]);
    const bridging: MendDeed = { deed: 'bridge', gap: 12, angle: 0.5, exceptions: [] };
    const { edits } = planned(lines, bridging, { ink: style });
    const left = edits.flatMap(({ after }) => (after ? [after as StrokeEntity] : []));
    expect(left).toHaveLength(1);
    expect(widestOf(left[0].spine)).toBeCloseTo(4, 9);
    expect(spineLength(left[0].spine)).toBeCloseTo(300, 3);
  });
});

/** What a deed over lines would do on layers with these styles. */
function planned(
  lines: readonly StrokeEntity[],
  deed: MendDeed,
  styles: Readonly<Record<string, InkStyle>> = {},
): MendPlan {
  const work = planning(
    lines,
    () => true,
    deed,
    () => 'new',
    (stroke) => styledStroke(stroke, styles[stroke.layerId]),
  );
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

describe('bridging', () => {
  it('starts where a cut end is seen to end', () => {
    const half = Float64Array.of(100, 0, 300, 0, 300, 200, 100, 200);
    const cut = { ...bar([0, 100], [130, 100], 8), ends: ['round', { gone: half }] as const };
    const other = bar([112, 100], [240, 100], 8);
    expect(endPoint({ stroke: cut, end: 1 }).x).toBeCloseTo(100, 3);
    const joined = bridge({ stroke: cut, end: 1 }, { stroke: other, end: 0 });
    expect(joined.ends).toEqual(['round', 'round']);
    const p = flattenSpine(joined.spine, 0.05);
    for (let i = 3; i < p.length; i += 3) expect(p[i]).toBeGreaterThan(p[i - 3] - 1e-9);
    expect(spineLength(joined.spine)).toBeCloseTo(240, 3);
    // A cut that takes none of the middle leaves the end where it is.
    const beside = {
      ...cut,
      ends: ['round', { gone: half.map((value, k) => (k % 2 ? value + 300 : value)) }] as const,
    };
    expect(endPoint({ stroke: beside, end: 1 }).x).toBe(130);
  });

  it('makes two ends one, smooth in course and weight', () => {
    const a = bar([0, 100], [100, 100], 8);
    const b = bar([120, 106], [240, 140], 4);
    const joined = bridge({ stroke: a, end: 1 }, { stroke: b, end: 0 });
    expect(kinkOf(joined.spine)).toBeLessThan(1e-6);
    expect(edgeKinkOf(joined.spine)).toBeLessThan(1e-6);
    expect(joined.spine.points.slice(0, 2)).toEqual(Float64Array.of(0, 100));
    expect([...joined.spine.points.slice(-3)]).toEqual([240, 140, 4]);
    let last = 8;
    for (let along = 0; along < spineLength(joined.spine); along += 1) {
      const width = widthAt(joined.spine, along);
      expect(width).toBeLessThanOrEqual(last + 1e-6);
      last = width;
    }
    // Whichever ends are named, the line keeps the way of the first one.
    const turned = bridge({ stroke: b, end: 0 }, { stroke: a, end: 1 });
    expect([...turned.spine.points.slice(-3)]).toEqual([240, 140, 4]);
  });

  it('takes back ends that ran past each other, and makes a line a ring', () => {
    const joined = bridge({ stroke: bar([0, 0], [110, 0]), end: 1 }, { stroke: bar([100, 3], [220, 3]), end: 0 });
    expect(kinkOf(joined.spine)).toBeLessThan(1e-6);
    const p = flattenSpine(joined.spine, 0.05);
    for (let i = 3; i < p.length; i += 3) expect(p[i]).toBeGreaterThan(p[i - 3] - 1e-9);
    const open = drawStroke(
      drawn((t) => [200 + 90 * Math.cos(6 * t), 200 + 90 * Math.sin(6 * t)]),
      liner,
      even(20),
    );
    const ring = bridge({ stroke: open, end: 1 }, { stroke: open, end: 0 });
    expect(ring.spine.closed).toBe(true);
    expect(kinkOf(ring.spine)).toBeLessThan(0.05);
  });

  it('suggests near ends within gap and turn, never across other ink unless asked', () => {
    const lines = entities([bar([0, 0], [100, 0], 4), bar([110, 0], [200, 0], 4), bar([210, 4], [210, 90], 4)]);
    const options = { gap: 15, angle: 0.6 };
    expect(bridgesAmong(lines, options).map(({ a, b }) => [a.stroke.id, b.stroke.id])).toEqual([['line-0', 'line-1']]);
    expect(bridgesAmong(lines, { ...options, angle: 2 })).toHaveLength(2);
    expect(turnBetween({ stroke: lines[1], end: 1 }, { stroke: lines[2], end: 0 })).toBeCloseTo(Math.PI / 2, 5);
    const across = entities([...lines, bar([105, -20], [105, 20], 4)]);
    expect(bridgesAmong(across, options)).toEqual([]);
    expect(bridgesAmong(across, { ...options, mayCross: true })).toHaveLength(1);
  });

  it('bridges a whole chain in one go, and each line once', () => {
    const lines = entities([0, 1, 2, 3].map((k) => bar([110 * k, 0], [110 * k + 100, 0], 4)));
    const edits = bridgeEdits(bridgesAmong(lines, { gap: 12, angle: 0.5 }));
    expect(edits).toHaveLength(4);
    const left = edits.flatMap(({ after }) => (after ? [after as StrokeEntity] : []));
    expect(left).toHaveLength(1);
    expect(spineLength(left[0].spine)).toBeCloseTo(430, 0);
  });
});

describe('merging clean', () => {
  it('cuts the lines below where those above hide them, and the inked area stays', () => {
    const front = [bar([200, 0], [200, 200], 20), circle(320, 100, 40, 12)];
    const back = bar([20, 100], [320, 104], 8);
    const pieces = cutUnder(back, new Cover(front))!;
    expect(pieces.length).toBeGreaterThanOrEqual(3);
    expect(inkBetween([...front, ...pieces], [...front, back])).toBeLessThan(0.5);
    expect(inkArea(pieces)).toBeLessThan(inkArea([back]) - 100);
    expect(cutUnder(bar([200, 50], [200, 120], 6), new Cover(front))).toEqual([]);
    expect(cutUnder(bar([0, 0], [100, 0], 6), new Cover(front))).toBeUndefined();
    expect(cutUnder(back, new Cover([{ ...front[0], nib: { ...front[0].nib, opacity: 0.5 } }]))).toBeUndefined();
  });
});
