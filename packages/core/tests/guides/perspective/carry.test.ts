import { applyProjective, depthAt, distance, type Point } from '../../../src/math';
import { applyChange, checkEntity, find, invertChange, ofKind, type Page } from '../../../src/page';
import { inked, type StrokeEntity } from '../../../src/stroke';
import { sameValue } from '../../../src/gate';
import {
  type FrameShape,
  type FrameWay,
  type GuideEntity,
  aimedAt,
  carriedPlane,
  chooseGuide,
  FRAME_PRESETS,
  framePaths,
  framePreset,
  inFrame,
  movePoint,
  obeys,
  planeHomography,
  planeRings,
  project,
  rankGuides,
  rideGuide,
  spineAlong,
  straightEdges,
  turnedFrame,
  frameChange,
} from '../../../src/guides';
import type { GuidePath } from '../../../src/curve';
import { coursesAfter, moveGuide, tetheredLinesOf, type Courses, type Following } from '../../../src/tethers';
import { ellipseSpine } from '../../../src/shapes';
import { drawn, liner, wave } from '../../hands';
import { at, guide, pageOf, waysIn } from '../guides';
import { PAGE } from './scenes';

const size = { ...PAGE, ppi: 400 };
const shape = framePreset(FRAME_PRESETS[2], PAGE);
const frame = guide(shape, { id: 'frame' });
const entitiesOf = (page: Page) =>
  (['guide', 'stroke'] as const).flatMap((kind) => ofKind<'guide' | 'stroke'>(page, kind));
const shapeIn = (page: Page): FrameShape => {
  const found = find(page, 'guide', 'frame')?.shape;
  if (found?.kind !== 'frame') throw new Error('no frame');
  return found;
};

/** A line of the frame from one place to the one nearest to another. */
function along(way: FrameWay, id: string, from: Point, to: Point): StrokeEntity {
  const [{ path }] = framePaths(shape, PAGE, from, [way]);
  const course = spineAlong(path, project(path, from).at, project(path, to).at);
  return { kind: 'stroke', id, layerId: 'inks', order: id, ...inked(course, liner), guide: { id: 'frame', path } };
}
const ends = (page: Page, id: string): readonly [Point, Point] => {
  const { points } = find(page, 'stroke', id)?.spine ?? { points: new Float64Array(6) };
  return [at(points[0], points[1]), at(points[points.length - 3], points[points.length - 2])];
};
/** How far, in radians, the line between two places misses a point of a frame. */
function miss({ points }: FrameShape, way: FrameWay, [a, b]: readonly [Point, Point]): number {
  const [x, y, w] = points[way];
  const [u, v] = [x - w * a.x, y - w * a.y];
  return Math.abs((b.x - a.x) * v - (b.y - a.y) * u) / Math.hypot(b.x - a.x, b.y - a.y) / Math.hypot(u, v);
}

const coursesOf = (page: Page, after: FrameShape, following: Following = 'carried'): Courses =>
  coursesAfter(tetheredLinesOf(page, frame), after, following);
const tethered = (page: Page) => ofKind(page, 'stroke').filter(({ guide: held }) => held?.id === 'frame');

describe('a hand on a frame', () => {
  it('runs to the point its first movement heads for, within 10⁻⁶ rad, however it shakes', () => {
    const headings = [
      [-4, 'right'],
      [-168, 'left'],
      [88, 'height'],
    ] as const;
    for (const [degrees, way] of headings) {
      const heading = (degrees * Math.PI) / 180;
      const hand = drawn((t) => [1000 + 700 * t * Math.cos(heading), 2600 + 700 * t * Math.sin(heading)], {
        tremor: 6,
        seed: 4,
      });
      const ridden = rideGuide(hand, [frame], { reach: 10, choosing: 40, page: PAGE });
      expect(miss(shape, way, [ridden[0], ridden[ridden.length - 1]])).toBeLessThan(1e-6);
      const straightest = Math.max(
        ...ridden.slice(1).map((p) => (distance(p, ridden[0]) > 5 ? miss(shape, way, [ridden[0], p]) : 0)),
      );
      expect(straightest).toBeLessThan(1e-6);
    }
  });

  it('takes only the directions it is limited to, and none that sleeps', () => {
    const names = (options: { readonly ways?: readonly FrameWay[] }, guides = [frame]) =>
      rankGuides(guides, at(900, 2500), 0.1, { reach: 10, page: PAGE, ...options }).map(({ path }) =>
        path.kind === 'line' ? Math.round((Math.atan2(path.dy, path.dx) * 180) / Math.PI) : 0,
      );
    expect(names({})).toHaveLength(3);
    expect(names({ ways: ['height'] })).toEqual([-90]);
    expect(names({}, [{ ...frame, shape: { ...shape, asleep: ['right', 'height'] } }])).toHaveLength(1);
  });

  it('keeps to the lines of a grid that holds it', () => {
    const held: FrameShape = { ...shape, grids: { floor: { step: 150, reach: 30, fade: 0, hue: 0, snaps: true } } };
    const choice = chooseGuide([{ ...frame, shape: held }], at(1500, 3400), 0, {
      reach: 10,
      page: PAGE,
      ways: ['right'],
    });
    if (choice?.path.kind !== 'line') throw new Error('no path');
    expect(
      miss(shape, 'right', [choice.path, at(choice.path.x + choice.path.dx, choice.path.y + choice.path.dy)]),
    ).toBeLessThan(1e-9);
    // It goes through a knot of the grid: the corner moved by whole steps.
    const map = planeHomography(held, 'floor', held.corner, PAGE);
    const knots = Array.from({ length: 61 }, (_, k) => applyProjective(map, 0, (k - 30) * 150));
    const nearest = Math.min(...knots.map((knot) => project(choice.path, knot).distance));
    expect(nearest).toBeLessThan(1e-6);
  });
});

describe('what is tethered to a frame', () => {
  const corner = at(1400, 2900);
  const lines = [
    along('right', 'sill', corner, at(2200, 2900)),
    along('left', 'step', corner, at(700, 2900)),
    along('height', 'post', corner, at(1400, 1700)),
  ];
  const clock: GuideEntity = guide(
    {
      ...{
        kind: 'plane',
        frame: 'frame',
        plane: 'right',
        rings: [ellipseSpine({ centre: at(0, 0), rx: 200, ry: 200 })],
      },
      place: { x: 0, y: 0, scaleX: 0.6, scaleY: 0.6, angle: 0 },
      map: planeHomography(shape, 'right', at(1900, 2000), PAGE),
    },
    { id: 'clock' },
  );
  const [face] = clock.shape.kind === 'plane' ? planeRings(clock.shape) : [];
  const dial: StrokeEntity = {
    ...{ kind: 'stroke', id: 'dial', layerId: 'inks', order: 'z', ...inked(face, liner) },
    guide: { id: 'clock', path: { kind: 'curve', course: face } },
  };
  const ruler = guide(
    {
      kind: 'straightedge',
      x: 600,
      y: 3300,
      angle: 0,
      length: 500,
      width: 90,
      aim: { point: shape.points.left, frame: 'frame', way: 'left' },
    },
    { id: 'ruler' },
  );
  const page = pageOf(size, frame, clock, ruler, dial, ...lines);
  const turned = turnedFrame(shape, { yaw: 0.25, tilt: 0.1, zoom: 1.1 }, PAGE);

  it('is carried by the camera: lines run to the new points and still meet, circles stay circles', () => {
    const change = moveGuide(page, 'frame', turned);
    const after = applyChange(page, change);
    for (const [id, way] of [
      ['sill', 'right'],
      ['step', 'left'],
      ['post', 'height'],
    ] as const)
      expect(miss(turned, way, ends(after, id))).toBeLessThan(1e-6);
    expect(distance(ends(after, 'sill')[0], ends(after, 'post')[0])).toBeLessThan(1e-6);
    const map = frameChange(shape, turned, PAGE);
    const moved = find(after, 'stroke', 'dial');
    const own = find(after, 'guide', 'clock')?.shape;
    if (!map || !moved?.guide || own?.kind !== 'plane') throw new Error('lost');
    expect(obeys(moved.guide.path, own)).toBe(true);
    // The dial lies on the outline of the carried clock.
    for (let i = 0; i < moved.spine.points.length; i += 9)
      expect(project(moved.guide.path, at(moved.spine.points[i], moved.spine.points[i + 1])).distance).toBeLessThan(
        0.05,
      );
    for (const entity of entitiesOf(after)) expect(() => checkEntity(entity)).not.toThrow();
    const undone = applyChange(after, invertChange(change));
    expect(sameValue(entitiesOf(undone), entitiesOf(page))).toBe(true);
  });

  it('takes the cuts of snipped ends along: ring and line go under one map', () => {
    const gone = Float64Array.of(1000, 1000, 1100, 1000, 1100, 1100, 1000, 1100);
    const snipped: StrokeEntity = { ...lines[0], id: 'snipped', ends: [{ gone }, 'round'] };
    const full = pageOf(size, frame, snipped);
    const [end] = find(applyChange(full, moveGuide(full, 'frame', turned)), 'stroke', 'snipped')?.ends ?? [];
    const map = frameChange(shape, turned, PAGE);
    if (!map || typeof end !== 'object') throw new Error('lost');
    for (let i = 0; i < gone.length; i += 2) {
      const { x, y } = applyProjective(map, gone[i], gone[i + 1]);
      expect(Math.hypot(end.gone[i] - x, end.gone[i + 1] - y)).toBeLessThan(1e-9);
    }
  });

  it('leaves a plane shape where it is that would come behind the viewer', () => {
    const away = turnedFrame(shape, { yaw: 1.4 }, PAGE);
    const map = frameChange(shape, away, PAGE);
    if (!map || clock.shape.kind !== 'plane') throw new Error('lost');
    const anchor = applyProjective(clock.shape.map, 0, 0);
    const turnedBehind =
      depthAt(map, anchor.x, anchor.y) < 0 ? map : (map.map((value) => -value) as unknown as typeof map);
    expect(carriedPlane(clock.shape, away, PAGE, turnedBehind)).toBe(clock.shape);
  });

  it('is aimed anew about the middles of its lines where that is asked for', () => {
    const moved = movePoint(shape, 'left', [-1400, shape.points.left[1], 1], PAGE);
    const after = applyChange(page, moveGuide(page, 'frame', moved, 'Aim', 'aimed'));
    expect(miss(shapeIn(after), 'left', ends(after, 'step'))).toBeLessThan(1e-6);
    expect(miss(shapeIn(after), 'height', ends(after, 'post'))).toBeLessThan(1e-6);
    expect(distance(ends(after, 'step')[0], ends(after, 'post')[0])).toBeLessThan(1e-4);
  });

  it('follows a point that comes from infinity', () => {
    const tilted = turnedFrame(shape, { tilt: 0.2 }, PAGE);
    const after = applyChange(page, moveGuide(page, 'frame', tilted, 'Aim', 'aimed'));
    expect(miss(tilted, 'height', ends(after, 'post'))).toBeLessThan(1e-6);
  });

  it('carries what belongs to it by its own course, until that is edited', () => {
    const round = inked(ellipseSpine({ centre: at(900, 2600), rx: 90, ry: 60 }), liner);
    const plate: StrokeEntity = { kind: 'stroke', id: 'plate', layerId: 'inks', order: 'y', ...round };
    const laid = inFrame(plate, 'frame', shape);
    expect(laid.guide?.path.kind).toBe('curve');
    expect(inFrame(lines[0], 'frame', shape).guide?.path.kind).toBe('line');
    const bent = { ...laid, id: 'bent', spine: { ...laid.spine, points: laid.spine.points.map((value) => value + 1) } };
    const full = pageOf(size, frame, laid, bent);
    const after = applyChange(full, moveGuide(full, 'frame', turned));
    const map = frameChange(shape, turned, PAGE);
    const [x, y] = find(after, 'stroke', 'plate')?.spine.points ?? [];
    const seen = map && applyProjective(map, laid.spine.points[0], laid.spine.points[1]);
    expect(Math.hypot(x - (seen?.x ?? 0), y - (seen?.y ?? 0))).toBeLessThan(1e-9);
    expect(find(after, 'stroke', 'bent')).toBe(bent);
    // And once more: it still belongs there.
    const again = applyChange(after, moveGuide(after, 'frame', shape));
    expect(find(again, 'stroke', 'plate')?.spine.points[0]).toBeCloseTo(laid.spine.points[0], 2);
  });

  it('stays where it is while the frame does not tether, but for what hangs on the frame itself', () => {
    const loose = pageOf(size, { ...frame, tethers: false }, clock, ruler, ...lines);
    const after = applyChange(loose, moveGuide(loose, 'frame', turned));
    expect(find(after, 'stroke', 'sill')).toBe(find(loose, 'stroke', 'sill'));
    expect(find(after, 'guide', 'clock')).not.toEqual(find(loose, 'guide', 'clock'));
  });

  it('a straightedge stays aimed while it is moved, and when its point goes elsewhere', () => {
    const after = find(applyChange(page, moveGuide(page, 'frame', turned)), 'guide', 'ruler')?.shape;
    if (after?.kind !== 'straightedge') throw new Error('lost');
    const misses = straightEdges(after).map((edge) =>
      miss(turned, 'left', [edge, at(edge.x + edge.dx, edge.y + edge.dy)]),
    );
    expect(Math.min(...misses)).toBeLessThan(1e-9);
    const far = aimedAt(after, [0.6, 0.8, 0]);
    expect(Math.abs(Math.sin(far.angle - Math.atan2(0.8, 0.6)))).toBeLessThan(1e-9);
  });

  it('goes on while its points are no camera for a moment: plane shapes wait where they are', () => {
    const obtuse = { ...shape, points: { ...shape.points, height: [1400, shape.points.left[1] - 300, 1] as const } };
    const after = applyChange(page, moveGuide(page, 'frame', obtuse, 'Pull', 'carried'));
    expect(find(after, 'guide', 'clock')?.shape).toEqual(clock.shape);
    expect(miss(obtuse, 'height', ends(after, 'post'))).toBeLessThan(1e-6);
  });

  it('is shown while the frame is dragged where it will lie, with what is drawn round plane shapes', () => {
    const courses = coursesOf(page, turned);
    const after = applyChange(page, moveGuide(page, 'frame', turned));
    const shown = waysIn(courses);
    expect(shown).toHaveLength(4);
    for (const [k, { spine }] of tethered(after).entries()) {
      const last = spine.points.length - 3;
      expect(distance(shown[k][0], at(spine.points[0], spine.points[1]))).toBeLessThan(1e-3);
      expect(distance(shown[k][1], at(spine.points[last], spine.points[last + 1]))).toBeLessThan(1e-3);
    }
    const clockAfter = find(after, 'guide', 'clock')?.shape;
    if (clockAfter?.kind !== 'plane') throw new Error('lost');
    const path: GuidePath = { kind: 'curve', course: planeRings(clockAfter)[0] };
    for (const node of shown[3]) expect(project(path, node).distance).toBeLessThan(0.05);
  });

  it('is shown aimed at the points where it will be, and not at all where it would come behind the viewer', () => {
    const aimed = waysIn(coursesOf(page, turned, 'aimed'));
    const waysById = { sill: 'right', step: 'left', post: 'height' } as const;
    for (const [k, { id }] of tethered(page).entries()) {
      const way = waysById[id as keyof typeof waysById];
      expect(miss(turned, way, [aimed[k][0], aimed[k][1]])).toBeLessThan(1e-6);
    }
    const away = turnedFrame(shape, { yaw: 0.9 }, PAGE);
    const map = frameChange(shape, away, PAGE);
    const behind = along('left', 'behind', at(-9000, 2900), at(-9500, 2900));
    expect(map && depthAt(map, behind.spine.points[0], behind.spine.points[1])).toBeLessThan(0);
    const far = pageOf(size, frame, behind, lines[0]);
    expect([...coursesOf(far, away).counts].sort()).toEqual([0, 2]);
  });

  it('a locked frame is not moved', () => {
    const locked = pageOf(size, { ...frame, locked: true });
    expect(() => moveGuide(locked, 'frame', turned)).toThrow(/locked/);
  });

  it('is drawn by a wavy hand just as well', () => {
    const ridden = rideGuide(drawn(wave), [frame], { reach: 10, choosing: 6, page: PAGE });
    expect(
      miss(shape, 'right', [ridden[0], ridden[90]]) < 1e-6 ||
        miss(shape, 'left', [ridden[0], ridden[90]]) < 1e-6 ||
        miss(shape, 'height', [ridden[0], ridden[90]]) < 1e-6,
    ).toBe(true);
  });
});
