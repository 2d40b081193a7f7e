import { fitSpine } from '@true-nib/core/curve';
import {
  pathThrough,
  ridingOn,
  symmetricStrokes,
  symmetryMaps,
  templateRings,
  type GuideEntity,
  type GuideShape,
} from '@true-nib/core/guides';
import { rake } from '@true-nib/core/texture';
import { drawStroke } from '@true-nib/core/ink';
import { seededRandom, type Point } from '@true-nib/core/math';
import { inked, type Stroke } from '@true-nib/core/stroke';
import { orderBetween, type PageSize } from '@true-nib/core/page';
import type { Calm, PenSample } from '@true-nib/core/hand';
import type { Nib } from '@true-nib/core/nib';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { TEMPLATES } from '@true-nib/core/templates';

export const GUIDE_SAMPLER_SIZE: PageSize = { width: 2400, height: 2000, ppi: 350 };

export interface GuideSampler {
  readonly guides: readonly GuideEntity[];
  readonly lines: readonly { readonly stroke: Stroke; readonly samples: readonly PenSample[] | undefined }[];
  readonly calm: Calm;
}

const calm: Calm = { way: 'even', strength: 30 };
const pressureNib: Nib = { ...SHIPPED_NIBS[1].nib, size: 15, thinnest: 0.25 };
const fine: Nib = { ...SHIPPED_NIBS[0].nib, size: 6 };
const speed: Nib = { ...SHIPPED_NIBS[0].nib, name: 'Speed line', size: 11, taperIn: 1, taperOut: 30 };

/** What guides can do, each drawn by a hand that shakes: a cup, a crate, a template, rings, a wheel, a mirror, focus and speed lines. */
export function guideSampler(seed: number): GuideSampler {
  const random = seededRandom(seed);
  const guides: GuideEntity[] = [];
  const lines: GuideSampler['lines'][number][] = [];
  const lay = (name: string, shape: GuideShape, acting = false): GuideEntity => {
    const k = guides.length;
    const guide: GuideEntity = {
      ...{
        kind: 'guide',
        id: `demo-guides:guide-${k}`,
        order: orderBetween(guides.at(-1)?.order, undefined),
        name,
        seen: true,
        acting,
        locked: false,
      },
      ...{ tethers: name === 'Crate level' || name === 'Crate deep', reach: 'all', hue: k % 6, shape },
    };
    guides.push(guide);
    return guide;
  };
  /** A hand along a course: it shakes by some px, and is pressed in the middle. */
  const hand = (course: (t: number) => Point, shake = 5, count = 90): PenSample[] =>
    Array.from({ length: count + 1 }, (_, k) => {
      const t = k / count;
      const { x, y } = course(t);
      // A tremor of some 10 Hz at 8 ms a sample, and a little of everything.
      const off = (phase: number) => shake * (0.8 * Math.sin(0.5 * k + phase) + 0.2 * (random() - 0.5));
      return { x: x + off(0), y: y + off(2), pressure: 0.35 + 0.45 * Math.sin(Math.PI * t), time: 8 * k };
    });
  const free = (course: (t: number) => Point, nib = pressureNib, shake = 0.8) => {
    const samples = hand(course, shake);
    lines.push({ stroke: drawStroke(samples, nib, calm), samples });
  };
  const on = (guide: GuideEntity, course: (t: number) => Point, nib = pressureNib): Stroke | undefined => {
    const samples = hand(course);
    const path = pathThrough(guide, samples[0], Math.atan2(samples[20].y - samples[0].y, samples[20].x - samples[0].x));
    if (!path) return undefined;
    const stroke = { ...drawStroke(samples, nib, calm, { riding: ridingOn(path) }), guide: { id: guide.id, path } };
    lines.push({ stroke, samples });
    return stroke;
  };
  const straight = (a: Point, b: Point) => (t: number) => at(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t);
  const ring = (centre: Point, rx: number, ry: number, from: number, to: number) => (t: number) =>
    at(centre.x + rx * Math.cos(from + (to - from) * t), centre.y + ry * Math.sin(from + (to - from) * t));

  // A cup: its rim and its foot on ripples, its sides free.
  const rim = lay('Ripples', { kind: 'ripples', x: 360, y: 300, ratio: 0.32, angle: 0 }, true);
  on(rim, ring(at(360, 300), 190, 61, 0.02, 2 * Math.PI + 0.02));
  on(rim, ring(at(360, 300), 168, 54, 0.5, Math.PI - 0.5), fine);
  const foot = lay('Ripples, foot', { kind: 'ripples', x: 360, y: 640, ratio: 0.32, angle: 0 });
  on(foot, ring(at(360, 640), 120, 38, 0.02, Math.PI - 0.02));
  free((t) => at(170 + 62 * t ** 1.8, 302 + 342 * t));
  free((t) => at(550 - 62 * t ** 1.8, 302 + 342 * t));
  free((t) => at(545 + 120 * Math.sin(Math.PI * t) ** 0.8, 380 + 150 * t));

  // A crate on two families of rails, tethered: turn them and it stays whole.
  const level = lay('Crate level', { kind: 'rails', x: 880, y: 560, angle: 0.12 });
  const deep = lay('Crate deep', { kind: 'rails', x: 880, y: 560, angle: -0.55 });
  const upright = lay('Crate upright', { kind: 'rails', x: 880, y: 560, angle: Math.PI / 2 });
  const [u, v] = [at(260 * Math.cos(0.12), 260 * Math.sin(0.12)), at(190 * Math.cos(-0.55), 190 * Math.sin(-0.55))];
  const low = at(860, 620);
  const high = at(860, 400);
  const sum = (a: Point, b: Point) => at(a.x + b.x, a.y + b.y);
  for (const corner of [low, high]) on(level, straight(corner, sum(corner, u)));
  on(level, straight(sum(high, v), sum(sum(high, v), u)));
  for (const corner of [sum(low, u), sum(high, u), high]) on(deep, straight(corner, sum(corner, v)));
  for (const corner of [low, sum(low, u), sum(sum(low, u), v)])
    on(upright, straight(corner, at(corner.x, corner.y - 220)));

  // A template, stroked all round, and a batten drawn along.
  const hook = lay('French curve', {
    kind: 'template',
    rings: TEMPLATES.find(({ id }) => id === 'hook')?.rings ?? TEMPLATES[0].rings,
    place: { x: 1560, y: 420, scaleX: 0.95, scaleY: 0.95, angle: -0.3 },
  });
  if (hook.shape.kind === 'template')
    for (const course of templateRings(hook.shape)) lines.push({ stroke: inked(course, fine), samples: undefined });

  // Waves: echoes of one drawn curve.
  const wave = fitSpine(
    Array.from({ length: 60 }, (_, k) => ({ x: 1840 + 8 * k, y: 420 + 46 * Math.sin(k / 9), width: 1 })),
    0.5,
  );
  const echo = lay('Echo', { kind: 'echo', course: wave });
  for (let k = 0; k < 6; k++) on(echo, (t) => at(1840 + 470 * t, 420 + 46 * Math.sin((60 * t) / 9) + 34 * k - 70));

  // Focus lines with a calm middle, speed lines, rings.
  const box = (x: number, y: number, width: number, height: number): Point[] => [
    at(x, y),
    at(x + width, y),
    at(x + width, y + height),
    at(x, y + height),
  ];
  lay('Rays', { kind: 'rays', x: 480, y: 1320 });
  const calmMiddle = Array.from({ length: 40 }, (_, k) => ring(at(480, 1320), 210, 150, 0, 2 * Math.PI)(k / 40));
  lay('Rails', { kind: 'rails', x: 1000, y: 1100, angle: -0.2 });
  const raked = [
    rake(
      { kind: 'rays', x: 480, y: 1320 },
      box(100, 940, 760, 760),
      { nib: speed, spacing: 20, jitter: 0.7, ragged: 0.3, middle: calmMiddle },
      seed,
    ),
    rake(
      { kind: 'rails', x: 1000, y: 1100, angle: -0.2 },
      box(940, 1000, 620, 280),
      { nib: speed, spacing: 17, jitter: 0.8, ragged: 0.6 },
      seed + 1,
    ),
    rake(
      { kind: 'ripples', x: 1250, y: 1560, ratio: 0.4, angle: 0.1 },
      box(980, 1400, 540, 320),
      { nib: fine, spacing: 30, jitter: 0, ragged: 0 },
      seed + 2,
    ),
  ];
  for (const stroke of raked.flat()) lines.push({ stroke, samples: undefined });

  // A wheel of ten, and a face in a mirror.
  const wheel = lay('Wheel', { kind: 'wheel', x: 1960, y: 1080, angle: 0, sectors: 10, reflects: false, joins: false });
  if (wheel.shape.kind === 'wheel')
    for (const petal of [
      (t: number) => at(1990 + 190 * t, 1080 + 70 * Math.sin(Math.PI * t)),
      (t: number) => at(2010 + 130 * t, 1084 + 34 * Math.sin(Math.PI * t)),
    ])
      for (const stroke of symmetricStrokes(
        drawStroke(hand(petal, 0.5, 60), pressureNib, calm),
        symmetryMaps(wheel.shape),
        `demo-guides:set-${lines.length}`,
      ))
        lines.push({ stroke, samples: undefined });
  const mirror = lay('Mirror', { kind: 'mirror', x: 1960, y: 1620, angle: Math.PI / 2, joins: true });
  if (mirror.shape.kind === 'mirror')
    for (const half of [
      (t: number) => at(1960 + 170 * Math.sin(Math.PI * t) ** 0.8, 1420 + 360 * t),
      ring(at(2030, 1570), 34, 22, 0, 2 * Math.PI),
      (t: number) => at(1960 + 60 * t, 1700 - 16 * t * t),
      (t: number) => at(1966 + 22 * Math.sin(2.2 * t), 1590 + 60 * t),
    ])
      for (const stroke of symmetricStrokes(
        drawStroke(hand(half, 0.5, 60), pressureNib, calm),
        symmetryMaps(mirror.shape),
        `demo-guides:set-${lines.length}`,
      ))
        lines.push({ stroke, samples: undefined });
  return { guides, lines, calm };
}

function at(x: number, y: number): Point {
  return { x, y };
}
