import { flatRing, isInArea, type Area, type AreaEntity, type Pour } from '../area';
import { flattenSpine, mapSpine, projectSpine, STRIDE, type Spine } from '../curve';
import { PageError } from '../gate';
import {
  affineOf,
  apply,
  applyProjective,
  boxesMeet,
  boxOfFlat,
  boxOfPoints,
  emptyBox,
  growBox,
  isAffine,
  legsApart,
  uniteBoxes,
  type Box,
  type Matrix3x3,
  type Point,
} from '../math';
import { isKeepable } from '../stroke';
import type { Drawn } from './drawn';
import { sideOf } from './horizon';
import { affineAbout, mappedFill } from './mapFill';
import { areaShape } from './areaShape';
import type { Mark } from './mark';
import { toneMark } from './toneMark';

/** How far a mapped ring may stray from the mapped course, page px. */
const TOLERANCE = 0.2;

/** How an area is drawn and handled. */
export const drawnArea: Drawn<AreaEntity> = {
  marks: areaMarks,
  bounds: ({ poured, fill }) => !poured && (fill.as === 'colour' || fill.as === 'nothing'),
  box: areaBox,
  ways: ({ rings }, tolerance) => rings.map((ring) => ({ points: flattenSpine(ring, tolerance), stride: STRIDE })),
  hold: areaBox,
  gap: gapToArea,
  map: mappedArea,
  colour: ({ fill }) => ('color' in fill ? fill.color : undefined),
  coloured: (area, color) => ('color' in area.fill ? { ...area, fill: { ...area.fill, color } } : area),
  bare: ({ kind, id, layerId, order, rings, fill }) => ({ kind, id, layerId, order, rings, fill }),
};

const marked = new WeakMap<Area, readonly Mark[]>();

/** What an area lays on the paper; its colour and its rings stand apart, so that a new colour makes no new path. */
export function areaMarks(area: Area): readonly Mark[] {
  let marks = marked.get(area);
  if (!marks) marked.set(area, (marks = marksFor(area)));
  return marks;
}

function marksFor(area: Area): readonly Mark[] {
  const shape = areaShape(area);
  const { fill } = area;
  switch (fill.as) {
    case 'nothing':
      return [{ ...shape, color: '#000000', opacity: 1, cuts: true }];
    case 'colour':
      return [{ ...shape, color: fill.color, opacity: fill.opacity ?? 1 }];
    case 'gradient':
      return [{ ...shape, color: fill.stops[0].color, opacity: 1, shade: fill }];
    case 'tone':
      return [toneMark(area, fill, areaBox(area))];
  }
}

const boxes = new WeakMap<readonly Spine[], Box>();

function areaBox({ rings }: Area): Box {
  let box = boxes.get(rings);
  if (!box) {
    box = rings.reduce((all, { points }) => uniteBoxes(all, boxOfFlat(points, STRIDE)), emptyBox);
    boxes.set(rings, box);
  }
  return box;
}

function gapToArea(area: Area, from: Point, to: Point, reach: number): number {
  const way = boxOfPoints([from, to]);
  if (!boxesMeet(areaBox(area), growBox(way, reach))) return Infinity;
  if (isInArea(area, from)) return 0;
  let least = Infinity;
  for (const spine of area.rings) {
    const ring = flatRing(spine);
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      least = Math.min(least, legsApart(ring[j], ring[j + 1], ring[i], ring[i + 1], from.x, from.y, to.x, to.y));
  }
  return least <= reach * reach ? Math.sqrt(least) : Infinity;
}

/** An area under a map of the page. Throws a PageError for a map that takes it over its horizon, or too far off the page. */
function mappedArea(area: AreaEntity, map: Matrix3x3): AreaEntity {
  const rings = area.rings.map((ring) => {
    if (isAffine(map)) return mapSpine(ring, affineOf(map));
    sideOf(ring, map);
    return projectSpine(ring, map, { tolerance: TOLERANCE });
  });
  if (!rings.every(isKeepable)) throw new PageError('Some areas would lie too far off the page.');
  const { poured, fill, ...rest } = area;
  const at = poured && (isAffine(map) ? apply(affineOf(map), poured) : applyProjective(map, poured.x, poured.y));
  const moved: Pour | undefined = poured && at && { ...poured, x: at.x, y: at.y };
  return { ...rest, rings, fill: mappedFill(fill, affineAbout(map, areaBox(area))), ...(moved && { poured: moved }) };
}
