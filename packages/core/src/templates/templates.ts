import { flattenSpine, STRIDE, type Spine } from '../curve';
import { boxOfFlat, emptyBox, seededRandom, uniteBoxes, type Point } from '../math';
import { arcSpine, ellipseSpine, polygonSpine, polylineSpine, rectSpine, starSpine } from '../shapes';

export type TemplateGroup =
  'Circles' | 'Ellipses' | 'Rectangles' | 'Polygons' | 'Stars' | 'French curves' | 'Outlines' | 'Own';

/** An outline to draw round: rings about (0, 0), some 400 px across. */
export interface Template {
  readonly id: string;
  readonly group: TemplateGroup;
  readonly name: string;
  readonly rings: readonly Spine[];
}

const HALF = 200;
const MIDDLE: Point = { x: 0, y: 0 };

/**
 * An ellipse of so many degrees, as drafting templates name them: a circle seen under that angle, so that the degree is
 * asin(minor / major) (common practice of drafting handbooks).
 */
export const degreeEllipse = (degree: number): Spine =>
  ellipseSpine({ centre: MIDDLE, rx: HALF, ry: HALF * Math.sin((degree * Math.PI) / 180) });

const DEGREES = [15, 20, 25, 30, 35, 40, 45, 50, 55, 60] as const;
const CORNERS = [
  [3, 'Triangle'],
  [5, 'Pentagon'],
  [6, 'Hexagon'],
  [8, 'Octagon'],
  [12, 'Twelve corners'],
] as const;

const box = (ratio: number, rounding = 0): Spine =>
  rectSpine({ x: -HALF, y: -HALF * ratio }, { x: HALF, y: HALF * ratio }, rounding);

/** Every template that comes with the desk. */
export const TEMPLATES: readonly Template[] = [
  { id: 'circle', group: 'Circles', name: 'Circle', rings: [ellipseSpine({ centre: MIDDLE, rx: HALF, ry: HALF })] },
  {
    ...{ id: 'ring', group: 'Circles', name: 'Ring' },
    rings: [HALF, 0.7 * HALF].map((radius) => ellipseSpine({ centre: MIDDLE, rx: radius, ry: radius })),
  },
  ...DEGREES.map((degree): Template => ({
    id: `ellipse-${degree}`,
    group: 'Ellipses',
    name: `${degree}°`,
    rings: [degreeEllipse(degree)],
  })),
  { id: 'square', group: 'Rectangles', name: 'Square', rings: [box(1)] },
  { id: 'rectangle-3-2', group: 'Rectangles', name: '3 : 2', rings: [box(2 / 3)] },
  { id: 'rectangle-2-1', group: 'Rectangles', name: '2 : 1', rings: [box(1 / 2)] },
  { id: 'rectangle-rounded', group: 'Rectangles', name: 'Rounded', rings: [box(2 / 3, 50)] },
  ...CORNERS.map(([corners, name]): Template => ({
    ...{ id: `polygon-${corners}`, group: 'Polygons', name },
    rings: [polygonSpine(MIDDLE, HALF, corners)],
  })),
  ...[4, 5, 6, 8, 12].map((points): Template => ({
    ...{ id: `star-${points}`, group: 'Stars', name: `${points} points` },
    rings: [starSpine(MIDDLE, HALF, points, points === 4 ? 0.35 : 0.45)],
  })),
  { id: 'sweep', group: 'French curves', name: 'Long sweep', rings: [spiralCurve(0.22, 1.15, 0.34)] },
  { id: 'hook', group: 'French curves', name: 'Hook', rings: [spiralCurve(0.36, 1.7, 0.42)] },
  { id: 'shell', group: 'French curves', name: 'Shell', rings: [spiralCurve(0.5, 1.35, 0.62)] },
  { id: 'arch', group: 'Outlines', name: 'Arch', rings: [arch()] },
  { id: 'cloud', group: 'Outlines', name: 'Cloud', rings: [cloud()] },
  { id: 'burst', group: 'Outlines', name: 'Burst', rings: [burst()] },
];

/** Templates whose name or group holds all the words asked for. */
export function searchTemplates<T extends { readonly name: string; readonly group: string }>(
  templates: readonly T[],
  words: string,
): T[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return templates.filter(({ name, group }) => wanted.every((word) => `${group} ${name}`.toLowerCase().includes(word)));
}

/**
 * A French curve of our own making: out along a logarithmic spiral (growth `tight` a radian, through `turns` half turns) and
 * back along one that lies `fat` of its radius further in, so that curvature changes evenly all the way.
 */
function spiralCurve(tight: number, turns: number, fat: number): Spine {
  const end = turns * Math.PI;
  const count = 14;
  const outer = Array.from({ length: count }, (_, k) => {
    const angle = (end * k) / (count - 1);
    return polar(Math.exp(-tight * angle), angle);
  });
  const inner = Array.from({ length: count - 4 }, (_, k) => {
    const angle = end * (1 - (k + 2) / (count - 1));
    const share = 1 - fat * Math.sin(Math.PI * Math.min(1, (0.15 + angle) / (end + 0.3))) ** 0.8;
    return polar(Math.exp(-tight * angle) * share, angle);
  });
  return centred(smoothRing([...outer, ...inner]));
}

/** A round-headed opening, as of doors and windows: two jambs, a half circle over them, a sill. */
function arch(): Spine {
  const half = HALF / 2;
  const head = arcSpine({ x: 0, y: -half }, half, Math.PI, Math.PI).points;
  const foot = polylineSpine([
    { x: half, y: -half },
    { x: half, y: HALF },
    { x: -half, y: HALF },
    { x: -half, y: -half },
  ]).points;
  return { points: Float64Array.of(...head, ...foot.subarray(3)), closed: true };
}

function polar(radius: number, angle: number): Point {
  return { x: radius * Math.cos(angle), y: radius * Math.sin(angle) };
}

/** A ring through points, smooth at each: a Catmull–Rom spline (1974) as cubics. */
function smoothRing(points: readonly Point[]): Spine {
  const count = points.length;
  const at = (k: number) => points[(k + count) % count];
  const triples = [points[0].x, points[0].y, 1];
  for (let k = 0; k < count; k++) {
    const [a, b, c, d] = [at(k - 1), at(k), at(k + 1), at(k + 2)];
    triples.push(b.x + (c.x - a.x) / 6, b.y + (c.y - a.y) / 6, 1);
    triples.push(c.x - (d.x - b.x) / 6, c.y - (d.y - b.y) / 6, 1, c.x, c.y, 1);
  }
  return { points: Float64Array.from(triples), closed: true };
}

/** A ring moved to the middle and made 400 px across. */
function centred(ring: Spine): Spine {
  const { middle, scale } = frameOf([ring]);
  return placed(ring, middle, scale);
}

/** Rings that belong together, moved to the middle and made 400 px across. */
export function centredRings(rings: readonly Spine[]): Spine[] {
  const { middle, scale } = frameOf(rings);
  return rings.map((ring) => placed(ring, middle, scale));
}

function frameOf(rings: readonly Spine[]): { readonly middle: Point; readonly scale: number } {
  // Handles reach farther than the curve does: they only say how finely to look.
  const rough = rings.map(({ points }) => boxOfFlat(points, STRIDE)).reduce(uniteBoxes, emptyBox);
  const fine = Math.max(rough.maxX - rough.minX, rough.maxY - rough.minY, 1e-6) / 4_000;
  const { minX, minY, maxX, maxY } = rings
    .map((ring) => boxOfFlat(flattenSpine(ring, fine), STRIDE))
    .reduce(uniteBoxes, emptyBox);
  const scale = (2 * HALF) / Math.max(maxX - minX, maxY - minY, 1e-6);
  return { middle: { x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, scale };
}

function placed({ points, closed }: Spine, middle: Point, scale: number): Spine {
  const own = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3) {
    own[i] = (points[i] - middle.x) * scale;
    own[i + 1] = (points[i + 1] - middle.y) * scale;
    own[i + 2] = 1;
  }
  return { points: own, closed };
}

/** Arcs that bulge out between points on an ellipse. */
function cloud(): Spine {
  const bumps = 11;
  const random = seededRandom(7);
  const places = Array.from({ length: bumps }, (_, k) => {
    const angle = (2 * Math.PI * (k + 0.25 * random())) / bumps;
    return { x: 150 * Math.cos(angle), y: 95 * Math.sin(angle) };
  });
  const points: number[] = [];
  places.forEach((from, k) => {
    const to = places[(k + 1) % bumps];
    const [mx, my] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
    const radius = Math.hypot(to.x - from.x, to.y - from.y) * 0.56;
    const half = Math.hypot(to.x - from.x, to.y - from.y) / 2;
    const out = Math.sqrt(Math.max(0, radius * radius - half * half));
    const [nx, ny] = [(to.y - from.y) / (2 * half), -(to.x - from.x) / (2 * half)];
    const centre = { x: mx + nx * out * 0.2, y: my + ny * out * 0.2 };
    const begin = Math.atan2(from.y - centre.y, from.x - centre.x);
    let sweep = Math.atan2(to.y - centre.y, to.x - centre.x) - begin;
    while (sweep <= 0) sweep += 2 * Math.PI;
    const arc = arcSpine(centre, Math.hypot(from.x - centre.x, from.y - centre.y), begin, sweep).points;
    points.push(...(k === 0 ? arc : arc.subarray(3)));
  });
  points.splice(-3, 3, points[0], points[1], 1);
  return centred({ points: Float64Array.from(points), closed: true });
}

/** Points that shoot out of an ellipse, long and short by turns. */
function burst(): Spine {
  const random = seededRandom(3);
  const count = 18;
  const corners = Array.from({ length: 2 * count }, (_, k): Point => {
    const angle = (Math.PI * (k + 0.3 * (random() - 0.5))) / count;
    const reach = k % 2 === 0 ? 0.85 + 0.3 * random() : 0.58 + 0.06 * random();
    return { x: 200 * reach * Math.cos(angle), y: 140 * reach * Math.sin(angle) };
  });
  return centred(polylineSpine(corners, true));
}
