import { solve, Matrix as Dense } from 'ml-matrix';
import { PerspectiveCamera, Vector3 } from 'three';
import {
  cameraOrThrow,
  FRAME_PRESETS,
  framePaths,
  framePreset,
  eachGridPiece,
  type TellPiece,
  rankingAt,
  ridingOn,
  sightFrame,
  turnedFrame,
  trackOf,
  type FrameGrid,
  type FrameShape,
  type GuideEntity,
  type SightedEdge,
  frameChange,
} from '@true-nib/core/guides';
import { mapped } from '@true-nib/core/drawn';
import { tetheredEdits } from '@true-nib/core/tethers';
import { drawStroke, LiveStroke } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import { identity, projectiveOf, seededRandom } from '@true-nib/core/math';
import { applyChange, draftChange, newPage } from '@true-nib/core/page';
import { inked, type StrokeEntity } from '@true-nib/core/stroke';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { lineSpine } from '@true-nib/core/shapes';
import { middle, report, type Row } from './timing';

const { nib } = SHIPPED_NIBS[1];
const calm: Calm = { way: 'even', strength: 40 };
const page = newPage({ width: 3300, height: 4200, ppi: 400 });
const frame = framePreset(FRAME_PRESETS[4], page.size);
const guide: GuideEntity = {
  ...{ kind: 'guide', id: 'frame', order: 'a0', name: 'Frame', seen: true, acting: true, locked: false },
  ...{ tethers: true, reach: 'all', hue: 0, shape: frame },
};

const said: string[] = [];
const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
const often = (rounds: number, work: () => void): number => middle(Array.from({ length: rounds }, () => timed(work)));

/** A hand that goes towards the left point and shakes. */
function hand(count: number): PenSample[] {
  const random = seededRandom(3);
  const [{ path }] = framePaths(frame, page.size, { x: 2900, y: 3000 }, ['left']);
  return Array.from({ length: count }, (_, k) => ({
    ...{ x: path.x - k * path.dx + 3 * random(), y: path.y - k * path.dy + 3 * random() },
    ...{ pressure: 0.5 + 0.4 * Math.sin(k / 55), time: 8 * k },
  }));
}

function riding(): Row[] {
  const samples = hand(2_000);
  const [{ path }] = framePaths(frame, page.size, samples[0], ['left']);
  const ride = ridingOn(path);
  const live = new LiveStroke(nib, calm, 1, { riding: ride });
  const event = middle(samples.map((sample) => timed(() => void (live.add([sample]), live.spine()))));
  const naive = often(7, () => void drawStroke(samples, nib, calm, { riding: ridingOn(path) }));
  const track = trackOf(path);
  const nearest = often(9, () => samples.forEach((sample) => track.nearest(sample))) / samples.length;
  const choosing = often(15, () => void rankingAt([guide], samples[0], { reach: 10, page: page.size })(0.4));
  said.push(`taking one sample to its line: ${(1000 * nearest).toFixed(2)} µs (asked: 50 µs)`);
  said.push(`choosing among the three directions: ${choosing.toFixed(3)} ms once a stroke`);
  return [
    {
      ...{ what: 'an event of a stroke of 2,000 samples on a frame', ours: event, other: naive, most: 1 / 20 },
      against: 'the whole stroke ridden anew',
    },
  ];
}

function grids(): Row[] {
  const grid: FrameGrid = { step: 60, reach: 200, fade: 0.5, hue: 0, snaps: false };
  const full: FrameShape = { ...frame, grids: { left: grid, right: grid, floor: grid } };
  // As a wide board shows the page: 7 CSS px are some 38 of its px.
  const all = (tell: TellPiece) => {
    for (const plane of ['left', 'right', 'floor'] as const) eachGridPiece(full, page.size, plane, 38, tell);
  };
  const pieces: (readonly [ax: number, ay: number, bx: number, by: number])[] = [];
  all((ax, ay, bx, by) => pieces.push([ax, ay, bx, by]));
  let far = 0;
  // The same ends by the camera of a library, each projected on its own.
  const camera = new PerspectiveCamera(50, 1, 1, 1e6);
  camera.updateProjectionMatrix();
  const projecting = () => {
    for (const [ax, ay, bx, by] of pieces) {
      new Vector3(ax, ay, -4_000).project(camera);
      new Vector3(bx, by, -4_000).project(camera);
    }
  };
  return [
    {
      ...{ what: `three grids of 401 lines each way: ${pieces.length} pieces (asked: 4 ms with the paint)`, most: 3 },
      ...{ ours: often(25, () => all((ax) => (far = Math.max(far, ax)))), other: often(25, projecting) },
      against: 'their ends projected by three, neither cut nor thinned',
    },
  ];
}

function edges(count: number): SightedEdge[] {
  const random = seededRandom(5);
  const ways = ['right', 'left', 'height'] as const;
  return Array.from({ length: count }, (_, k) => {
    const from = { x: random() * 3300, y: random() * 4200 };
    const way = ways[k % 3];
    const [{ path }] = framePaths(frame, page.size, from, [way]);
    const turn = 0.004 * (random() - 0.5);
    const long = 300 + 500 * random();
    return {
      way,
      from,
      to: { x: from.x + long * (path.dx - turn * path.dy), y: from.y + long * (path.dy + turn * path.dx) },
    };
  });
}

function sighting(): Row[] {
  const some = edges(60);
  // The usual way without angles: the point nearest to all lines of a direction, by linear least squares of a library.
  const linear = () =>
    (['right', 'left', 'height'] as const).map((way) => {
      const own = some.filter((edge) => edge.way === way);
      const rows = own.map(({ from, to }) => {
        const long = Math.hypot(to.x - from.x, to.y - from.y);
        return [(to.y - from.y) / long, (from.x - to.x) / long];
      });
      const right = own.map(({ from }, k) => [rows[k][0] * from.x + rows[k][1] * from.y]);
      return solve(new Dense(rows), new Dense(right), true).to1DArray();
    });
  const ours = cameraOrThrow(sightFrame(some, page.size).frame, page.size).focal;
  const truth = cameraOrThrow(frame, page.size).focal;
  said.push(
    `its focal length is off by ${(100 * Math.abs(ours / truth - 1)).toPrecision(2)} %, from edges turned by up to 0.11°`,
  );
  return [
    {
      ...{ what: 'sighting 60 edges (asked: 10 ms)', most: 200 },
      ...{ ours: often(25, () => void sightFrame(some, page.size)), other: often(25, () => void linear()) },
      against: 'three points by linear least squares of ml-matrix: no angles, no outliers, no camera',
    },
  ];
}

function tethers(): Row[] {
  const random = seededRandom(7);
  const strokes = Array.from({ length: 5_000 }, (_, k): StrokeEntity => {
    const from = { x: random() * 3300, y: random() * 4200 };
    const [{ path }] = framePaths(frame, page.size, from, [(['right', 'left', 'height'] as const)[k % 3]]);
    const to = { x: from.x + 160 * path.dx, y: from.y + 160 * path.dy };
    return {
      kind: 'stroke',
      id: `s${k}`,
      layerId: 'inks',
      order: `a${k}`,
      ...inked(lineSpine(from, to), nib),
      guide: { id: 'frame', path },
    };
  });
  const full = applyChange(
    page,
    draftChange(
      'all',
      [guide, ...strokes].map((after) => ({ before: null, after })),
    ),
  );
  const turned = turnedFrame(frame, { yaw: 0.05 }, page.size);
  const carrying = () => void tetheredEdits(full, guide, turned);
  const map = frameChange(frame, turned, page.size) ?? projectiveOf(identity);
  // The same by the transform of selections, which knows nothing of paths: each line on its own.
  const transforming = () => void mapped(strokes, map, { scaleWidth: false });
  return [
    {
      ...{ what: 'carrying 5,000 tethered lines with the camera', most: 4 },
      ...{ ours: often(7, carrying), other: often(7, transforming) },
      against: 'the same lines transformed as a selection, their guides lost',
    },
    {
      ...{ what: 'aiming 5,000 tethered lines anew', most: 40 },
      ...{ ours: often(3, () => void tetheredEdits(full, guide, turned, 'aimed')), other: often(5, carrying) },
      against: 'carrying them',
    },
  ];
}

const areWithin = report([...riding(), ...grids(), ...sighting(), ...tethers()]);
for (const words of said) console.log(words);
if (!areWithin) process.exitCode = 1;
