import { boxesMeet, growBox, invert, mapBox, scaleOf, then, type Box, type Matrix } from '@true-nib/core/math';
import type { EntityId } from '@true-nib/core/kind';
import type { LayerEntity, StackNode } from '@true-nib/core/page';
import { marksAt, type Mark } from '@true-nib/core/drawn';
import { paintMarks, paintTolerance, pathOf, type Context2D, type PathSource } from './inkPaint';
import type { InkIndex } from './inkIndex';
import { paintTiles } from './washPaint';

/** Half covered and more is ink, less is none. */
const HALF = 128;

/**
 * Paints the inks of the stack, lowest first, into whole device px `box` of a context; `map` takes page px to device px.
 * Layers and groups that are faded, hard-edged or partly cleared are put together on a ground of their own first.
 */
export function paintStack(
  context: Context2D,
  index: InkIndex,
  map: Matrix,
  box: Box,
  { aboveRank = -1, pathFor = pathOf, known, inHand, isFine = false }: PaintedPart = {},
): void {
  const seen = seenIn(map, box);
  const marks = known ?? marksWithin(index, seen, aboveRank);
  if (marks.size > 0 || !index.wash.isEmpty || inHand)
    paintNodes(context, { index, marks, seen, aboveRank, pathFor, inHand, isFine }, index.stack, map, box);
}

const seenIn = (map: Matrix, box: Box): Box => growBox(mapBox(invert(map), box), 2 / scaleOf(map));

/** What lies on the paper, by layers, lowest first. */
type MarksByLayer = ReadonlyMap<EntityId, readonly Mark[]>;

const marksWithin = (index: InkIndex, seen: Box, aboveRank?: number): MarksByLayer =>
  new Map([...index.within(seen, aboveRank)].map(([layerId, drawn]) => [layerId, index.marks(drawn)]));

/** What painting a box takes, if its paths can all be made until a time, ms. */
export function readyIn(index: InkIndex, map: Matrix, box: Box, until: number): MarksByLayer | undefined {
  const scale = scaleOf(map);
  const tolerance = paintTolerance(scale);
  const seen = seenIn(map, box);
  const laid = marksWithin(index, seen);
  for (const marks of laid.values())
    for (const mark of marksAt(marks, scale)) {
      if (mark.box && !boxesMeet(mark.box, seen)) continue;
      pathOf(mark, tolerance);
      if (mark.clip) pathOf(mark.clip, tolerance);
      if (performance.now() > until) return undefined;
    }
  return laid;
}

/** What is being drawn, as a part of its layer that nobody has yet. */
export interface InHand {
  readonly layerId: EntityId;
  /** Lays it on a context under a map from page px to the context's. */
  readonly lay: (context: Context2D, map: Matrix) => void;
  /** It takes away what lies under it on its layer. */
  readonly cuts?: boolean;
}

interface PaintedPart {
  /** Only layers that are painted after this one. */
  readonly aboveRank?: number;
  readonly pathFor?: PathSource;
  /** What lies in the box, where that is known. */
  readonly known?: MarksByLayer;
  /** What is painted on top of its layer besides. */
  readonly inHand?: InHand | undefined;
  /** Dots are dots at any scale, and never the grey that stands for them. */
  readonly isFine?: boolean | undefined;
}

interface Painted extends Required<Pick<PaintedPart, 'aboveRank' | 'pathFor' | 'isFine'>>, Pick<PaintedPart, 'inHand'> {
  readonly index: InkIndex;
  readonly marks: MarksByLayer;
  /** What is to be painted, page px. */
  readonly seen: Box;
}

function paintNodes(context: Context2D, what: Painted, nodes: readonly StackNode[], map: Matrix, box: Box): void {
  for (const { layer, children } of nodes) {
    const own = what.marks.get(layer.id) ?? [];
    const tiles = layer.medium === 'wash' ? tilesOf(what, layer) : [];
    const inHand = what.inHand?.layerId === layer.id ? what.inHand : undefined;
    if (own.length === 0 && tiles.length === 0 && children.length === 0 && !inHand) continue;
    const paint = (target: Context2D, to: Matrix, within: Box) => {
      if (layer.medium === 'wash') paintWash(target, what.index, layer, { tiles, marks: own }, to);
      else paintMarks(target, own, to, what.pathFor, scale);
      inHand?.lay(target, to);
      if (children.length > 0) paintNodes(target, what, children, to, within);
    };
    const hard = own.length > 0 && layer.style?.edge === 'hard' ? colourOf(own) : undefined;
    // Half covered is ink or none: a grey that stands for dots would be all or nothing.
    const scale = hard === undefined && !what.isFine ? undefined : Infinity;
    const isApart = layer.opacity < 1 || hard !== undefined || inHand?.cuts || needsGround(what.index, layer, own);
    if (isApart) paintApart(context, { map, box }, { opacity: layer.opacity, hard }, paint);
    else paint(context, map, box);
  }
}

const tilesOf = ({ index, seen, aboveRank }: Painted, { id }: LayerEntity) =>
  index.isShown(id) && index.rankOf(id) > aboveRank ? index.wash.within(id, seen) : [];

/** Whether what lies on a layer takes away from what lies under it there, or depends on it. */
const needsGround = ({ wash }: InkIndex, layer: LayerEntity, own: readonly Mark[]): boolean =>
  own.some(({ cuts }) => cuts) ||
  (layer.medium === 'wash' &&
    ((layer.holdsShape && own.length > 0) || wash.lifted?.layerId === layer.id || layer.standIn !== undefined));

/** A wash layer's pixels, and on them the marks that are just becoming pixels. */
export function paintWash(
  context: Context2D,
  index: InkIndex,
  layer: LayerEntity,
  { tiles, marks }: { readonly tiles: ReturnType<InkIndex['wash']['within']>; readonly marks: readonly Mark[] },
  map: Matrix,
): void {
  const laying = context.globalCompositeOperation;
  paintTiles(context, tiles, map);
  const { lifted } = index.wash;
  if (lifted?.layerId === layer.id) {
    context.globalCompositeOperation = 'destination-out';
    context.setTransform(...map);
    context.drawImage(lifted.cover, lifted.x, lifted.y, lifted.width, lifted.height);
  }
  context.globalCompositeOperation = layer.holdsShape ? 'source-atop' : laying;
  paintMarks(context, marks, map);
  const standIn = index.styleOf(layer.id)?.color;
  if (standIn !== undefined) {
    context.globalCompositeOperation = 'source-in';
    context.fillStyle = standIn;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillRect(0, 0, context.canvas.width, context.canvas.height);
  }
  context.globalCompositeOperation = laying;
}

function paintApart(
  context: Context2D,
  { map, box }: { readonly map: Matrix; readonly box: Box },
  /** `hard`: the colour of a hard-edged layer's lines. */
  { opacity, hard }: { readonly opacity: number; readonly hard: string | undefined },
  paint: (target: Context2D, map: Matrix, box: Box) => void,
): void {
  const width = box.maxX - box.minX;
  const height = box.maxY - box.minY;
  if (opacity === 0 || width <= 0 || height <= 0) return;
  const ground = new OffscreenCanvas(width, height);
  const target = ground.getContext('2d', { willReadFrequently: hard !== undefined });
  if (!target) throw new Error('This browser cannot paint off the screen.');
  paint(target, then(map, [1, 0, 0, 1, -box.minX, -box.minY]), { minX: 0, minY: 0, maxX: width, maxY: height });
  if (hard !== undefined) harden(target, width, height, hard);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = opacity;
  context.drawImage(ground, box.minX, box.minY);
  context.globalAlpha = 1;
}

/** The one colour of all marks that ink, or `mixed`. */
export function colourOf(marks: readonly Mark[]): string {
  const colours = new Set(marks.flatMap(({ color, cuts }) => (cuts ? [] : [color])));
  const [one = 'mixed'] = colours;
  return colours.size > 1 ? 'mixed' : one;
}

/** Leaves no px half covered. */
export function harden(context: OffscreenCanvasRenderingContext2D, width: number, height: number, color: string): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  const image = context.getImageData(0, 0, width, height);
  const { data } = image;
  for (let i = 3; i < data.length; i += 4) data[i] = data[i] >= HALF ? 255 : 0;
  context.putImageData(image, 0, 0);
  if (color === 'mixed') return;
  // Colours of half covered px come back rounded: all of them get the very one.
  context.globalCompositeOperation = 'source-in';
  context.fillStyle = color;
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = 'source-over';
}
