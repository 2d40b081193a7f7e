import { cross, dot, lengthOfVector, minus, scaled, squareTo, sum, unit, type Vector } from '../../math';
import { isOn, roots, segmentHits, type Blocker } from '../blocker';
import { readyFor } from '../ready';
import {
  generatorOf,
  hasAngle,
  placeAt,
  type Course,
  type Disc,
  type Face,
  type Mantle,
  type Solid,
  type Surface,
} from '../solid';
import type { Contact } from '../scene';
import { BOX } from '../tree';

// Where two blocks go through each other. Those that only touch have no line of their own there.

/** m by which a surface must reach to both sides of another one. */
const STRADDLE = 1e-5;
/** Steps round a mantle for a curve that has no closed form, and for finding where others begin and end. */
const STEPS = 180;

const met = new WeakMap<Solid, WeakMap<Solid, readonly Contact[]>>();

/** Where two solids go through each other. Kept for the pair as long as both stay as they are. */
export function contactsOf(a: Solid, b: Solid): readonly Contact[] {
  const known = met.get(a)?.get(b);
  if (known) return known;
  const [first, second] = [readyFor(a), readyFor(b)];
  const found: Contact[] = [];
  second.blockers.forEach((blocker, k) => {
    first.tree.inBox(second.boxes.subarray(BOX * k, BOX * (k + 1)), (item) => {
      for (const course of meeting(first.blockers[item], blocker)) found.push({ course, sides: [item, k] });
    });
  });
  const of = met.get(a) ?? new WeakMap<Solid, readonly Contact[]>();
  met.set(a, of);
  of.set(b, found);
  return found;
}

type Flat = Face | Disc;
const isFlat = (surface: Surface): surface is Flat => surface.kind === 'face' || surface.kind === 'disc';

function meeting(a: Blocker, b: Blocker): readonly Course[] {
  const [p, q] = [a.surface, b.surface];
  if (isFlat(p) && isFlat(q)) return planesMeet(a, p, b, q);
  if (isFlat(q)) return meeting(b, a);
  if (isFlat(p))
    return q.kind === 'ball'
      ? flatBall(a, p, b, q.centre, q.radius)
      : q.kind === 'mantle'
        ? flatMantle(a, p, b, q)
        : [];
  if (p.kind === 'mantle') return roundMantle(a, p, b);
  if (q.kind === 'mantle') return roundMantle(b, q, a);
  return p.kind === 'ball' && q.kind === 'ball' ? balls(p.centre, p.radius, q.centre, q.radius) : [];
}

const cornersOf = (surface: Flat): readonly Vector[] => {
  if (surface.kind === 'face') return surface.rings[0];
  const [u, v] = squareTo(surface.normal);
  const at = (x: number, y: number) =>
    sum(surface.centre, sum(scaled(u, x * surface.radius), scaled(v, y * surface.radius)));
  return Array.from({ length: 16 }, (_, k) => at(Math.cos((k * Math.PI) / 8), Math.sin((k * Math.PI) / 8)));
};

function straddles(surface: Flat, { normal }: Flat, offset: number): boolean {
  let [low, high] = [Infinity, -Infinity];
  for (const p of cornersOf(surface)) {
    const away = dot(normal, p) - offset;
    low = Math.min(low, away);
    high = Math.max(high, away);
  }
  return low < -STRADDLE && high > STRADDLE;
}

function planesMeet(a: Blocker, p: Flat, b: Blocker, q: Flat): readonly Course[] {
  const way = cross(p.normal, q.normal);
  const square = dot(way, way);
  if (square < 1e-12 || !straddles(p, q, b.offset) || !straddles(q, p, a.offset)) return [];
  // The place on both planes that is nearest to the origin.
  const on = scaled(sum(scaled(cross(q.normal, way), a.offset), scaled(cross(way, p.normal), b.offset)), 1 / square);
  const along = unit(way);
  const [first, second] = [withinFlat(p, on, along), withinFlat(q, on, along)];
  return first.flatMap(([low, high]) =>
    second.flatMap(([from, to]): Course[] => {
      const [s, t] = [Math.max(low, from), Math.min(high, to)];
      if (t - s < STRADDLE) return [];
      return [{ kind: 'segment', from: sum(on, scaled(along, s)), to: sum(on, scaled(along, t)) }];
    }),
  );
}

/** The stretches of a line in its plane that lie in a flat surface. */
function withinFlat(surface: Flat, on: Vector, along: Vector): (readonly [number, number])[] {
  if (surface.kind === 'disc') {
    const q = minus(on, surface.centre);
    const at = (radius: number) => roots(1, dot(along, q), dot(q, q) - radius * radius);
    const [outer, inner] = [at(surface.radius), surface.hole > 0 ? at(surface.hole) : []];
    if (outer.length < 2) return [];
    if (inner.length < 2) return [[outer[0], outer[1]]];
    return [
      [outer[0], inner[0]],
      [inner[1], outer[1]],
    ];
  }
  const side = cross(surface.normal, along);
  const at: number[] = [];
  for (const ring of surface.rings)
    ring.forEach((p, k) => {
      const q = ring[(k + 1) % ring.length];
      const [a, b] = [dot(side, minus(p, on)), dot(side, minus(q, on))];
      if (a > 0 === b > 0) return;
      const place = sum(p, scaled(minus(q, p), a / (a - b)));
      at.push(dot(along, minus(place, on)));
    });
  at.sort((x, y) => x - y);
  return Array.from({ length: at.length >> 1 }, (_, k) => [at[2 * k], at[2 * k + 1]] as const);
}

/** The stretches of a curve on which something holds. */
function stretchesOf(from: number, to: number, holds: (t: number) => boolean): (readonly [number, number])[] {
  const at = (k: number) => from + ((to - from) * k) / STEPS;
  const edge = (a: number, b: number) => {
    const first = holds(a);
    for (let pass = 0; pass < 48; pass++) {
      const middle = (a + b) / 2;
      if (holds(middle) === first) a = middle;
      else b = middle;
    }
    return first ? a : b;
  };
  const found: (readonly [number, number])[] = [];
  let begun = holds(from) ? from : undefined;
  for (let k = 1; k <= STEPS; k++) {
    const isIn = holds(at(k));
    if (isIn === (begun !== undefined)) continue;
    const t = edge(at(k - 1), at(k));
    if (begun === undefined) begun = t;
    else {
      found.push([begun, t]);
      begun = undefined;
    }
  }
  if (begun !== undefined) found.push([begun, to]);
  return found;
}

/** An ellipse in space, where it lies on both surfaces. */
function arcsOn(centre: Vector, u: Vector, v: Vector, holds: (p: Vector) => boolean): readonly Course[] {
  const whole: Course = { kind: 'arc', centre, u, v, from: 0, to: 2 * Math.PI };
  const found = stretchesOf(0, 2 * Math.PI, (t) => holds(placeAt(whole, t)));
  const [first, last] = [found[0], found[found.length - 1]];
  // A part that goes on over the start is one.
  if (found.length > 1 && first[0] === 0 && last[1] === 2 * Math.PI) {
    const one = [last[0], first[1] + 2 * Math.PI] as const;
    return [...found.slice(1, -1), one].map(([from, to]) => ({ ...whole, from, to }));
  }
  return found.map(([from, to]) => ({ ...whole, from, to }));
}

function flatBall(flat: Blocker, { normal }: Flat, _ball: Blocker, centre: Vector, radius: number): readonly Course[] {
  const away = dot(normal, centre) - flat.offset;
  if (Math.abs(away) > radius - STRADDLE) return [];
  const cut = Math.sqrt(radius * radius - away * away);
  const [u, v] = squareTo(normal);
  return arcsOn(sum(centre, scaled(normal, -away)), scaled(u, cut), scaled(v, cut), (p) => isOn(flat, p));
}

function balls(a: Vector, r: number, b: Vector, s: number): readonly Course[] {
  const way = minus(b, a);
  const away = lengthOfVector(way);
  if (away < STRADDLE || away > r + s - STRADDLE || away < Math.abs(r - s) + STRADDLE) return [];
  const along = (away * away + r * r - s * s) / (2 * away);
  const axis = scaled(way, 1 / away);
  const cut = Math.sqrt(r * r - along * along);
  const [u, v] = squareTo(axis);
  return arcsOn(sum(a, scaled(axis, along)), scaled(u, cut), scaled(v, cut), () => true);
}

/** A place of a mantle that is none of its rims. */
function withinMantle({ foot, axis, height }: Mantle, p: Vector): boolean {
  const h = dot(axis, minus(p, foot));
  return h > STRADDLE && h < height - STRADDLE;
}

function flatMantle(flat: Blocker, { normal }: Flat, round: Blocker, mantle: Mantle): readonly Course[] {
  const { foot, axis, u, v, radius, top, height } = mantle;
  const along = dot(normal, axis);
  const on = (p: Vector) => withinMantle(mantle, p) && isOn(round, p) && isOn(flat, p);
  if (Math.abs(radius - top) < 1e-12 && Math.abs(along) < 1e-9) {
    // A cylinder cut along its axis: two of its generators.
    const rest = (flat.offset - dot(normal, foot)) / radius;
    const [a, b] = [dot(normal, u), dot(normal, v)];
    const size = Math.hypot(a, b);
    if (Math.abs(rest) > size * (1 - 1e-6)) return [];
    const [middle, half] = [Math.atan2(b, a), Math.acos(rest / size)];
    return [middle - half, middle + half].flatMap((angle) => generatorOn(flat, mantle, angle));
  }
  if (Math.abs(radius - top) < 1e-12) {
    const leaning = (way: Vector) => sum(scaled(way, radius), scaled(axis, (-radius * dot(normal, way)) / along));
    const centre = sum(foot, scaled(axis, (flat.offset - dot(normal, foot)) / along));
    return arcsOn(centre, leaning(u), leaning(v), on);
  }
  if (Math.abs(Math.abs(along) - 1) < 1e-12) {
    const h = (flat.offset - dot(normal, foot)) / along;
    const cut = radius + ((top - radius) * h) / height;
    return cut > STRADDLE ? arcsOn(sum(foot, scaled(axis, h)), scaled(u, cut), scaled(v, cut), on) : [];
  }
  return roundMantle(round, mantle, flat);
}

/** The part of a generator that lies in a flat surface whose plane it lies in. */
function generatorOn(flat: Blocker, mantle: Mantle, angle: number): readonly Course[] {
  if (!isFlat(flat.surface)) return [];
  if (mantle.range) {
    const turns = Math.ceil((mantle.range[0] - angle) / (2 * Math.PI));
    if (!hasAngle(mantle, angle + turns * 2 * Math.PI)) return [];
  }
  const [from, to] = generatorOf(mantle, angle);
  const long = lengthOfVector(minus(to, from));
  const along = scaled(minus(to, from), 1 / long);
  return withinFlat(flat.surface, from, along).flatMap(([low, high]): Course[] => {
    const [s, t] = [Math.max(0, low), Math.min(long, high)];
    return t - s > STRADDLE
      ? [{ kind: 'segment', from: sum(from, scaled(along, s)), to: sum(from, scaled(along, t)) }]
      : [];
  });
}

/** Where the generators of a mantle meet another surface, as chains: the first meeting of each, and the second. */
function roundMantle(round: Blocker, mantle: Mantle, other: Blocker): readonly Course[] {
  const [from, to] = mantle.range ?? [0, 2 * Math.PI];
  const hitsAt = (angle: number): readonly Vector[] => {
    const [foot, top] = generatorOf(mantle, angle);
    return segmentHits(other, foot, top).flatMap((t): Vector[] => {
      const p = sum(foot, scaled(minus(top, foot), t));
      return withinMantle(mantle, p) && isOn(round, p) ? [p] : [];
    });
  };
  const counts = [0, 1];
  return counts.flatMap((branch) =>
    stretchesOf(from, to, (angle) => hitsAt(angle).length > branch).flatMap(([low, high]): Course[] => {
      const steps = Math.max(4, Math.ceil(((high - low) / (to - from)) * STEPS));
      const points: Vector[] = [];
      for (let k = 0; k <= steps; k++) {
        const p = hitsAt(low + ((high - low) * k) / steps)[branch];
        const before = points[points.length - 1];
        if (p && (!before || lengthOfVector(minus(p, before)) > 1e-9)) points.push(p);
      }
      return points.length > 1 ? [{ kind: 'chain', points }] : [];
    }),
  );
}
