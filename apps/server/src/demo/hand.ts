import type { Point } from '@true-nib/core/math';
import type { PenSample } from '@true-nib/core/hand';

/** A hand that can shake: numbers in 0..1 from a seed. */
export type Random = () => number;

/** Places every `spacing` page px along a polyline, ends kept. */
export function walked(points: readonly Point[], spacing: number): Point[] {
  const way: Point[] = [points[0]];
  let left = spacing;
  for (let k = 1; k < points.length; k++) {
    const [a, b] = [points[k - 1], points[k]];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    let done = left;
    for (; done < length; done += spacing)
      way.push({ x: a.x + ((b.x - a.x) * done) / length, y: a.y + ((b.y - a.y) * done) / length });
    left = done - length;
  }
  way.push(points[points.length - 1]);
  return way;
}

/** A slow drift of about −1..1 along `count` steps: sums of a few sines with random phases. */
export function drift(count: number, waves: number, random: Random): number[] {
  const parts = [1, 1.7, 2.9].map((rate) => ({
    rate: rate * waves * Math.PI * 2,
    phase: random() * 7,
    size: 0.6 / rate,
  }));
  return Array.from({ length: count }, (_, k) =>
    parts.reduce((sum, { rate, phase, size }) => sum + size * Math.sin((rate * k) / count + phase), 0),
  );
}

/** What a pen would send for a confident stroke along `points`: tremor, uneven speed, and a swell of pressure. */
export function penSamples(points: readonly Point[], pressure: number, random: Random): PenSample[] {
  const way = walked(points, 5 + random() * 3);
  const sway = drift(way.length, Math.max(1, way.length / 60), random);
  const press = drift(way.length, 1.3, random);
  return way.map(({ x, y }, k) => {
    const along = way.length > 1 ? k / (way.length - 1) : 0;
    const landed = Math.min(1, 0.35 + along * 9, 0.2 + (1 - along) * 7);
    const ahead = way[Math.min(way.length - 1, k + 1)];
    const behind = way[Math.max(0, k - 1)];
    const speed = Math.hypot(ahead.x - behind.x, ahead.y - behind.y) || 1;
    const aside = sway[k] * 0.9 + (random() - 0.5) * 0.7;
    return {
      x: x - ((ahead.y - behind.y) / speed) * aside,
      y: y + ((ahead.x - behind.x) / speed) * aside,
      pressure: Math.min(1, Math.max(0.03, pressure * landed * (1 + 0.18 * press[k]))),
      time: k * 7,
    };
  });
}
