import { fitSpine, segmentCount } from '@true-nib/core/curve';
import { drawStroke, LiveStroke, outlineOf } from '@true-nib/core/ink';
import { type Calm, packSamples, type PenSample } from '@true-nib/core/hand';
import type { Nib } from '@true-nib/core/nib';
import { seededRandom } from '@true-nib/core/math';
import { checkEntity, EntityMap, type Entity } from '@true-nib/core/page';
import { entitiesIn, fromJson, joinParts, pack, toJson } from '@true-nib/core/wire';
import { nibAt, SHIPPED_NIBS } from '@true-nib/core/rack';
import fitCurve from 'fit-curve';
import { getStroke } from 'perfect-freehand';
import { LiveInk } from '../apps/web/src/render/liveInk';
import { medians, middle, report } from './timing';

const nib: Nib = { name: 'Pressure nib', size: 16, thinnest: 0.1, taperIn: 0, taperOut: 0, color: '#14161a' };
const calm: Calm = { way: 'even', strength: 40 };

/** A hand that goes on in loops, about 3 page px a sample, with a tremor. */
function hand(count: number, seed = 1): PenSample[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, k) => ({
    x: 300 + k * 0.9 + 120 * Math.cos(k / 38) + random(),
    y: 400 + 120 * Math.sin(k / 38) + 60 * Math.sin(k / 170) + random(),
    pressure: 0.5 + 0.4 * Math.sin(k / 55),
    time: 8 * k,
  }));
}

/** A context that takes paths and paints nothing: the bench is about the work before the rasteriser. */
const nothing = () => undefined;
const blank = {
  save: nothing,
  restore: nothing,
  setTransform: nothing,
  clearRect: nothing,
  rect: nothing,
  clip: nothing,
  beginPath: nothing,
  moveTo: nothing,
  lineTo: nothing,
  closePath: nothing,
  fill: nothing,
};

function liveStroke() {
  const samples = hand(2_000);
  const live = new LiveStroke(nib, calm);
  const ink = new LiveInk(live, blank as unknown as CanvasRenderingContext2D, [1, 0, 0, 1, 0, 0]);
  const ours: number[] = [];
  const outlines: number[] = [];
  const pipelines: number[] = [];
  samples.forEach((sample, k) => {
    const start = performance.now();
    live.add([sample]);
    ink.paint();
    ours.push(performance.now() - start);
    if (k < 500 || k % 25) return;
    const spine = live.spine();
    const naive = performance.now();
    outlineOf({ spine, nib, ends: ['round', 'round'] }, 0.09);
    outlines.push(performance.now() - naive);
    const whole = performance.now();
    outlineOf(drawStroke(samples.slice(0, k + 1), nib, calm), 0.09);
    pipelines.push(performance.now() - whole);
  });
  const late = middle(ours.slice(500));
  return [
    {
      what: 'Live stroke of 2,000 samples, an event',
      ours: late,
      other: middle(pipelines),
      against: 'calming, fitting and outlining it all anew',
      most: 1 / 20,
    },
    { what: 'The same', ours: late, other: middle(outlines), against: 'outlining the finished spine anew', most: 1 },
  ];
}

function wholeStroke() {
  const samples = hand(500, 3);
  return {
    what: 'drawStroke on 500 samples',
    ...medians(
      1_500,
      () => void drawStroke(samples, nib, calm),
      () => void getStroke(samples, { size: 16, simulatePressure: false, last: true }),
    ),
    against: "perfect-freehand 1.2.3's outline",
    most: 1.5,
  };
}

function edits() {
  const packed = new Uint8Array(8);
  const samplesOf = (id: string): Entity => ({ kind: 'samples', id, packed });
  const mapOf = (count: number) => EntityMap.of(Array.from({ length: count }, (_, k) => samplesOf(`e${k}`)));
  const [few, many] = [mapOf(500), mapOf(50_000)];
  const plain = new Map([...many].map((entity) => [entity.id, entity]));
  const edit = (map: EntityMap) => () => {
    for (let k = 0; k < 50; k++) map.with(samplesOf(`e${k}`));
  };
  const copy = () => {
    for (let k = 0; k < 50; k++) new Map(plain).set('e77', samplesOf('e77'));
  };
  return [
    {
      what: 'Fifty edits on a page of 50,000',
      ...medians(400, edit(many), edit(few)),
      against: 'on a page of 500',
      most: 3,
    },
    { what: 'The same', ...medians(3, edit(many), copy), against: 'copying a plain Map', most: 1 / 20 },
  ];
}

/** Opening a page of 5,000 strokes: its packed parts, against the same entities as flat JSON with their samples. */
function reading() {
  const entities: Entity[] = Array.from({ length: 5_000 }, (_, k) => {
    const samples = hand(60, k);
    const stroke: Entity = {
      ...{ kind: 'stroke', id: `s${k}`, layerId: 'inks', order: 'a0' },
      ...drawStroke(samples, nib, calm),
      origin: { samples: `m${k}`, calm, zoom: 1 },
    };
    const kept: Entity = { kind: 'samples', id: `m${k}`, packed: packSamples(samples) };
    return [kept, stroke];
  }).flat();
  const parts = joinParts(entities.map(pack));
  const flat = JSON.stringify(entities.map(toJson));
  return {
    what: 'Reading a page of 5,000 strokes',
    ...medians(
      5,
      () => void [...entitiesIn(parts)],
      () => void JSON.parse(flat).map(fromJson).map(checkEntity),
    ),
    against: `the same as flat JSON, ${(flat.length / 1e6).toFixed(0)} MB instead of ${(parts.bytes.length / 1e6).toFixed(0)}`,
    most: 1 / 10,
  };
}

/** Fitting a shaken line, against fit-curve (Schneider 1990; its tolerance is squared): time, and segments over many hands. */
function fitting() {
  const tolerance = 0.4;
  const hands = Array.from({ length: 12 }, (_, k) => hand(200, 40 + k));
  const pairs = hands.map((samples) => samples.map(({ x, y }) => [x, y]));
  const points = hands.map((samples) => samples.map(({ x, y }) => ({ x, y, width: 4 })));
  const own = points.reduce((sum, samples) => sum + segmentCount(fitSpine(samples, tolerance)), 0);
  const theirs = pairs.reduce((sum, samples) => sum + fitCurve(samples, tolerance ** 2).length, 0);
  return [
    {
      what: 'Fitting 200 samples',
      ...medians(
        120,
        () => void fitSpine(points[0], tolerance),
        () => void fitCurve(pairs[0], tolerance ** 2),
      ),
      against: 'fit-curve 0.2.0',
      most: 1 / 2,
    },
    {
      what: 'Its cubics (a count, not ms)',
      ours: own,
      other: theirs,
      against: 'fit-curve at the same tolerance',
      most: 1,
    },
  ];
}

/** What is done at each event while a line is drawn with a nib, on average over a stroke of 600 samples. */
function everyNib() {
  return SHIPPED_NIBS.filter(({ id }) =>
    ['pressure', 'broad', 'chisel', 'dry', 'rough', 'mouse-lens', 'mouse-quick'].includes(id),
  ).flatMap((one) => {
    const drawn = nibAt(one, 350, '#ffffff');
    const samples = hand(2_000);
    const live = new LiveStroke(drawn, one.calm, 1, { seed: 3 });
    const ink = new LiveInk(live, blank as unknown as CanvasRenderingContext2D, [1, 0, 0, 1, 0, 0]);
    const ours: number[] = [];
    const whole: number[] = [];
    samples.forEach((sample, k) => {
      const start = performance.now();
      live.add([sample]);
      ink.paint();
      ours.push(performance.now() - start);
      if (k < 500 || k % 100) return;
      const naive = performance.now();
      outlineOf(drawStroke(samples.slice(0, k + 1), drawn, one.calm, { seed: 3 }), 0.09);
      whole.push(performance.now() - naive);
    });
    return {
      what: `Live stroke, ${one.nib.name}, an event`,
      ours: middle(ours.slice(500)),
      other: middle(whole),
      against: 'it all anew',
      most: one.nib.profile ? 1 / 2 : 1 / 20,
    };
  });
}

process.exitCode = report([...liveStroke(), wholeStroke(), ...fitting(), ...everyNib(), ...edits(), reading()]) ? 0 : 1;
