import type { Area, AreaFill } from '@true-nib/core/area';
import type { Point } from '@true-nib/core/math';
import { ellipseSpine, rectSpine } from '@true-nib/core/shapes';
import { BLACK, curved, filled, NICK, sliver, type Blacks } from './blacks';
import { HALVES, heronMask, IRIS, MIDDLE } from './heronMask';
import { Sketch, smooth } from './sketch';
import type { PageSize } from '@true-nib/core/page';

export type Side = 1 | -1;
export type Half = readonly (readonly [number, number])[];

const COLOURS = {
  ground: '#2e4a54',
  face: '#dfe3db',
  beak: '#e0b15e',
  eye: '#f6f1dc',
  iris: '#d9792b',
  plume: '#8fa9b2',
  wing: '#aebfc4',
} as const;

/** *The heron mask* with all its lines inked; cords and construction left out. */
export function heronInked(): Sketch {
  const sketch = new Sketch();
  for (const mark of heronMask().marks) if (mark.as === 'pencil') sketch.add(mark.points, { ...mark, as: 'ink' });
  return sketch;
}

/** Its flats, under the inks. */
export function heronFlats({ width, height }: PageSize): Blacks {
  const flat = (color: string): AreaFill => ({ as: 'colour', color });
  const both = (shape: (side: Side) => Area) => [shape(1), shape(-1)];
  const head = [...way(HALVES.BROW), ...way(HALVES.CHEEK), ...way(HALVES.JAW)];
  const areas = [
    filled([rectSpine({ x: -60, y: -60 }, { x: width + 60, y: height + 60 })], flat(COLOURS.ground)),
    ...both((side) => curved(across(side, between(HALVES.PLUME_OUT, HALVES.PLUME_IN)), flat(COLOURS.plume))),
    ...both((side) => curved(across(side, between(HALVES.WING_OUT, HALVES.WING_IN)), flat(COLOURS.wing))),
    curved(mirroredRound(way(HALVES.CREST)), flat(COLOURS.plume)),
    ...both((side) => curved(across(side, between(HALVES.STRIPE_ABOVE, HALVES.STRIPE_BELOW)), flat(COLOURS.wing))),
    curved(mirroredRound(head), flat(COLOURS.face)),
    curved(mirroredRound(way(HALVES.BEAK)), flat(COLOURS.beak)),
    ...both((side) => curved(across(side, way(HALVES.EYE)), flat(COLOURS.eye))),
    ...both((side) => filled([iris(side, IRIS.r)], flat(COLOURS.iris))),
  ];
  return { name: 'Flats', at: 'below', things: areas };
}

/** Its blacks, over the inks: the stripe, the pupils and the shadow of the beak, with lights nicked out of them. */
export function heronBlacks(): Blacks {
  const both = (shapes: (side: Side) => readonly Area[]) => [...shapes(1), ...shapes(-1)];
  const areas = both((side) => [
    // The dark stripe from the eye back to its tip.
    curved(across(side, between(HALVES.STRIPE_ABOVE.slice(3), HALVES.STRIPE_BELOW)), BLACK),
    ...feathers(side, HALVES.STRIPE_ABOVE.slice(3), HALVES.STRIPE_BELOW, 9),
    // The hollow of the plumes, and their shafts.
    curved(across(side, between(HALVES.PLUME_OUT, thinned(HALVES.PLUME_OUT, HALVES.PLUME_IN, 0.62))), BLACK),
    ...feathers(side, HALVES.PLUME_OUT, thinned(HALVES.PLUME_OUT, HALVES.PLUME_IN, 0.62), 6),
    curved(across(side, between(thinned(HALVES.WING_OUT, HALVES.WING_IN, 0.42), HALVES.WING_IN)), BLACK),
    ...feathers(side, thinned(HALVES.WING_OUT, HALVES.WING_IN, 0.42), HALVES.WING_IN, 7),
    // The side of the head under the stripe.
    curved(across(side, between(HALVES.CHEEK, SHADE)), BLACK),
    ...feathers(side, HALVES.CHEEK, SHADE, 12),
    filled([iris(side, 40)], BLACK),
    filled([ellipseSpine({ centre: at(side, [IRIS.x - 16, IRIS.y - 16]), rx: 13, ry: 13 })], NICK),
  ]);
  areas.push(
    curved(across(1, between(HALVES.BEAK, RIDGE)), BLACK),
    ...feathers(1, HALVES.BEAK.slice(1, 5), RIDGE.slice(1, 5), 10),
  );
  return { name: 'Blacks', at: 'above', things: areas };
}

/** Where the shadow of the cheek ends, and that of the beak. */
export const SHADE: Half = [
  [720, 940],
  [690, 1110],
  [590, 1270],
  [470, 1380],
  [330, 1500],
  [250, 1720],
];
const RIDGE: Half = [
  [0, 1220],
  [50, 1330],
  [84, 1490],
  [88, 1760],
  [54, 2140],
  [0, 2640],
];

const at = (side: Side, [x, y]: readonly [number, number]): Point => ({ x: MIDDLE + side * x, y });
const iris = (side: Side, r: number) => ellipseSpine({ centre: at(side, [IRIS.x, IRIS.y]), rx: r, ry: r });

/** A smooth way through places, from the middle outward. */
export const way = (half: Half): Point[] => smooth(half.map(([x, y]) => ({ x, y })));

/** The same on one side of the page. */
export const across = (side: Side, places: readonly Point[]): Point[] =>
  places.map(({ x, y }) => ({ x: MIDDLE + side * x, y }));

export const between = (one: Half, other: Half): Point[] => [...way(one), ...way(other).reverse()];

const mirroredRound = (places: readonly Point[]): Point[] => [...across(1, places), ...across(-1, places.toReversed())];

/** A way that runs at a share of the room between two. */
export function thinned(one: Half, other: Half, share: number): Half {
  const [a, b] = [way(one), way(other)];
  return Array.from({ length: 9 }, (_, k) => {
    const [p, q] = [a, b].map((places) => places[Math.round((k * (places.length - 1)) / 8)]);
    return [p.x + (q.x - p.x) * share, p.y + (q.y - p.y) * share] as const;
  });
}

/** Lights that are nicked in from the one edge of a black towards the other, like barbs of a feather. */
function feathers(side: Side, edge: Half, other: Half, count: number): Area[] {
  const [a, b] = [across(side, way(edge)), across(side, way(other))];
  const on = (places: readonly Point[], t: number): Point => places[Math.round(t * (places.length - 1))];
  return Array.from({ length: count }, (_, k) => {
    const t = 0.12 + (0.76 * k) / (count - 1);
    const [from, to] = [on(b, Math.min(1, t + 0.05)), on(a, t)];
    const reach = 0.45 + 0.25 * Math.abs(Math.sin(2.4 * k));
    const tip = { x: from.x + (to.x - from.x) * reach, y: from.y + (to.y - from.y) * reach };
    const start = { x: from.x - (to.x - from.x) * 0.08, y: from.y - (to.y - from.y) * 0.08 };
    return sliver(start, tip, Math.min(16, 0.16 * Math.hypot(to.x - from.x, to.y - from.y) + 4), NICK, 0.15);
  });
}
