import { asPart, scaling } from '../math';
import { squaredDepths, radiusAt } from './depths';
import { dropLoops, dropSpurs, graphOf, joinAt, type Graph } from './graph';
import { doubled, dropSpecks, inkedFrom, usualWidth, type Inked } from './inked';
import { mapSaid } from './mapped';
import { solidsOf, type Solid } from './solids';
import { thinning } from './thin';
import type { Said, TraceSettings } from '../page';
import type { InkRaster } from './types';

/** A single mark that is no line: about as long as it is wide. */
export interface Dot {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly at: number;
}

/** What a picture comes to before lines are made of it. All lengths are px of `raster`. */
export interface Skeleton {
  /** The picture, with twice the px each way where its lines are thin. */
  readonly raster: InkRaster;
  /** Px of `raster` to a px of the picture. */
  readonly scale: number;
  /** How wide lines are for the most part. */
  readonly usual: number;
  readonly graph: Graph;
  readonly dots: readonly Dot[];
  readonly solids: readonly Solid[];
  /** Which black each px belongs to, from 1 on; 0 for none. In a frame of one px, as `Inked` has it. */
  readonly blackAt: Uint16Array;
}

/** Lines below this are looked at with twice the px, and so many px a picture may have then. */
const THIN = 4;
const MOST_DOUBLED = 48e6;
/** Widths from which ink is black where nothing else is said: so many times that of lines. */
const BLACK = 2.6;

/**
 * Takes a picture for lines as far as that goes by px: ink, its blacks, and a thinned graph of the rest. Yields how far it has
 * come, 0..1.
 */
export function* skeletonOf(
  picture: InkRaster,
  settings: TraceSettings,
  said: readonly Said[],
): Generator<number, Skeleton> {
  const first = inkedFrom(picture, settings.darkness);
  const seen = usualWidth(first);
  yield 0.05;
  const isThin = seen > 0 && seen < THIN && 4 * picture.width * picture.height <= MOST_DOUBLED;
  const scale = isThin ? 2 : 1;
  const raster = isThin ? doubled(picture) : picture;
  const inked = isThin ? inkedFrom(raster, settings.darkness) : first;
  dropSpecks(inked, Math.ceil((Math.PI / 4) * (settings.smallMarks * scale) ** 2));
  yield 0.2;
  const depths = squaredDepths(inked);
  yield 0.5;
  const usual = Math.max(1, usualWidth(inked));
  const side = Math.min(raster.width, raster.height);
  const from = settings.blackFrom > 0 ? settings.blackFrom * scale : Math.max(4, Math.min(BLACK * usual, side / 4));
  const { solids, blackAt } = solidsOf(inked, depths, from, mapSaid(said, scaling(scale)));
  yield 0.65;
  const { on } = inked;
  if (solids.some(({ isBlack }) => isBlack)) for (let i = 0; i < on.length; i++) if (blackAt[i]) on[i] = 0;
  const skeleton = yield* asPart(thinning(inked), 0.65, 0.9);
  const graph = graphOf(skeleton, depths);
  graph.nodes.forEach((_, node) => joinAt(graph, node));
  markBlacks(graph, blackAt, inked.width);
  dropLoops(graph);
  dropSpurs(graph, settings.smallMarks * scale);
  yield 1;
  return { raster, scale, usual, graph, dots: dotsIn(graph, skeleton, depths), solids, blackAt };
}

/** Ends that lie beside a black are where a line runs into it. */
function markBlacks(graph: Graph, blackAt: Uint16Array, width: number): void {
  for (const branch of graph.branches)
    for (const [k, end] of branch?.ends.entries() ?? []) {
      if (!branch || graph.nodes[end.node]?.ends.length !== 1) continue;
      const i = k === 0 ? 0 : branch.way.length - 2;
      const [x, y] = [Math.round(branch.way[i] + 0.5), Math.round(branch.way[i + 1] + 0.5)];
      const reach = Math.ceil(end.radius) + 2;
      for (let dy = -reach; dy <= reach && !end.isAtBlack; dy++)
        for (let dx = -reach; dx <= reach; dx++) {
          const at = (y + dy) * width + x + dx;
          if (at >= 0 && at < blackAt.length && blackAt[at]) end.isAtBlack = true;
        }
    }
}

/** What thinning left as a single place. */
function dotsIn(graph: Graph, skeleton: Inked, depths: Uint16Array): Dot[] {
  return graph.nodes.flatMap((node) => {
    if (!node || node.ends.length > 0) return [];
    const at = Math.round(node.y + 0.5) * skeleton.width + Math.round(node.x + 0.5);
    return [{ x: node.x, y: node.y, width: 2 * radiusAt(depths, at), at }];
  });
}
