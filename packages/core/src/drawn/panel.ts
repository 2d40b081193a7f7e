import { flatRing } from '../area';
import { flattenSpine, mapSpine, projectSpine, SEGMENT, segmentCount, STRIDE } from '../curve';
import { PageError, sameValue } from '../gate';
import { outlineOf } from '../ink';
import {
  affineOf,
  boxOfFlat,
  growBox,
  grownRings,
  isAffine,
  localScaleOf,
  reversedRing,
  slopeAt,
  uniteBoxes,
  withoutRings,
  type Box,
  type Matrix3x3,
} from '../math';
import {
  asPanelRing,
  borderStrokes,
  gapStrokes,
  type BorderGap,
  type Panel,
  type PanelBorder,
  type PanelEntity,
} from '../panel';
import { isKeepable, mapNib } from '../stroke';
import type { Drawn, MapOptions } from './drawn';
import { gapToStroke } from './gap';
import { sideOf } from './horizon';
import type { Mark } from './mark';
import { strokeMarks } from './stroke';

/** How far a mapped ring may stray from the mapped course, page px. */
const TOLERANCE = 0.2;

/** How a panel is drawn and handled: what is seen of it is its border. What it hides, and what shows only in it, says `framed`. */
export const drawnPanel: Drawn<PanelEntity> = {
  frames: true,
  marks: panelMarks,
  bounds: () => true,
  box: panelBox,
  changed: changedSides,
  reach: ({ border }) => (border ? border.nib.size / 2 : 0),
  ways: ({ ring }, tolerance) => [{ points: flattenSpine(ring, tolerance), stride: STRIDE }],
  hold: ({ ring }) => boxOfFlat(ring.points, STRIDE),
  gap: (panel, from, to, reach) =>
    borderStrokes(panel).reduce((least, stroke) => Math.min(least, gapToStroke(stroke, from, to, reach)), Infinity),
  map: mappedPanel,
  colour: ({ border }) => border?.nib.color,
  coloured: ({ border, ...panel }, color) =>
    border ? { ...panel, border: { ...border, nib: { ...border.nib, color } } } : panel,
  bare: ({ kind, id, layerId, order, ring, border, gutter }) => ({
    ...{ kind, id, layerId, order, ring },
    ...(border && { border }),
    ...(gutter !== undefined && { gutter }),
  }),
};

const marked = new WeakMap<Panel, readonly Mark[]>();

function panelMarks(panel: Panel): readonly Mark[] {
  let marks = marked.get(panel);
  if (!marks) marked.set(panel, (marks = marksFor(panel)));
  return marks;
}

function marksFor(panel: Panel): readonly Mark[] {
  const { border } = panel;
  if (!border) return [];
  const { nib } = border;
  // A plain border has sharp corners; a line that turns has round ones.
  return nib.tip || nib.edge ? borderStrokes(panel).flatMap(strokeMarks) : [bandMark(panel, border)];
}

const bandMark = (panel: Panel, { nib: { size, color, opacity = 1 }, gaps }: PanelBorder): Mark => ({
  of: [panel.ring, size, gaps],
  rule: 'nonzero',
  rings: (tolerance) => {
    const course = [flatRing(panel.ring, tolerance)];
    const within = grownRings(course, -size / 2, 'sharp').map(reversedRing);
    const band = [...grownRings(course, size / 2, 'sharp'), ...within];
    if (!gaps?.length) return band;
    return withoutRings(
      band,
      gapStrokes(panel).flatMap((stroke) => outlineOf(stroke, tolerance).rings),
    );
  },
  color,
  opacity,
});

const boxes = new WeakMap<Panel, Box>();

/** All of a panel, and not its border alone: what shows in it changes with it. */
function panelBox(panel: Panel): Box {
  let box = boxes.get(panel);
  if (!box) boxes.set(panel, (box = growBox(boxOfFlat(panel.ring.points, STRIDE), outsideOf(panel))));
  return box;
}

/**
 * Where a panel differs from what it was, and what shows in it with it: where a side that is another one has passed over the page. All of
 * both where more is another than some sides.
 */
function changedSides(before: PanelEntity, after: PanelEntity): readonly Box[] {
  const { ring: from, ...rest } = before;
  const { ring: to, ...same } = after;
  if (from.points.length !== to.points.length || !sameValue(rest, same)) return [panelBox(before), panelBox(after)];
  const reach = outsideOf(after);
  const boxes: Box[] = [];
  for (let i = 0; i + SEGMENT < to.points.length; i += SEGMENT) {
    const [was, is] = [from, to].map(({ points }) => points.subarray(i, i + SEGMENT + STRIDE));
    if (was.some((value, k) => value !== is[k]))
      boxes.push(growBox(uniteBoxes(boxOfFlat(was, STRIDE), boxOfFlat(is, STRIDE)), reach));
  }
  return boxes;
}

/** How far a panel reaches beyond its ring, page px. */
const outsideOf = ({ border, gutter = 0 }: Panel): number => Math.max(gutter, CORNER * ((border?.nib.size ?? 0) / 2));

/** How many times as far out a sharp corner may reach as the border is wide on that side. */
const CORNER = 4;

/** A panel under a map of the page. Throws a PageError for one that takes it over its horizon, or too far off the page. */
function mappedPanel(panel: PanelEntity, map: Matrix3x3, { scaleWidth }: MapOptions): PanelEntity {
  const affine = isAffine(map) ? affineOf(map) : undefined;
  if (!affine) sideOf(panel.ring, map);
  const moved = affine ? mapSpine(panel.ring, affine) : projectSpine(panel.ring, map, { tolerance: TOLERANCE });
  if (!isKeepable(moved)) throw new PageError('Some panels would lie too far off the page.');
  const [x, y] = panel.ring.points;
  const factor = scaleWidth ? localScaleOf(map, x, y) : 1;
  const { border, gutter } = panel;
  return {
    ...panel,
    ring: asPanelRing(moved),
    ...(border && { border: mappedBorder(border, { factor, slope: slopeAt(map, x, y), sides: segmentCount(moved) }) }),
    ...(gutter !== undefined && { gutter: gutter * factor }),
  };
}

interface BorderMap {
  readonly factor: number;
  readonly slope: ReturnType<typeof slopeAt>;
  /** How many sides the panel has under the map. */
  readonly sides: number;
}

function mappedBorder({ nib, gaps }: PanelBorder, { factor, slope, sides }: BorderMap): PanelBorder {
  const [xx, yx, xy, yy] = slope;
  // A ring that is mirrored goes round the other way.
  const isMirrored = xx * yy - xy * yx < 0;
  const turned = ({ side, from, to }: BorderGap): BorderGap =>
    isMirrored ? { side: sides - 1 - side, from: 1 - to, to: 1 - from } : { side, from, to };
  // Sides that a pull in perspective had to part are others.
  const kept = gaps?.every(({ side }) => side < sides) ? gaps.map(turned) : undefined;
  return { nib: mapNib(nib, factor, slope), ...(kept && { gaps: kept }) };
}
