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

/** A shaken hand along a course, at so many px a second. */
function hand(
  course: (way: number) => readonly [number, number],
  length: number,
  seed: number,
  speed = SPEED,
): PenSample[] {
  const [across, down] = [tremor(2 * seed + 1), tremor(2 * seed + 2)];
  return Array.from({ length: Math.floor((length / speed) * RATE) + 1 }, (_, k) => {
    const time = k / RATE;
    const [x, y] = course(time * speed);
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

/** The same over the middle half of a line of four seconds, at another speed. */
const leftAt = (way: Way, speed: number): number =>
  Math.sqrt(
    mean(
      seeds.flatMap((seed) =>
        way(hand(straight, 4 * speed, seed, speed))
          .filter(({ x }) => x > speed && x < 3 * speed)
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

const SPEEDS = [100, 150, 200, 300, 450, 600, 800];
const STRENGTHS = [5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100];
const sweep = SPEEDS.map((speed) => ({
  speed,
  left: STRENGTHS.map((strength) => leftAt(byCalm({ way: 'even', strength }), speed)),
}));
for (const { speed, left } of sweep) {
  const never = left.every((own, k) => k === 0 || own <= left[k - 1] + 0.005);
  isMet &&= never;
  console.log(
    `${never ? 'ok  ' : 'OVER'} at ${speed} px/s more strength never leaves more: ${left.map((own) => own.toFixed(2)).join(' ')}`,
  );
}
const at50 = SPEEDS.map((speed) => ({ speed, left: leftAt(byCalm(evenFor(0.05 * speed)), speed) }));

/** The sweep as a drawing: strength to the right, px left upwards, a line for each speed with its name at its start. */
function chart(): string {
  const [width, height, margin] = [640, 360, 44];
  const x = (strength: number) => margin + ((width - 2 * margin) * strength) / 100;
  const y = (left: number) => height - margin - (height - 2 * margin) * left;
  const ticks = [0, 0.25, 0.5, 0.75, 1];
  const colours = ['#8a5200', '#2a6f97', '#7a4a8c', '#00705a', '#a33a5b', '#4e5a65', '#14161a'];
  const lines = sweep.map(({ speed, left }, k) => {
    const points = left.map((own, n) => `${x(STRENGTHS[n]).toFixed(1)},${y(own).toFixed(1)}`).join(' ');
    const dash = k % 2 ? ' stroke-dasharray="6 3"' : '';
    const name = `<text x="${x(STRENGTHS[0]) - 6}" y="${(y(left[0]) + 4 - 9 * (SPEEDS.length / 2 - k) * 0.35).toFixed(1)}" text-anchor="end" fill="${colours[k]}">${speed}</text>`;
    return `<polyline points="${points}" fill="none" stroke="${colours[k]}" stroke-width="1.6"${dash}/>${name}`;
  });
  const grid = ticks.map(
    (tick) =>
      `<line x1="${x(0)}" x2="${x(100)}" y1="${y(tick)}" y2="${y(tick)}" stroke="#d8d4c8"/><text x="${x(100) + 6}" y="${y(tick) + 4}">${tick}</text>`,
  );
  const feet = [0, 20, 40, 60, 80, 100].map(
    (strength) => `<text x="${x(strength)}" y="${height - margin + 18}" text-anchor="middle">${strength}</text>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" font-family="sans-serif" font-size="12" fill="#14161a">
<rect width="${width}" height="${height}" fill="#ffffff"/>
${[...grid, ...feet, ...lines].join('\n')}
<text x="${width / 2}" y="${height - 8}" text-anchor="middle">strength of Even</text>
<text x="${margin}" y="20">px of tremor left, at so many px a second</text>
</svg>
`;
}

writeFileSync('docs/calm.svg', chart());

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

At equal lag _Even_ leaves no more of the tremor than a moving average of samples, and keeps the corner that the moving average cuts,
because its windows end at corners. One Euro (Casiez, Roussel & Vogel, CHI 2012) with its published
start values (1 Hz, β 0 and 0.007) is far behind a fast hand; it is made for pointing.

## At every speed

A plain mean over the way lets a tremor in again once it is longer than the tremor's period: more strength leaves more, then less, as the
side lobes of its spectrum come by. A window of _Even_ is a plain mean up to 50 ms on either side, at the hand's own speed; what
is left of its reach goes into a second and a third mean of that mean (core/ink/tremorWindow). So more strength never leaves more.

![px of tremor left, by strength, at seven speeds](calm.svg)

| px a second | ${STRENGTHS.join(' | ')} | at 50 ms of lag |
| ---: | ${STRENGTHS.map(() => '---:').join(' | ')} | ---: |
${sweep.map(({ speed, left }, k) => `| ${speed} | ${left.map((own) => own.toFixed(2)).join(' | ')} | ${at50[k].left.toFixed(2)} |`).join('\n')}

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
