/// <reference path="../packages/core/tests/libraries.d.ts" />
import { Bezier } from 'bezier-js';
import ClipperLib from 'clipper-lib';
import { fitSpine, flattenSpine, SEGMENT, type Spine, type GuidePath } from '@true-nib/core/curve';
import {
  combinedMaps,
  echoThrough,
  rankingAt,
  ridingOn,
  trackOf,
  type GuideEntity,
  type GuideShape,
} from '@true-nib/core/guides';
import { rake } from '@true-nib/core/texture';
import { drawStroke, LiveStroke } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import { seededRandom, type Point } from '@true-nib/core/math';
import { newPage } from '@true-nib/core/page';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { TEMPLATES } from '@true-nib/core/templates';
import { LiveInk } from '../apps/web/src/render/liveInk';
import { middle, report, type Row } from './timing';

const { nib } = SHIPPED_NIBS[1];
const calm: Calm = { way: 'even', strength: 40 };
const page = newPage({ width: 3300, height: 4200, ppi: 400 });

/** A hand that goes along a course and shakes. */
function hand(count: number, course: (t: number) => Point): PenSample[] {
  const random = seededRandom(3);
  return Array.from({ length: count }, (_, k) => {
    const { x, y } = course(k / (count - 1));
    return { x: x + 3 * random(), y: y + 3 * random(), pressure: 0.5 + 0.4 * Math.sin(k / 55), time: 8 * k };
  });
}

const wave = (count: number): Spine =>
  fitSpine(
    Array.from({ length: count }, (_, k) => ({ x: 200 + k, y: 1500 + 240 * Math.sin(k / 160), width: 1 })),
    0.3,
  );

/** Two hundred guides of every kind. */
function guides(): GuideEntity[] {
  const random = seededRandom(9);
  const place = () => ({ x: random() * page.size.width, y: random() * page.size.height });
  const shapes: (() => GuideShape)[] = [
    () => ({ kind: 'rails', ...place(), angle: 3 * random() }),
    () => ({ kind: 'ripples', ...place(), ratio: 0.2 + 0.8 * random(), angle: random() }),
    () => ({ kind: 'rays', ...place() }),
    () => ({ kind: 'straightedge', ...place(), angle: random(), length: 900, width: 300 }),
    () => ({
      ...{ kind: 'template', rings: TEMPLATES[k % TEMPLATES.length].rings },
      place: { ...place(), scaleX: 2, scaleY: 2, angle: random() },
    }),
  ];
  let k = 0;
  return Array.from({ length: 200 }, (_, n) => {
    k = n;
    return {
      ...{ kind: 'guide', id: `g${n}`, order: 'a0', name: 'Guide', seen: true, acting: true, locked: false },
      ...{ tethers: false, reach: 'all', hue: 0, shape: shapes[n % shapes.length]() },
    };
  });
}

const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

const often = (rounds: number, work: () => void): number => middle(Array.from({ length: rounds }, () => timed(work)));

function riding(): Row[] {
  const curve: GuidePath = { kind: 'curve', course: wave(2_000) };
  const ring: GuidePath = { kind: 'ellipse', x: 1200, y: 1500, rx: 900, ry: 400, angle: 0.3 };
  const rail: GuidePath = { kind: 'line', x: 200, y: 1500, dx: 1, dy: 0 };
  const paths = { rail, ring, curve };
  return Object.entries(paths).map(([name, path]) => {
    const track = trackOf(path);
    const samples = hand(2_000, (t) =>
      name === 'ring'
        ? track.place(5_000 * t)
        : { x: 210 + 1_900 * t, y: 1500 + (name === 'curve' ? 240 * Math.sin((1_900 * t) / 160) : 0) },
    );
    const live = new LiveStroke(nib, calm, 1, { riding: ridingOn(path) });
    const ours: number[] = [];
    const anew: number[] = [];
    samples.forEach((sample, k) => {
      ours.push(
        timed(() => {
          live.add([sample]);
          live.spine();
        }),
      );
      if (k > 400 && k % 80 === 0)
        anew.push(timed(() => drawStroke(samples.slice(0, k), nib, calm, { riding: ridingOn(path) })));
    });
    return {
      ...{ what: `an event of a stroke that rides a ${name}, 2,000 samples`, ours: middle(ours), other: middle(anew) },
      ...{ against: 'riding all samples anew', most: 1 / 4 },
    };
  });
}

/** The nearest place of a curve of many cubics, near the last one, against a Bézier library that looks at each. */
function nearest(): Row {
  const course = wave(2_000);
  const track = trackOf({ kind: 'curve', course });
  const p = course.points;
  const library = Array.from({ length: (p.length - 3) / SEGMENT }, (_, k) => {
    const i = k * SEGMENT;
    return new Bezier(p[i], p[i + 1], p[i + 3], p[i + 4], p[i + 6], p[i + 7], p[i + 9], p[i + 10]);
  });
  const at = { x: 900, y: 1420 };
  const near = track.nearest(at);
  return {
    what: `the nearest place of a curve of ${library.length} cubics`,
    ours: often(400, () => void track.nearest(at, near, 24)),
    other: often(40, () => library.forEach((one) => void one.project(at))),
    ...{ against: 'bezier-js, project', most: 1 / 10 },
  };
}

/** The echo of a curve of 2,000 samples, against a polygon offset library, which does both sides and fits nothing. */
function echo(): Row {
  const course = wave(2_000);
  const flat = flattenSpine(course, 0.01);
  const line = Array.from({ length: flat.length / 3 }, (_, k) => ({
    X: Math.round(flat[3 * k] * 1e3),
    Y: Math.round(flat[3 * k + 1] * 1e3),
  }));
  return {
    what: 'the echo of a curve of 2,000 samples, fitted',
    ours: often(15, () => void echoThrough(course, { x: 1_000, y: 1_300 })),
    other: often(15, () => {
      const offset = new ClipperLib.ClipperOffset(2, 20);
      offset.AddPath(line, ClipperLib.JoinType.jtRound, ClipperLib.EndType.etOpenRound);
      offset.Execute([], 180e3);
    }),
    ...{ against: 'clipper-lib, offset without a fit', most: 2 },
  };
}

const nothing = () => undefined;
const blank = {
  ...{ save: nothing, restore: nothing, setTransform: nothing, clearRect: nothing, rect: nothing, clip: nothing },
  ...{ beginPath: nothing, moveTo: nothing, lineTo: nothing, closePath: nothing, fill: nothing },
} as unknown as CanvasRenderingContext2D;

/** A stroke in a wheel of 24, before the rasteriser, against one stroke 24 times. */
function wheel(): Row {
  const maps = combinedMaps([{ kind: 'wheel', x: 1650, y: 2100, angle: 0, sectors: 24, reflects: true, joins: false }]);
  const samples = hand(600, (t) => ({ x: 1700 + 900 * t, y: 2000 + 200 * Math.sin(9 * t) }));
  const each = (copies: typeof maps): number => {
    const live = new LiveStroke(nib, calm);
    const ink = new LiveInk(live, blank, [0.3, 0, 0, 0.3, 0, 0], { copies });
    return middle(
      samples.map((sample) =>
        timed(() => {
          live.add([sample]);
          ink.paint();
        }),
      ),
    );
  };
  const one = each([maps[0]]);
  return {
    ...{ what: 'an event of a stroke in a wheel of 24', ours: each(maps), other: 24 * one },
    ...{ against: '24 strokes', most: 2 },
  };
}

const all = guides();
const start = { x: 1_500, y: 1_900 };
const choosing = often(60, () => void rankingAt(all, start, { reach: 40 }));
const rank = rankingAt(all, start, { reach: 40 });
const ranking = often(60, () => void rank(0.4));
const loop = Array.from({ length: 120 }, (_, k) => ({
  x: 1650 + 1500 * Math.cos((k * Math.PI) / 60),
  y: 2100 + 1900 * Math.sin((k * Math.PI) / 60),
}));
const settings = { nib, spacing: 4.6, jitter: 0.4, ragged: 0.3 };
let raked = 0;
const raking = often(5, () => {
  raked = rake({ kind: 'rays', x: 1650, y: 2100 }, loop, settings, 1).length;
});
const rows = [...riding(), nearest(), echo(), wheel()];
const areWithin = report(rows);
console.log(
  `choosing among 200 guides: ${choosing.toFixed(3)} ms once a stroke, ${ranking.toFixed(3)} ms an event until then`,
);
console.log(`a rake of ${raked} lines: ${raking.toFixed(0)} ms`);
if (!areWithin) process.exitCode = 1;
