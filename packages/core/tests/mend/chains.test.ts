import {
  bendSegment,
  cornerNode,
  endOf,
  handleAt,
  insertNode,
  isSmooth,
  moveHandle,
  moveNode,
  nodeCount,
  placeOf,
  setNodeWidth,
  smoothNode,
  type Spine,
} from '../../src/curve';
import { drawnToSvg } from '../../src/formats';
import { drawStroke, outlineOf } from '../../src/ink';
import { seededRandom, type Point } from '../../src/math';
import {
  brokenAt,
  cutByLoop,
  editedCourse,
  editedWeight,
  removeNodes,
  retrace,
  reversed,
  reweigh,
  rubStroke,
  snip,
  tug,
  weighed,
  withNib,
} from '../../src/mend';
import { applyChange, checkEntity, draftChange, newPage, ofKind, type Edit } from '../../src/page';
import { pack, unpackEntity } from '../../src/wire';
import { PageError, sameValue } from '../../src/gate';
import type { StrokeEntity } from '../../src/stroke';
import { nibAt, SHIPPED_NIBS } from '../../src/rack';
import { mapped } from '../../src/drawn';
import { homographyBetween } from '../../src/select';
import { asBlot, drawn, linesIn } from '../hands';
import { planned } from './lines';

// Lines that have gone through anything, one deed after the other, with every nib that ships: they still fit the page that they
// came from, the gate takes them as they are, and they have an outline. CHAINS=300 looks at more of them.

const CHAINS = Number(process.env.CHAINS ?? 6);
const STEPS = 25;
const SIDE = 600;

const NIBS = SHIPPED_NIBS.map((one) => nibAt(one, 300, '#ffffff'));
const CALMS = [{ way: 'raw' }, { way: 'even', strength: 50 }, { way: 'tow', strength: 30, lag: 40 }] as const;

type Random = () => number;
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)];
const place = (random: Random): Point => ({ x: random() * SIDE, y: random() * SIDE });
const around = (random: Random, far: number): Point => ({ x: far * (2 * random() - 1), y: far * (2 * random() - 1) });

let ids = 0;
const newId = () => `line-${++ids}`;

/** A bowed way of some places. */
function way(random: Random): Point[] {
  const [a, b, c] = [place(random), place(random), place(random)];
  const count = 2 + Math.floor(random() * 40);
  return Array.from({ length: count }, (_, k) => {
    const t = k / (count - 1);
    const at = (axis: 'x' | 'y') => (1 - t) ** 2 * a[axis] + 2 * t * (1 - t) * b[axis] + t * t * c[axis];
    return { x: at('x'), y: at('y') };
  });
}

function drawnLine(random: Random): StrokeEntity {
  const places = way(random);
  const samples = drawn(
    (t) => {
      const { x, y } = places[Math.round(t * (places.length - 1))];
      return [x, y];
    },
    { count: places.length, tremor: 2 * random(), seed: ids, pressure: (t) => 0.1 + 0.9 * Math.sin(3 * t) ** 2 },
  );
  const stroke = drawStroke(samples, pick(random, NIBS), pick(random, CALMS), { seed: ids });
  return { ...stroke, kind: 'stroke', id: newId(), layerId: pick(random, ['front', 'back']), order: 'a0' };
}

type Deed = (one: StrokeEntity, lines: readonly StrokeEntity[], random: Random) => readonly Edit[];

const becomes = (before: StrokeEntity, after: StrokeEntity): Edit[] => [{ before, after }];
const goes = (before: StrokeEntity, spine: Spine): Edit[] => becomes(before, editedCourse(before, spine));
const falls = (before: StrokeEntity, pieces: readonly StrokeEntity[] | undefined): Edit[] =>
  pieces
    ? [{ before, after: null }, ...pieces.map((piece): Edit => ({ before: null, after: { ...piece, id: newId() } }))]
    : [];

/** One of the deeds on a node, or on the line between two. */
function bent({ spine }: StrokeEntity, random: Random): Spine {
  const node = Math.floor(random() * nodeCount(spine));
  const between = placeOf(spine, random() * endOf(spine));
  const side = pick(random, ['in', 'out'] as const);
  const deeds = [
    () => moveNode(spine, node, place(random)),
    () => (handleAt(spine, node, side) ? moveHandle(spine, node, side, place(random), random() < 0.5) : spine),
    () => (isSmooth(spine, node) ? cornerNode(spine, node) : smoothNode(spine, node)),
    () => insertNode(spine, between),
    () => (nodeCount(spine) > 3 ? removeNodes(spine, new Set([node])) : spine),
    () => bendSegment(spine, between, place(random)),
  ];
  return pick(random, deeds)();
}

const DEEDS: Readonly<Record<string, Deed>> = {
  tidy: (_one, lines, random) =>
    planned(lines, { deed: 'tidy', overshoot: 120 * random(), gap: 40 * random(), exceptions: [] }, newId),
  ease: (_one, lines, random) =>
    planned(lines, { deed: 'ease', tolerance: 0.05 + 8 * random(), specks: 30 * random(), exceptions: [] }, newId),
  bridge: (_one, lines, random) =>
    planned(lines, { deed: 'bridge', gap: 120 * random(), angle: 3 * random(), exceptions: [] }, newId),
  pool: (_one, lines, random) =>
    planned(lines, { deed: 'pool', radius: 1 + 60 * random(), strength: random(), angle: 3 * random() }, newId),
  clean: (_one, lines) => planned(lines, { deed: 'clean', frontId: 'front' }, newId),
  snip: (_one, lines, random) => snip(lines, way(random), { reach: 20 * random(), gap: 5 * random(), newId }),
  rub: (one, _lines, random) => falls(one, rubStroke(one, way(random), 40 * random(), 0.5 + random())),
  knife: (one, _lines, random) => falls(one, cutByLoop(one, way(random), { outside: random() < 0.3 })),
  split: (one, _lines, random) => (one.fills ? [] : falls(one, brokenAt(one, random() * endOf(one.spine)))),
  reverse: (one) => becomes(one, reversed(one)),
  nib: (one, _lines, random) => becomes(one, withNib(one, pick(random, NIBS))),
  times: (one, _lines, random) => becomes(one, weighed(one, { deed: 'times', factor: 10 ** (2 * random() - 1) })),
  width: (one, _lines, random) => becomes(one, weighed(one, { deed: 'width', width: 0.1 + 60 * random() })),
  taper: (one, _lines, random) => becomes(one, weighed(one, { deed: 'taper', length: SIDE * random() })),
  profile: (one, _lines, random) =>
    becomes(
      one,
      weighed(one, { deed: 'profile', profile: pick(random, ['in', 'out', 'lens', undefined]), width: 40 * random() }),
    ),
  reweigh: (one, _lines, random) => {
    const hand = drawn(() => [SIDE * random(), SIDE * random()], { count: 12 });
    return one.fills ? [] : becomes(one, editedWeight(one, reweigh(one.spine, hand, one.nib, 60)));
  },
  nodeWidth: (one, _lines, random) =>
    becomes(
      one,
      editedWeight(one, setNodeWidth(one.spine, Math.floor(random() * nodeCount(one.spine)), 90 * random())),
    ),
  tug: (one, _lines, random) => {
    const reach = { radius: 1 + 300 * random(), falloff: random(), isPinned: random() < 0.5 };
    return goes(one, tug(one.spine, random() * endOf(one.spine), around(random, 100), reach));
  },
  retrace: (one, _lines, random) => {
    const found = one.fills ? undefined : retrace(one.spine, way(random), 80);
    return found ? goes(one, found.spine) : [];
  },
  blot: (one) => (one.fills ? [] : falls(one, [asBlot(one)])),
  bend: (one, _lines, random) => goes(one, bent(one, random)),
  transform: (one, _lines, random) => {
    const quad = (far: number) =>
      ([0, 0, SIDE, 0, SIDE, SIDE, 0, SIDE] as const).flatMap((x, k, all) => {
        const by = around(random, far);
        return k % 2 === 0 ? [{ x: x + by.x, y: all[k + 1] + by.y }] : [];
      }) as [Point, Point, Point, Point];
    const map = homographyBetween(quad(0), quad(150));
    return mapped([one], map, { scaleWidth: random() < 0.5 }).flatMap((after) => becomes(one, after));
  },
  paste: (one) =>
    falls(
      one,
      linesIn(drawnToSvg([one]), one.nib).map((stroke) => ({
        ...stroke,
        id: one.id,
        layerId: one.layerId,
        order: one.order,
      })),
    ),
};

it.each(Array.from({ length: CHAINS }, (_, k) => k + 1))('lines are lines whatever was done to them (%i)', (seed) => {
  const random = seededRandom(seed);
  let page = newPage({ width: SIDE, height: SIDE, ppi: 300 });
  const did: string[] = [];
  for (let k = 0; k < STEPS; k++) {
    const there = ofKind(page, 'stroke');
    if (there.length < 5) {
      page = applyChange(page, draftChange('draw', [{ before: null, after: drawnLine(random) }]));
      continue;
    }
    const name = pick(random, Object.keys(DEEDS));
    did.push(name);
    let edits: readonly Edit[] = [];
    try {
      edits = DEEDS[name](pick(random, there), there.slice(0, 12), random);
    } catch (error) {
      // A deed may say no, in a sentence.
      if (!(error instanceof PageError)) throw new Error(`After ${did.join(', ')}`, { cause: error });
    }
    page = applyChange(page, draftChange(name, edits));
    for (const { after } of edits) {
      if (after?.kind !== 'stroke') continue;
      const isTaken = sameValue(checkEntity(unpackEntity(pack(after))), after);
      const isInked = outlineOf(after).rings.every((ring) => ring.every(Number.isFinite));
      expect({ did, isTaken, isInked }).toMatchObject({ isTaken: true, isInked: true });
    }
  }
});
