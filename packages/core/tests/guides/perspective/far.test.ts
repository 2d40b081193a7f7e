import { evenlyWide, type Spine } from '../../../src/curve';
import {
  boxEdges,
  equalBays,
  foldMap,
  FRAME_PRESETS,
  framePreset,
  inFrame,
  march,
  moveHorizon,
  movePoint,
  planeRings,
  planeShapeBetween,
  PLANE_WAYS,
  projectedStroke,
  sentToInfinity,
  shiftedFrame,
  spreadPoints,
  stairEdges,
  trueDistance,
  turnedFrame,
  FRAME_PLANES,
  FRAME_WAYS,
  type FrameShape,
  type GuideEntity,
  type GuideShape,
} from '../../../src/guides';
import { moveGuide } from '../../../src/tethers';
import { seededRandom, type Point } from '../../../src/math';
import { applyChange, checkEntity, draftChange, newPage, type Entity } from '../../../src/page';
import { inked, type Stroke, type StrokeEntity } from '../../../src/stroke';
import { pack, unpackEntity } from '../../../src/wire';
import { PageError, sameValue } from '../../../src/gate';
import { ellipseSpine, lineSpine } from '../../../src/shapes';
import { TEMPLATES } from '../../../src/templates';
import { liner } from '../../hands';

// Frames that are pulled about wildly, and what is built in them close to their horizons: the gate takes all of it as it is, or
// it is refused in a sentence. FRAMES=200 looks at more of them.

const FRAMES = Number(process.env.FRAMES ?? 6);
const STEPS = 12;
const SIZE = { width: 2400, height: 3300 };

type Random = () => number;
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)];
const about = (random: Random, most: number): number => most * (2 * random() - 1);
const place = (random: Random, far = 1): Point => ({
  x: SIZE.width / 2 + about(random, (far * SIZE.width) / 2),
  y: SIZE.height / 2 + about(random, (far * SIZE.height) / 2),
});

/** What comes of something, unless it is refused in a sentence. */
function tried<T>(make: () => T): T | undefined {
  try {
    return make();
  } catch (error) {
    if (error instanceof PageError) return undefined;
    throw error;
  }
}

function pulled(frame: FrameShape, random: Random): FrameShape {
  const way = pick(random, FRAME_WAYS);
  const far = place(random, pick(random, [1, 4, 50, 2_000]));
  const pulls = [
    () => movePoint(frame, way, [far.x, far.y, 1], SIZE),
    () => moveHorizon(frame, about(random, 1_000), about(random, 0.5), SIZE),
    () => spreadPoints(frame, about(random, 1_500), SIZE),
    () => sentToInfinity(frame, way, SIZE),
    () => turnedFrame(frame, { yaw: about(random, 1), tilt: about(random, 0.5), roll: about(random, 0.5) }, SIZE),
    () => shiftedFrame(frame, about(random, 1_500), about(random, 1_500)),
    () => framePreset(pick(random, FRAME_PRESETS), SIZE),
  ];
  return tried(pick(random, pulls)) ?? frame;
}

const guideOf = (id: string, shape: GuideShape): GuideEntity => ({
  ...{ kind: 'guide', id, order: 'a0', name: id, seen: true, acting: true, locked: false },
  ...{ tethers: true, reach: 'all', hue: 1, shape },
});
const entityOf = (stroke: Stroke, k = 0): StrokeEntity => ({
  ...stroke,
  ...{ kind: 'stroke', id: `line-${k}`, layerId: 'inks', order: `a${k}` },
});
const lineOf = (spine: Spine): Stroke => inked(evenlyWide(spine, 9), liner);

/** All that can be built in a frame between some places. */
function built(frame: FrameShape, random: Random): Stroke[] {
  const [a, b, c] = [place(random), place(random), place(random, 1.5)];
  const plane = pick(random, FRAME_PLANES);
  const ways = PLANE_WAYS[plane];
  const way = pick(random, ['right', 'left'] as const);
  const count = 1 + Math.floor(random() * 20);
  const stair = () => {
    const run = trueDistance(frame, SIZE, a, way, b) / count;
    return stairEdges(frame, SIZE, { foot: a, way, run, rise: run * random(), width: 300 * random(), count });
  };
  const edges = [
    tried(() => boxEdges(frame, SIZE, [a, b], c).map(({ ends }) => ends)),
    tried(() => equalBays(frame, SIZE, { plane, corners: [a, b], way: pick(random, ways), count: count + 1 })),
    tried(stair),
  ].flatMap((found) => found ?? []);
  const thing = lineOf(random() < 0.5 ? lineSpine(b, c) : ellipseSpine({ centre: b, rx: 200, ry: 100 }));
  const fold = {
    kind: 'fold',
    ...a,
    frame: 'frame',
    plane,
    across: frame.points[ways[0]],
    along: frame.points[ways[1]],
  } as const;
  const step = about(random, 1_000);
  const maps = [
    ...(tried(() => march(frame, SIZE, { plane, anchor: a, way: pick(random, FRAME_WAYS), step, count })) ?? []),
    ...(tried(() => [foldMap(fold)]) ?? []),
  ];
  return [
    ...edges.filter(([p, q]) => Math.hypot(p.x - q.x, p.y - q.y) > 0.5).map(([p, q]) => lineOf(lineSpine(p, q))),
    ...maps.flatMap((map) => projectedStroke(thing, map) ?? []),
  ].map((stroke) => inFrame(stroke, 'frame', frame));
}

const isTaken = (entity: Entity): boolean => sameValue(checkEntity(unpackEntity(pack(entity))), entity);

it.each(Array.from({ length: FRAMES }, (_, k) => k + 1))('what is built in depth can be kept (%i)', (seed) => {
  const random = seededRandom(seed);
  let frame = framePreset(pick(random, FRAME_PRESETS), SIZE);
  for (let k = 0; k < STEPS; k++) {
    const before = frame;
    frame = pulled(frame, random);
    const lines = built(before, random).slice(0, 40).map(entityOf);
    const laid = tried(() =>
      planeShapeBetween(
        before,
        { frame: 'frame', plane: pick(random, FRAME_PLANES), rings: pick(random, TEMPLATES).rings },
        place(random),
        place(random),
        SIZE,
      ),
    );
    const outlines = laid ? planeRings(laid).map((course, n) => entityOf(lineOf(course), 100 + n)) : [];
    const entities = [guideOf('frame', before), ...(laid ? [guideOf('laid', laid)] : []), ...lines, ...outlines];
    const page = applyChange(
      newPage({ ...SIZE, ppi: 300 }),
      draftChange(
        'build',
        entities.map((after) => ({ before: null, after })),
      ),
    );
    const moved = tried(() => moveGuide(page, 'frame', frame, 'Move', pick(random, ['carried', 'aimed'] as const)));
    for (const entity of [...entities, ...(moved?.edits ?? []).flatMap(({ after }) => after ?? [])])
      expect(tried(() => isTaken(entity)) || entity).toBe(true);
  }
});
