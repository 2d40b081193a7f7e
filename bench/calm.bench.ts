// What each way of calming leaves of a tremor, how late it is, and what it makes of a corner; writes docs/calm.md.
import { writeFileSync } from 'node:fs';
import { calmed } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import { SHIPPED_CALM } from '@true-nib/core/rack';
import { seededRandom } from '@true-nib/core/math';
import { oneEuro } from '../packages/core/tests/oneEuro';

/** Samples a second, and px a second of a hand that inks a long line. */
const RATE = 120;
const SPEED = 300;
const SEEDS = 24;
/** px, the root mean square of the hand's tremor. */
const TREMOR = 1;

type Track = readonly { readonly x: number; readonly y: number }[];
type Way = (hand: readonly PenSample[]) => Track;

/** Physiological tremor: three sines of 8–12 Hz with random phases across each axis, `TREMOR` px in the mean. */
function tremor(seed: number): (time: number) => number {
  const random = seededRandom(seed);
  const parts = [0, 1, 2].map(() => ({ rate: 8 + 4 * random(), phase: 2 * Math.PI * random() }));
  const size = TREMOR * Math.sqrt(2 / parts.length);
  return (time) => parts.reduce((sum, { rate, phase }) => sum + size * Math.sin(2 * Math.PI * rate * time + phase), 0);
}

/** A shaken hand along a course, given at `SPEED` px a second. */
function hand(course: (way: number) => readonly [number, number], length: number, seed: number): PenSample[] {
  const [across, down] = [tremor(2 * seed + 1), tremor(2 * seed + 2)];
  return Array.from({ length: Math.floor((length / SPEED) * RATE) + 1 }, (_, k) => {
    const time = k / RATE;
    const [x, y] = course(time * SPEED);
    return { x: x + 0.2 * across(time), y: y + down(time), pressure: 0.5, time: 1000 * time };
  });
}

const straight = (way: number) => [way, 200] as const;
const CORNER = { x: 400, y: 200 };
const corner = (way: number) => (way < 400 ? ([way, 200] as const) : ([400, way - 200] as const));

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
const seeds = Array.from({ length: SEEDS }, (_, k) => k + 1);

/** px: what is left of the tremor in the middle of a straight line, root mean square. */
const tremorLeft = (way: Way): number =>
  Math.sqrt(
    mean(
      seeds.flatMap((seed) =>
        way(hand(straight, 1500, seed))
          .filter(({ x }) => x > 400 && x < 1100)
          .map(({ y }) => (y - 200) ** 2),
      ),
    ),
  );

/** px: the radius of the arc by which a right-angled corner is cut, from how near the line comes to it. */
const cornerRadius = (way: Way): number => {
  const near = seeds.map((seed) => {
    const line = way(hand(corner, 800, seed));
    return Math.min(...line.slice(1).map((p, k) => distanceToLeg(CORNER, line[k], p)));
  });
  return mean(near) / (Math.SQRT2 - 1);
};

function distanceToLeg(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(a.x + t * dx - p.x, a.y + t * dy - p.y);
}

/** px behind the pen, of a line that ends where it has got to. */
const behind = (way: Way): number =>
  mean(
    seeds.map((seed) => {
      const samples = hand(straight, 1500, seed);
      return samples[samples.length - 1].x - way(samples).at(-1)!.x;
    }),
  );

const byCalm =
  (calm: Calm): Way =>
  (samples) =>
    calmed(samples, calm);

/** The plain moving average over an odd number of samples, whose place is its middle: as late as half its window. */
const movingAverage =
  (half: number): Way =>
  (samples) =>
    samples.flatMap((_, k) => {
      const window = samples.slice(k - half, k + half + 1);
      return k < half || window.length < 2 * half + 1
        ? []
        : [{ x: mean(window.map(({ x }) => x)), y: mean(window.map(({ y }) => y)) }];
    });

const byOneEuro =
  (minCutoff: number, beta: number): Way =>
  (samples) => {
    const settings = { minCutoff, beta, derivativeCutoff: 1 };
    const xs = oneEuro(
      samples.map(({ x }) => x),
      RATE,
      settings,
    );
    const ys = oneEuro(
      samples.map(({ y }) => y),
      RATE,
      settings,
    );
    return xs.map((x, k) => ({ x, y: ys[k] }));
  };

interface Row {
  readonly name: string;
  readonly left: number;
  readonly lag: number;
  readonly radius: number;
}

const row = (name: string, way: Way, lag: number): Row => ({
  name,
  left: tremorLeft(way),
  lag,
  radius: cornerRadius(way),
});
/** Strength of *Even* whose window reaches so many px to either side (40 px at 100). */
const evenFor = (px: number): Calm => ({ way: 'even', strength: (100 * px) / 40 });

/** px of its own way that the hand makes in a ms: a little more than the line it means. */
const wayPerMs = mean(
  seeds.map((seed) => {
    const samples = hand(straight, 1500, seed);
    const way = samples.slice(1).map((p, k) => Math.hypot(p.x - samples[k].x, p.y - samples[k].y));
    return mean(way) / (1000 / RATE);
  }),
);

/** Half windows in samples: 42, 58, 83 and 117 ms. */
const HALVES = [5, 7, 10, 14];
const pairs = HALVES.map((half) => {
  const ms = (1000 * half) / RATE;
  const px = ms * wayPerMs;
  return {
    ms,
    even: row(
      `*Even*, ${(100 * px) / 40 > 100 ? 'beyond its range' : `strength ${Math.round((100 * px) / 40)}`}`,
      byCalm(evenFor(px)),
      px,
    ),
    average: row(`moving average of ${2 * half + 1} samples`, movingAverage(half), px),
  };
});

const stops = (calm: Calm): Calm => ({ ...calm, stops: true });
const trailing = (name: string, calm: Calm): Row => row(name, byCalm(stops(calm)), behind(byCalm(stops(calm))));
const rows: Row[] = [
  row('*Raw*', byCalm({ way: 'raw' }), 0),
  ...pairs.map(({ even }) => even),
  ...[15, 30, 60].map((strength) => trailing(`*Tow*, strength ${strength}, lag 0`, { way: 'tow', strength, lag: 0 })),
  ...[15, 30].map((strength) => trailing(`*Tow*, strength ${strength}, lag 30`, { way: 'tow', strength, lag: 30 })),
  ...[20, 40, 70].map((strength) =>
    trailing(`*Sprung*, strength ${strength}, drag 85`, { way: 'sprung', strength, drag: 85 }),
  ),
  ...pairs.map(({ average }) => average),
  ...[
    [1, 0],
    [1, 0.007],
    [4, 0],
  ].map(([cutoff, beta]) => {
    const way = byOneEuro(cutoff, beta);
    return row(`One Euro, ${cutoff} Hz, β ${beta}`, way, behind(way));
  }),
];

const shipped = row(
  `*Even*, strength ${SHIPPED_CALM.strength}`,
  byCalm(SHIPPED_CALM),
  (40 * SHIPPED_CALM.strength) / 100,
);

let isMet = true;
for (const { ms, even, average } of pairs) {
  const keepsLine = even.left <= 1.05 * average.left;
  const keepsCorner = even.radius < average.radius;
  isMet &&= keepsLine && keepsCorner;
  console.log(
    `${keepsLine && keepsCorner ? 'ok  ' : 'OVER'} at ${ms.toFixed(0)} ms: Even leaves ${even.left.toFixed(3)} px of tremor against ${average.left.toFixed(3)}, cuts a corner by r ${even.radius.toFixed(2)} px against ${average.radius.toFixed(2)}`,
  );
}

const line = ({ name, left, lag, radius }: Row): string =>
  `| ${name} | ${left.toFixed(2)} | ${lag.toFixed(0)} | ${((1000 * lag) / SPEED).toFixed(0)} | ${radius.toFixed(1)} |`;

writeFileSync(
  'docs/calm.md',
  `# Calm

Written by \`npm run bench\` (bench/calm.bench.ts); do not edit by hand.

A hand draws at ${SPEED} px a second, read ${RATE} times a second, with a seeded tremor of ${TREMOR} px (root mean square, three sines of
8–12 Hz: the physiological tremor of the hand; the range as Elble & Randall, 1976, and the textbooks after them give it, from
memory). Means over ${SEEDS} seeds, at a zoom of 100 %.

- _left_: px of tremor left in the middle of a straight line, root mean square.
- _lag_: px and ms. For _Tow_, _Sprung_ and One Euro how far the tip is behind the pen. _Even_ and the moving average show the
  line up to the pen; what they show is final once the pen is half a window further on, and that is their lag.
- _corner_: px, the radius of the arc that cuts a right-angled corner as much as the line does.

| way | left | lag, px | lag, ms | corner |
| --- | ---: | ---: | ---: | ---: |
${rows.map(line).join('\n')}

At equal lag _Even_ leaves as much of the tremor as a moving average of samples (it is one, but over the way), and keeps the corner
that the moving average cuts, because its windows end at corners. One Euro (Casiez, Roussel & Vogel, CHI 2012) with its published
start values (1 Hz, β 0 and 0.007) is far behind a fast hand; it is made for pointing.

## The shipped defaults

${line(shipped)
  .split('|')
  .slice(1, 5)
  .map((cell) => cell.trim())
  .join(
    ' · ',
  )} (left, lag in px, lag in ms): _Even_ at ${SHIPPED_CALM.strength} takes out most of the tremor, has no lag at the pen and keeps corners, so it is
what a nib ships with. Mouse nibs ship with 60: a mouse has no pressure to lose, and steps to hide. _Tow_ turns corners only on
demand and _Sprung_ rounds them: they are there for those who want the feel, not for the line.
`,
);
process.exitCode = isMet ? 0 : 1;
