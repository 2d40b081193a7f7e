import { coursesAfter, isImage, moveGuide, releasedEdits, tetheredLinesOf } from '../../src/tethers';
import {
  obeys,
  pathThrough,
  project,
  rideGuide,
  symmetricStrokes,
  symmetryMaps,
  spineAlong,
  type GuideEntity,
  type GuideShape,
} from '../../src/guides';
import { rake } from '../../src/texture';
import { spineLength, type GuidePath } from '../../src/curve';
import { drawStroke } from '../../src/ink';
import { distance, type Point } from '../../src/math';
import { applyChange, checkEntity, find, invertChange, ofKind, type Entity, type Page } from '../../src/page';
import { inked, type StrokeEntity } from '../../src/stroke';
import { brush, drawn, edgeKinkOf, liner, raw } from '../hands';
import { widthAt } from '../mend/lines';
import { at, bow, guide, pageOf as pageWith, places, waysIn } from './guides';

const pageOf = (...entities: Entity[]): Page => pageWith({ width: 800, height: 800, ppi: 300 }, ...entities);

/** The bow after one of its handles was pulled. */
const bent = { ...bow, points: bow.points.map((value, k) => (k === 4 ? value + 60 : value)) };
const strayPath: GuidePath = { kind: 'line', x: 1, y: 2, dx: 0.6, dy: 0.8 };

/** A stroke along the path that a guide gives through `from`, to the place nearest to `to`. */
function along(owner: GuideEntity, id: string, from: Point, to: Point): StrokeEntity {
  const path = pathThrough(owner, from);
  if (!path) throw new Error('This guide gives a path.');
  const course = spineAlong(path, project(path, from).at, project(path, to).at);
  return { kind: 'stroke', id, layerId: 'inks', order: id, ...inked(course, liner), guide: { id: owner.id, path } };
}

const ends = (page: Page, id: string): readonly [Point, Point] => {
  const { points } = find(page, 'stroke', id)?.spine ?? { points: new Float64Array(6) };
  return [at(points[0], points[1]), at(points[points.length - 3], points[points.length - 2])];
};
const angle = ([a, b]: readonly [Point, Point]) => Math.atan2(b.y - a.y, b.x - a.x);

describe('lines tethered to a guide', () => {
  const rails = guide({ kind: 'rails', x: 0, y: 0, angle: 0 });

  it('turn about their own middles when rails turn, and one undo brings all back', () => {
    const page = pageOf(
      rails,
      along(rails, 'a', at(100, 100), at(300, 100)),
      along(rails, 'b', at(50, 300), at(450, 300)),
    );
    const change = moveGuide(page, rails.id, { ...rails.shape, angle: 0.5 } as GuideShape);
    const after = applyChange(page, change);
    for (const id of ['a', 'b']) {
      expect(Math.abs(Math.sin(angle(ends(after, id)) - 0.5))).toBeLessThan(1e-6);
      const [p, q] = ends(page, id);
      const [r, s] = ends(after, id);
      expect(distance(at((p.x + q.x) / 2, (p.y + q.y) / 2), at((r.x + s.x) / 2, (r.y + s.y) / 2))).toBeLessThan(1e-6);
      expect(distance(r, s)).toBeCloseTo(distance(p, q), 6);
      const stroke = find(after, 'stroke', id);
      expect(stroke?.guide && obeys(stroke.guide.path, { ...rails.shape, angle: 0.5 } as GuideShape)).toBe(true);
    }
    const back = applyChange(after, invertChange(change));
    expect(ends(back, 'a')).toEqual(ends(page, 'a'));
  });

  it('aim anew at the point of rays', () => {
    const rays = guide({ kind: 'rays', x: 400, y: 400 });
    const page = pageOf(
      rays,
      along(rays, 'a', at(100, 100), at(300, 300)),
      along(rays, 'b', at(700, 100), at(500, 300)),
    );
    const after = applyChange(page, moveGuide(page, rays.id, { kind: 'rays', x: 450, y: 600 }));
    for (const id of ['a', 'b']) {
      const [p, q] = ends(after, id);
      const cross = (q.x - p.x) * (600 - p.y) - (q.y - p.y) * (450 - p.x);
      expect(Math.abs(cross) / distance(p, q)).toBeLessThan(1e-6);
    }
  });

  it('grow and turn with ripples', () => {
    const ripples = guide({ kind: 'ripples', x: 400, y: 400, ratio: 0.5, angle: 0 });
    const page = pageOf(ripples, along(ripples, 'a', at(600, 400), at(400, 500)));
    const shape: GuideShape = { kind: 'ripples', x: 300, y: 380, ratio: 0.8, angle: 0.4 };
    const after = applyChange(page, moveGuide(page, ripples.id, shape));
    const path = find(after, 'stroke', 'a')?.guide?.path;
    expect(path && obeys(path, shape)).toBe(true);
    const { spine } = find(after, 'stroke', 'a') ?? { spine: bow };
    for (const place of places(spine, 8)) expect(path && project(path, place).distance).toBeLessThan(0.05);
  });

  it('follow a ruler, a template and an echo', () => {
    const ruler = guide({ kind: 'straightedge', x: 200, y: 200, angle: 0, length: 300, width: 40 });
    const shape: GuideShape = { kind: 'straightedge', x: 260, y: 300, angle: 0.7, length: 300, width: 40 };
    const page = pageOf(ruler, along(ruler, 'a', at(100, 220), at(300, 220)));
    const after = applyChange(page, moveGuide(page, ruler.id, shape));
    expect(Math.abs(Math.sin(angle(ends(after, 'a')) - 0.7))).toBeLessThan(1e-9);
    expect(distance(...ends(after, 'a'))).toBeCloseTo(200, 6);

    const template = guide({ kind: 'template', rings: [bow], place: { x: 0, y: 0, scaleX: 1, scaleY: 1, angle: 0 } });
    const round = pageOf(template, along(template, 'a', at(100, 300), at(300, 150)));
    const moved = applyChange(
      round,
      moveGuide(round, template.id, {
        ...template.shape,
        place: { x: 50, y: 0, scaleX: 1, scaleY: 1, angle: 0 },
      } as GuideShape),
    );
    expect(distance(ends(moved, 'a')[0], at(150, 300))).toBeLessThan(0.1);

    const echo = guide({ kind: 'echo', course: bow });
    const parallel = pageOf(echo, along(echo, 'a', at(300, 80), at(420, 150)));
    const shifted = { ...bow, points: bow.points.map((value, k) => (k % 3 === 1 ? value + 90 : value)) };
    const lower = applyChange(parallel, moveGuide(parallel, echo.id, { kind: 'echo', course: shifted }));
    ends(lower, 'a').forEach((end, k) => {
      const before = ends(parallel, 'a')[k];
      expect(distance(end, at(before.x, before.y + 90))).toBeLessThan(0.5);
    });
  });

  it.each<readonly [string, GuideShape, GuideShape, Point, Point]>([
    [
      ...(['rails', { kind: 'rails', x: 0, y: 0, angle: 0 }, { kind: 'rails', x: 40, y: 9, angle: 0.5 }] as const),
      ...([at(100, 100), at(300, 100)] as const),
    ],
    [
      ...(['rays', { kind: 'rays', x: 400, y: 400 }, { kind: 'rays', x: 450, y: 600 }] as const),
      ...([at(100, 100), at(300, 300)] as const),
    ],
    [
      'ripples',
      { kind: 'ripples', x: 400, y: 400, ratio: 0.5, angle: 0 },
      { kind: 'ripples', x: 300, y: 380, ratio: 0.5, angle: 0.4 },
      ...([at(600, 400), at(400, 500)] as const),
    ],
    [
      'a straightedge',
      { kind: 'straightedge', x: 200, y: 200, angle: 0, length: 300, width: 40 },
      { kind: 'straightedge', x: 260, y: 300, angle: 0.7, length: 300, width: 60 },
      ...([at(100, 220), at(300, 220)] as const),
    ],
    [
      'a template',
      { kind: 'template', rings: [bow], place: { x: 0, y: 0, scaleX: 1, scaleY: 1, angle: 0 } },
      { kind: 'template', rings: [bow], place: { x: 50, y: 20, scaleX: 1.2, scaleY: 1.2, angle: 0.3 } },
      ...([at(100, 300), at(300, 150)] as const),
    ],
    ['a batten', { kind: 'batten', course: bow }, { kind: 'batten', course: bent }, at(110, 280), at(380, 130)],
    ['an echo', { kind: 'echo', course: bow }, { kind: 'echo', course: bent }, at(300, 80), at(420, 150)],
  ])('are shown while %s is dragged where they will lie', (_name, before, after, from, to) => {
    const owner = guide(before);
    const off = { ...along(owner, 'off', from, to), guide: { id: owner.id, path: strayPath } };
    const page = pageOf(owner, along(owner, 'a', from, to), off);
    const shown = waysIn(coursesAfter(tetheredLinesOf(page, owner), after, 'carried'));
    // What was moved off its guide since is not tethered to it.
    expect(shown).toHaveLength(1);
    const moved = applyChange(page, moveGuide(page, owner.id, after));
    const [way] = shown;
    if (before.kind === 'echo') {
      // It is cut anew from the echo that it then lies on, a little farther along: the way there is shown.
      const path = find(moved, 'stroke', 'a')?.guide?.path;
      for (const place of way) expect(path && project(path, place).distance).toBeLessThan(2);
      return;
    }
    const kept = ends(moved, 'a');
    expect(distance(way[0], kept[0])).toBeLessThan(0.1);
    expect(distance(way[way.length - 1], kept[1])).toBeLessThan(0.1);
  });

  it.each<readonly [string, GuideShape, GuideShape]>([
    [
      'ripples',
      { kind: 'ripples', x: 400, y: 400, ratio: 0.5, angle: 0 },
      { kind: 'ripples', x: 300, y: 380, ratio: 0.8, angle: 0.4 },
    ],
    ['a batten', { kind: 'batten', course: bow }, { kind: 'batten', course: bent }],
    ['an echo', { kind: 'echo', course: bow }, { kind: 'echo', course: bent }],
  ])('keep a living weight when they are carried by %s', (_name, before, after) => {
    const owner = guide(before);
    const pressure = (t: number) => 0.4 + 0.4 * Math.sin(9 * t);
    const hand = drawn((t) => [150 + 300 * t, 260 - 120 * Math.sin(3 * t)], { pressure });
    const ridden = drawStroke(rideGuide(hand, [owner], { reach: 60, choosing: 6 }), brush, raw);
    const path = pathThrough(owner, at(ridden.spine.points[0], ridden.spine.points[1]));
    if (!path) throw new Error('This guide gives a path.');
    const line: StrokeEntity = {
      ...{ kind: 'stroke', id: 'a', layerId: 'inks', order: 'a', ...ridden },
      guide: { id: owner.id, path },
    };
    const page = pageOf(owner, line);
    const carried = find(applyChange(page, moveGuide(page, owner.id, after)), 'stroke', 'a')?.spine;
    if (!carried || carried === line.spine) throw new Error('It was not carried.');
    const [old, now] = [spineLength(line.spine), spineLength(carried)];
    for (let share = 0; share <= 1; share += 0.01)
      expect(Math.abs(widthAt(carried, share * now) - widthAt(line.spine, share * old))).toBeLessThan(
        0.05 * brush.size,
      );
    expect(edgeKinkOf(carried)).toBeLessThan(0.002);
  });

  it('that met still meet: the corner of two families of rails is solved for both', () => {
    const steep = guide({ kind: 'rails', x: 0, y: 0, angle: Math.PI / 2 });
    const page = pageOf(
      ...[rails, steep],
      along(rails, 'top', at(100, 100), at(300, 100)),
      along(rails, 'foot', at(100, 300), at(300, 300)),
      along(steep, 'left', at(100, 100), at(100, 300)),
      along(steep, 'right', at(300, 100), at(300, 300)),
    );
    const after = applyChange(page, moveGuide(page, rails.id, { ...rails.shape, angle: 0.35 } as GuideShape));
    for (const id of ['top', 'foot']) expect(Math.abs(Math.sin(angle(ends(after, id)) - 0.35))).toBeLessThan(1e-6);
    for (const id of ['left', 'right']) expect(Math.abs(Math.cos(angle(ends(after, id))))).toBeLessThan(1e-6);
    const [[a, b], [c, d], [e, f], [g, h]] = ['top', 'foot', 'left', 'right'].map((id) => ends(after, id));
    for (const [p, q] of [
      [a, e],
      [b, g],
      [c, f],
      [d, h],
    ])
      expect(distance(p, q)).toBeLessThan(1e-6);
  });

  it('stay where they are once they are released, moved off their guide, or their guide does not tether', () => {
    const line = along(rails, 'a', at(100, 100), at(300, 100));
    const shape = { ...rails.shape, angle: 1 } as GuideShape;
    const loose = pageOf({ ...rails, tethers: false }, line);
    expect(moveGuide(loose, rails.id, shape).edits).toHaveLength(1);
    const [{ after: released }] = releasedEdits([line]);
    expect(moveGuide(pageOf(rails, released as Entity), rails.id, shape).edits).toHaveLength(1);
    const turned = { ...line, guide: { id: rails.id, path: { kind: 'line' as const, x: 0, y: 0, dx: 0, dy: 1 } } };
    expect(moveGuide(pageOf(rails, turned), rails.id, shape).edits).toHaveLength(1);
  });

  it('take their mirrored copies along', () => {
    const maps = symmetryMaps({ kind: 'mirror', x: 400, y: 0, angle: Math.PI / 2, joins: false });
    const [own, twin] = symmetricStrokes(along(rails, 'a', at(100, 100), at(300, 100)), maps, 'set');
    const page = pageOf(rails, own, { ...twin, id: 'b' });
    const after = applyChange(page, moveGuide(page, rails.id, { ...rails.shape, angle: 0.5 } as GuideShape));
    const [a, b] = ofKind(after, 'stroke').sort((p, q) => (p.id < q.id ? -1 : 1));
    expect(isImage(b, a)).toBe(true);
    expect(Math.abs(Math.sin(angle(ends(after, 'b')) + 0.5))).toBeLessThan(1e-6);
  });

  it('does not move a locked guide, nor one that is gone', () => {
    expect(() => moveGuide(pageOf({ ...rails, locked: true }), rails.id, rails.shape)).toThrow(/locked/);
    expect(() => moveGuide(pageOf(), rails.id, rails.shape)).toThrow(/no longer/);
  });
});

describe('a guide at the gate', () => {
  const good = guide({ kind: 'ripples', x: 1, y: 2, ratio: 0.5, angle: 0 });
  const shapes: GuideShape[] = [
    { kind: 'straightedge', x: 0, y: 0, angle: 0, length: 300, width: 40 },
    { kind: 'batten', course: bow },
    { kind: 'template', rings: [bow], place: { x: 0, y: 0, scaleX: -1, scaleY: 1, angle: 0 } },
    { kind: 'rails', x: 0, y: 0, angle: 0, grid: { step: 10, offset: 0, count: 4, snaps: true } },
    { kind: 'rays', x: 1e6, y: 0 },
    { kind: 'echo', course: bow },
    { kind: 'mirror', x: 0, y: 0, angle: 0, joins: true },
    { kind: 'wheel', x: 0, y: 0, angle: 0, sectors: 6, reflects: true, joins: false },
  ];

  it('comes through whole, whatever it is', () => {
    for (const shape of shapes) expect(checkEntity(guide(shape, { id: 'g' }))).toEqual(guide(shape, { id: 'g' }));
  });

  it.each([
    ['a ratio of 0', { ...good.shape, ratio: 0 }, /ratio/],
    ['no length', { ...shapes[0], length: 0 }, /length/],
    ['a wheel of one', { ...shapes[7], sectors: 1 }, /sectors/],
    ['an odd reflecting wheel', { ...shapes[7], sectors: 7 }, /even/],
    ['half a sector', { ...shapes[7], sectors: 6.5, reflects: false }, /whole number/],
    ['a flattened template', { ...shapes[2], place: { x: 0, y: 0, scaleX: 0, scaleY: 1, angle: 0 } }, /flattens/],
    ['a number that is none', { ...shapes[4], x: NaN }, /"x"/],
    ['a kind nobody knows', { kind: 'magnet' }, /"kind"/],
  ])('is refused with %s', (_name, shape, reason) => {
    expect(() => checkEntity({ ...good, shape })).toThrow(reason);
  });

  it('keeps what a stroke knows of its guide and its set', () => {
    const line = along(guide({ kind: 'rails', x: 0, y: 0, angle: 0 }, { id: 'rails' }), 'a', at(0, 0), at(90, 0));
    const kept = { ...line, copy: { set: 's', matrix: [1, 0, 0, 1, 0, 0] as const } };
    expect(checkEntity(kept)).toEqual(kept);
  });
});

describe('raked lines', () => {
  it('aim anew with their rays when those tether', () => {
    const rays = guide({ kind: 'rays', x: 200, y: 150 });
    const loop = [at(0, 0), at(400, 0), at(400, 300), at(0, 300)];
    const settings = { nib: liner, spacing: 40, jitter: 0, ragged: 0.2, guideId: rays.id };
    if (rays.shape.kind !== 'rays') throw new Error('These are rays.');
    const lines = rake(rays.shape, loop, settings, 1).map((stroke, k): StrokeEntity => ({
      kind: 'stroke',
      id: `r${k}`,
      layerId: 'inks',
      order: `a${k}`,
      ...stroke,
    }));
    const page = pageOf(rays, ...lines);
    const after = applyChange(page, moveGuide(page, rays.id, { kind: 'rays', x: 260, y: 170 }));
    for (const { id } of lines) {
      const [p, q] = ends(after, id);
      expect(Math.abs((q.x - p.x) * (170 - p.y) - (q.y - p.y) * (260 - p.x)) / distance(p, q)).toBeLessThan(1e-6);
    }
  });
});
