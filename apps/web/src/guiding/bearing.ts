import type { Area } from '@true-nib/core/area';
import type { GuidePath } from '@true-nib/core/curve';
import type { Dots } from '@true-nib/core/dots';
import { isAreaThing, isLineThing, laidAs, mapped, type Thing } from '@true-nib/core/drawn';
import { LiveStroke } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import {
  actsOn,
  boxAlong,
  boxAxes,
  combinedMaps,
  foldMap,
  inFrame,
  guidedWay,
  isSymmetry,
  joinTwins,
  planeBox,
  projectedStroke,
  rankingAt,
  ridingOn,
  symmetricStrokes,
  waysWithin,
  type GuideChoice,
  type Ranking,
  type FoldShape,
  type GuideEntity,
} from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { afterwards, distance, projectiveOf, type Matrix, type Matrix3x3, type Point } from '@true-nib/core/math';
import { byOrder, find, ofKind, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Nib } from '@true-nib/core/nib';
import type { Stroke } from '@true-nib/core/stroke';
import { zoomOf } from '../render';
import { newId } from '../session';
import type { Board } from '../board';
import { useDepth } from './depthStore';
import { actingFrame } from './frames';
import { setGuides, useGuides } from './guideStore';

/** Page px within which twins that end on the axis have met. */
const TWINS = 3;

/** The guides that lines of a layer obey now, symmetries included: none while all is free. */
export function guidesFor(page: Page, layerId: EntityId | undefined): GuideEntity[] {
  const { guided, isFree } = useGuides.getState();
  return guided && !isFree ? ofKind(page, 'guide').filter((guide) => actsOn(guide, layerId)) : [];
}

/** The symmetries that act on a layer, in the order of the list. */
const symmetriesFor = (page: Page, layerId: EntityId | undefined) =>
  guidesFor(page, layerId)
    .sort(byOrder)
    .flatMap(({ shape }) => (isSymmetry(shape) ? [shape] : []));

/** The axes across which what is drawn on a layer is mirrored in depth. */
const foldsFor = (page: Page, layerId: EntityId | undefined): FoldShape[] =>
  guidesFor(page, layerId).flatMap(({ shape }) => (shape.kind === 'fold' ? [shape] : []));

/** Images of strokes across an axis in depth, those in sight: they belong to the frame of the axis. */
export function mirroredInDepth<S extends Stroke>(page: Page, strokes: readonly S[], fold: FoldShape): S[] {
  const map = foldMap(fold);
  const frame = find(page, 'guide', fold.frame)?.shape;
  return strokes.flatMap((stroke) => {
    const image = projectedStroke(stroke, map);
    if (!image) return [];
    return frame?.kind === 'frame' ? [inFrame(image, fold.frame, frame)] : [image];
  });
}

/** The maps under which everything drawn on a layer is drawn at once, itself first: of the page, then mirrored in depth. */
export function copiesFor(page: Page, layerId: EntityId | undefined): (Matrix | Matrix3x3)[] {
  const maps: (Matrix | Matrix3x3)[] = combinedMaps(symmetriesFor(page, layerId));
  return foldsFor(page, layerId).reduce(
    (all, fold) => [...all, ...all.map((map) => afterwards(map.length === 6 ? projectiveOf(map) : map, foldMap(fold)))],
    maps,
  );
}

/**
 * Strokes with their symmetric copies, each a set of its own, as they are laid down: twins that meet on their axis are one
 * where that is asked for.
 */
export function withCopies<S extends Stroke>(page: Page, layerId: EntityId | undefined, strokes: readonly S[]): S[] {
  const shapes = symmetriesFor(page, layerId);
  const folds = foldsFor(page, layerId);
  const inDepth = (all: readonly S[]): S[] =>
    folds.reduce<S[]>((some, fold) => [...some, ...mirroredInDepth(page, some, fold)], [...all]);
  if (shapes.length === 0) return inDepth(strokes);
  const maps = combinedMaps(shapes);
  const isJoined = shapes.some(({ joins }) => joins);
  const copied = strokes.flatMap((stroke) => {
    const set = symmetricStrokes(stroke, maps, newId());
    return isJoined ? joinTwins(set, TWINS) : set;
  });
  return inDepth(copied);
}

/** Things with their symmetric copies, as they are laid down: lines as `withCopies` has them, all others under each map. */
export function thingsWithCopies(page: Page, layerId: EntityId | undefined, things: readonly Thing[]): Thing[] {
  return things.flatMap((thing): Thing[] => {
    if (isLineThing(thing)) return withCopies(page, layerId, [thing]);
    const [, ...maps] = copiesFor(page, layerId);
    return [thing, ...maps.flatMap((map) => thingUnder(thing, map.length === 6 ? projectiveOf(map) : map))];
  });
}

/** An area or dots under a map; nothing where that takes them out of sight. */
function thingUnder(thing: Area | Dots, map: Matrix3x3): Thing[] {
  const place = { id: 'copy', layerId: 'copy', order: 'a0' };
  try {
    if (isAreaThing(thing)) {
      const [{ rings, fill }] = mapped([laidAs(thing, place)], map, { scaleWidth: false });
      return [{ rings, fill }];
    }
    const [{ dots, fill }] = mapped([laidAs(thing, place)], map, { scaleWidth: false });
    return [{ dots, fill }];
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    return [];
  }
}

/** How a stroke is drawn. */
interface Birth {
  readonly calm: Calm;
  readonly seed: number;
  /** A way that it runs along, whatever guides there are. */
  readonly along: GuidePath | undefined;
}

/**
 * A stroke that looks for the guide that bears it: an edge at once, a field when the first movement tells the direction. Until
 * then it is drawn along the likeliest one; what has been drawn is drawn anew when the choice changes.
 */
export class BornStroke {
  live: LiveStroke;
  /** The guide that bears it, and its path. */
  choice: GuideChoice | undefined;
  private readonly samples: PenSample[] = [];
  private readonly guides: readonly GuideEntity[];
  private ranking: Ranking | undefined;
  private ranked: readonly GuideChoice[] = [];
  private isChosen = false;
  readonly copies: readonly (Matrix | Matrix3x3)[];

  constructor(
    private readonly board: Board,
    private readonly layerId: EntityId,
    private readonly nib: Nib,
    private readonly how: Birth,
  ) {
    const { page } = board.session;
    const guides = how.along ? [] : guidesFor(page, layerId);
    this.guides = guides.filter(({ shape }) => !isSymmetry(shape) && shape.kind !== 'fold');
    this.copies = copiesFor(page, layerId);
    this.isChosen = this.guides.length === 0;
    this.live = this.begun();
  }

  add(samples: readonly PenSample[]): void {
    this.samples.push(...samples);
    if (this.isChosen) return this.live.add(samples);
    this.choose();
  }

  /** Goes on along the next guide that could bear the stroke. Answers whether there is one. */
  next(): boolean {
    if (this.ranked.length < 2) return false;
    const at = this.ranked.findIndex((one) => one === this.choice);
    this.isChosen = true;
    this.bear(this.ranked[(at + 1) % this.ranked.length]);
    return true;
  }

  private choose(): void {
    const [start] = this.samples;
    if (!start) return;
    const zoom = zoomOf(this.board.picture.view);
    const { reach, choosing } = useGuides.getState();
    const last = this.samples[this.samples.length - 1];
    const gone = distance(start, last) * zoom;
    const heading = gone > 1 ? Math.atan2(last.y - start.y, last.x - start.x) : undefined;
    this.ranking ??= rankingAt(this.guides, start, {
      ...{ reach: reach / zoom, layerId: this.layerId },
      ...depthOptions(this.board.session.page),
    });
    this.ranked = this.ranking(heading);
    // Rays need a direction at their own point; other than that one candidate is no choice.
    const isSure = this.ranked.length === 1 && this.guides.every(({ shape }) => shape.kind !== 'rays');
    this.isChosen = gone >= choosing || isSure;
    this.bear(this.ranked[0]);
  }

  /** Draws all there is along a path. */
  private bear(choice: GuideChoice | undefined): void {
    this.choice = choice;
    this.live = this.begun();
    this.live.add(this.samples);
    const { guide, path } = choice ?? {};
    const bearing = guide?.shape.kind === 'frame' && path?.kind === 'line' ? path : undefined;
    if (this.isChosen) setGuides({ bearer: guide?.name, bearing });
  }

  private begun(): LiveStroke {
    const { picture } = this.board;
    const zoom = zoomOf(picture.view);
    const { calm, seed, along } = this.how;
    const path = along ?? this.choice?.path;
    const riding = path && ridingOn(path, 1 / zoom);
    const live = new LiveStroke(this.nib, calm, zoom, { seed, ...(riding && { riding }) });
    picture.beginLive(live, this.layerId, this.copies);
    return live;
  }

  /** What the kept stroke knows of its guide. */
  get bornOn(): Pick<Stroke, 'guide'> {
    const { choice } = this;
    return choice ? { guide: { id: choice.guide.id, path: choice.path } } : {};
  }
}

/** A straight way on a layer taken to the guide that it would ride; itself where none bears it. */
export function straightWay(
  board: Board,
  layerId: EntityId | undefined,
  from: Point,
  to: Point,
): { readonly from: Point; readonly to: Point } {
  const guides = guidesFor(board.session.page, layerId);
  if (guides.length === 0) return { from, to };
  const reach = useGuides.getState().reach / zoomOf(board.picture.view);
  return guidedWay(guides, from, to, {
    reach,
    ...(layerId !== undefined && { layerId }),
    ...depthOptions(board.session.page),
  });
}

/** What frames need to know: the page, and which of their directions lines take. */
const depthOptions = ({ size }: Page) => ({ page: size, ways: waysWithin(useDepth.getState().limit) });

/**
 * The corners of a box on a layer: on the plane in hand where a frame acts there, else its sides run along the rails that do;
 * nothing where none do.
 */
export function railBox(
  { session }: Board,
  layerId: EntityId | undefined,
  a: Point,
  b: Point,
): readonly Point[] | undefined {
  const frame = actingFrame(session.page, layerId);
  const inDepth = frame && planeBox(frame.shape, useDepth.getState().plane, a, b);
  if (inDepth) return inDepth;
  const axes = boxAxes(guidesFor(session.page, layerId).sort(byOrder), layerId);
  return axes && boxAlong(axes, a, b);
}
