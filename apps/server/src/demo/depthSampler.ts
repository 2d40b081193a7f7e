import {
  boxEdges,
  frameOfCamera,
  inFrame,
  fromPlane,
  march,
  planeHomography,
  planeRings,
  projectedStroke,
  stairEdges,
  turnedCamera,
  turnFrame,
  equalBays,
  type FramePlane,
  type FrameShape,
  type GuideEntity,
  type GuideShape,
  type PlaneShape,
} from '@true-nib/core/guides';
import type { Matrix3x3, Point } from '@true-nib/core/math';
import { inked, type Stroke } from '@true-nib/core/stroke';
import { orderBetween, type PageSize } from '@true-nib/core/page';
import type { Nib } from '@true-nib/core/nib';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { ellipseSpine, lineSpine } from '@true-nib/core/shapes';
import { TEMPLATES } from '@true-nib/core/templates';

export const DEPTH_SAMPLER_SIZE: PageSize = { width: 2400, height: 2000, ppi: 350 };

export interface DepthSampler {
  readonly guides: readonly GuideEntity[];
  readonly strokes: readonly Stroke[];
}

const fine: Nib = { ...SHIPPED_NIBS[0].nib, size: 5 };
const firm: Nib = { ...SHIPPED_NIBS[0].nib, size: 9 };
const at = (x: number, y: number): Point => ({ x, y });
/** A place on a wall, or how wide and high something is on it. */
type Pair = readonly [number, number];

/** A street by the ferry: two houses seen by one camera, a door, windows and a clock on their walls, a stair, a fence. */
export function depthSampler(): DepthSampler {
  const page = DEPTH_SAMPLER_SIZE;
  const guides: GuideEntity[] = [];
  const strokes: Stroke[] = [];
  const lay = (name: string, shape: GuideShape, acting = false): string => {
    const id = `demo-depth:guide-${guides.length}`;
    guides.push({
      ...{ kind: 'guide', id, order: orderBetween(guides.at(-1)?.order, undefined), name, seen: true, acting },
      ...{ locked: false, tethers: true, reach: 'all', hue: guides.length % 6, shape },
    });
    return id;
  };
  const straight = { right: [1, 0, 0], left: [0, 0, 1], height: [0, -1, 0] } as const;
  const camera = turnedCamera({ centre: at(1200, 900), focal: 2250, axes: straight }, { yaw: 0.6 });
  const corner = at(980, 1420);
  const street = frameOfCamera(camera, page, {
    corner,
    grids: { floor: { step: 130, reach: 14, fade: 0.6, hue: 1, snaps: false } },
  });
  const aside = turnFrame({ ...street, grids: {} }, 0.42, page);
  const first = { shape: street, id: lay('Street', street, true) };
  const second = { shape: aside, id: lay('Street, turned', aside) };

  const edge = (
    frame: { readonly shape: FrameShape; readonly id: string },
    [a, b]: readonly [Point, Point],
    nib: Nib,
  ) => {
    strokes.push(inFrame(inked(lineSpine(a, b), nib), frame.id, frame.shape));
  };
  const wall = (plane: FramePlane, anchor: Point) => planeHomography(street, plane, anchor, page);
  const on = (map: Matrix3x3, u: number, v: number): Point => {
    const p = fromPlane(map, at(u, v));
    if (!p) throw new RangeError('The sampler lies before the viewer.');
    return p;
  };
  const rectangle = (map: Matrix3x3, [u, v]: Pair, [wide, high]: Pair, nib = fine) => {
    const corners = [on(map, u, v), on(map, u + wide, v), on(map, u + wide, v - high), on(map, u, v - high)];
    corners.forEach((p, k) => edge(first, [p, corners[(k + 1) % 4]], nib));
  };

  // The house at the corner, and the one behind it that stands turned.
  const right = wall('right', corner);
  const left = wall('left', corner);
  const far = on(right, 760, 0);
  const base: readonly [Point, Point] = [on(left, -520, 0), far];
  for (const { ends, isHidden } of boxEdges(street, page, base, at(far.x, far.y - 640)))
    if (!isHidden) edge(first, ends, firm);
  const foot = at(2010, 1240);
  for (const { ends, isHidden } of boxEdges(aside, page, [foot, at(2290, 1205)], at(2290, 700)))
    if (!isHidden) edge(second, ends, firm);

  // A door and windows in equal bays on the right wall, an arched window on the left one, a clock on the right.
  rectangle(right, [90, 0], [130, 290], firm);
  rectangle(right, [108, -20], [40, 240]);
  rectangle(right, [162, -20], [40, 240]);
  for (const [a, b] of equalBays(street, page, {
    plane: 'right',
    corners: [on(right, 300, -130), on(right, 720, -330)],
    way: 'right',
    count: 4,
  }))
    edge(first, [a, b], fine);
  rectangle(right, [300, -130], [420, 200]);
  const shape = (
    name: string,
    { plane, map }: { readonly plane: FramePlane; readonly map: Matrix3x3 },
    template: string,
    [x, y]: Pair,
    [wide, high]: Pair,
  ) => {
    const rings = TEMPLATES.find(({ id }) => id === template)?.rings ?? [
      ellipseSpine({ centre: at(0, 0), rx: 200, ry: 200 }),
    ];
    const place = { x, y, scaleX: wide / 200, scaleY: high / 200, angle: 0 };
    const own: PlaneShape = { kind: 'plane', frame: first.id, plane, map, rings, place };
    const id = lay(name, own);
    for (const course of planeRings(own))
      strokes.push({ ...inked(course, fine), guide: { id, path: { kind: 'curve', course } } });
  };
  shape('Clock', { plane: 'right', map: right }, 'ring', [510, -500], [100, 100]);
  edge(first, [on(right, 510, -500), on(right, 510, -575)], fine);
  edge(first, [on(right, 510, -500), on(right, 560, -500)], fine);
  shape('Arched window', { plane: 'left', map: left }, 'arch', [-260, -270], [130, 150]);

  // A stair to the door, and a fence that marches away along the street.
  for (const ends of stairEdges(street, page, {
    foot: at(560, 1560),
    way: 'right',
    run: 46,
    rise: 26,
    width: 150,
    count: 5,
  }))
    edge(first, ends, fine);
  const post = at(1250, 1790);
  const ground = wall('right', post);
  const fence = [
    [on(ground, 0, 0), on(ground, 0, -170)],
    [on(ground, 26, 0), on(ground, 26, -170)],
    [on(ground, 0, -170), on(ground, 13, -192)],
    [on(ground, 13, -192), on(ground, 26, -170)],
  ].map(([a, b]) => inked(lineSpine(a, b), fine));
  strokes.push(...fence.map((line) => inFrame(line, first.id, street)));
  for (const map of march(street, page, { plane: 'right', anchor: post, way: 'right', step: 110, count: 30 }))
    for (const line of fence) {
      const copy = projectedStroke(line, map);
      if (copy) strokes.push(inFrame(copy, first.id, street));
    }
  for (const height of [-60, -120]) edge(first, [on(ground, -60, height), on(ground, 3300, height)], fine);
  return { guides, strokes };
}
