import { GuideTrace } from './guideTrace';
import { anchorOf } from '@true-nib/core/guides';
import { inThousands } from '../base/inThousands';
import { type LinePath } from '@true-nib/core/curve';
import {
  actsOn,
  FRAME_PLANES,
  type FramePlane,
  type FrameWay,
  type GuideEntity,
  type GuideKind,
} from '@true-nib/core/guides';
import { apply, scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import type { EntityId } from '@true-nib/core/kind';
import type { PageSize } from '@true-nib/core/page';
import { drawFrame } from './framePicture';
import { LETTERS } from './letters';
import type { ShownGrids } from './gridPaint';
import type { Extent } from './view';

/** Guides as the board shows them. */
export interface ShownGuides {
  readonly guides: readonly GuideEntity[];
  /** Whether lines follow guides at all. */
  readonly guided: boolean;
  readonly layerId: EntityId | undefined;
  readonly inHand: EntityId | undefined;
  /** What bears the line that is being drawn. */
  readonly bearer: string | undefined;
  /** The line of a frame that it runs along. */
  readonly bearing: LinePath | undefined;
  /** Whether guides are worked on: those that sleep have small tags otherwise, so that they cover no ink. */
  readonly isEditing: boolean;
  readonly page: PageSize;
  /** The directions that lines of frames take. */
  readonly ways: readonly FrameWay[];
}

/** Colours of guides on white paper, told apart also without red and green (Okabe & Ito 2008, darkened for contrast). */
export const GUIDE_HUES = ['#8a5200', '#2a6f97', '#7a4a8c', '#00705a', '#a33a5b', '#4e5a65'] as const;

/** How the lines of each kind are broken, CSS px: nothing is told by colour alone. */
const DASHES: Readonly<Record<GuideKind, readonly number[]>> = {
  straightedge: [],
  batten: [],
  template: [],
  plane: [],
  rails: [],
  ripples: [],
  rays: [],
  echo: [14, 4],
  mirror: [16, 4, 3, 4],
  wheel: [16, 4, 3, 4],
  frame: [],
  fold: [16, 4, 3, 4],
};
const ASLEEP = [3, 7];

/** A tag of a guide: what it is and whether it acts; CSS px of the board. */
export interface GuideTag {
  readonly id: EntityId;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly words: string;
  /** Where the guide lies, for a thin line to it; nothing where that is off the board. */
  readonly anchor?: Point;
}

export const TAG_HEIGHT = 20;
/** CSS px between a tag and the edge of the board. */
const MARGIN = 6;
/** A board narrower than this, CSS px, has no room for names while one inks. */
const NARROW = 500;
/** CSS px of a tag beside its words, and of each letter, about. */
const TAG_ROOM = 26;
const LETTER = 6;

/**
 * The tags of all guides that are seen, at the edge of the board beside their guides, where they cover little of the page; what
 * lies far off says how far.
 */
export function tagsOf({ guides, isEditing }: ShownGuides, view: Matrix, board: Extent): GuideTag[] {
  const tags: GuideTag[] = [];
  for (const guide of guides) {
    if (!guide.seen) continue;
    const at = apply(view, anchorOf(guide.shape));
    const outside = Math.max(-at.x, at.x - board.width, -at.y, at.y - board.height, 0);
    // Far off and asleep: nothing to know while one inks.
    if (!guide.acting && !isEditing && (outside > 0 || guide.shape.kind === 'frame')) continue;
    const isSmall = !isEditing && (!guide.acting || board.width < NARROW);
    const words = isSmall ? initialsOf(guide.name) : inWords(guide, outside / scaleOf(view));
    const width = TAG_ROOM + LETTER * words.length;
    const x = at.x < board.width / 2 ? MARGIN : Math.max(MARGIN, board.width - width - MARGIN);
    const lowest = board.height - TAG_HEIGHT - MARGIN;
    let y = clampTo(at.y - TAG_HEIGHT / 2, MARGIN, lowest);
    const isFree = () =>
      tags.every((tag) => Math.abs(tag.y - y) >= TAG_HEIGHT + 2 || x >= tag.x + tag.width || tag.x >= x + width);
    // Tags of guides that share a place lie below one another, or above where the board ends.
    const step = y + TAG_HEIGHT + 4 > lowest ? -(TAG_HEIGHT + 4) : TAG_HEIGHT + 4;
    while (!isFree()) y += step;
    tags.push({ id: guide.id, x, y, width, words, ...(outside === 0 && { anchor: at }) });
  }
  return tags;
}

/** What a tag says of a guide that lies so many page px off the board. */
function inWords({ name, reach, acting }: GuideEntity, off: number): string {
  const layers = reach === 'all' ? '' : reach.length === 1 ? ' · 1 layer' : ` · ${reach.length} layers`;
  return `${name}${layers}${acting ? '' : ' · asleep'}${off > 0 ? ` · ${inThousands(Math.round(off))} px off` : ''}`;
}

const initialsOf = (name: string): string =>
  name
    .split(/\s+/)
    .slice(0, 2)
    .map((word) => word.slice(0, 1))
    .join('');

const clampTo = (value: number, least: number, most: number): number =>
  Math.max(least, Math.min(value, Math.max(least, most)));

/** A frame fills the board: one that sleeps shows only while guides are worked on. */
const isShown = ({ seen, shape, acting }: GuideEntity, { isEditing }: ShownGuides): boolean =>
  seen && (shape.kind !== 'frame' || acting || isEditing);

const isActing = (guide: GuideEntity, { guided, layerId }: ShownGuides): boolean => guided && actsOn(guide, layerId);

export const guideColour = ({ hue }: GuideEntity): string => GUIDE_HUES[hue] ?? GUIDE_HUES[0];

/** The grids of the frames that are shown. */
export function gridsOf(shown: ShownGuides): ShownGrids[] {
  return shown.guides.flatMap((guide) => {
    const { shape } = guide;
    if (shape.kind !== 'frame' || !isShown(guide, shown) || !FRAME_PLANES.some((plane) => shape.grids[plane]))
      return [];
    const colour = (plane: FramePlane) => GUIDE_HUES[shape.grids[plane]?.hue ?? guide.hue] ?? guideColour(guide);
    const colours = { left: colour('left'), right: colour('right'), floor: colour('floor') };
    return [{ frame: shape, colours, strength: isActing(guide, shown) ? 0.62 : 0.3 }];
  });
}

/** Paints guides in device px: thin and pale, those that act more clearly, each with its tag. */
export function drawGuides(
  context: CanvasRenderingContext2D,
  shown: ShownGuides,
  map: Matrix,
  ratio: number,
  tags: readonly GuideTag[],
): void {
  for (const guide of shown.guides) {
    if (!isShown(guide, shown)) continue;
    const { shape } = guide;
    if (shape.kind !== 'frame') drawGuide(context, guide, shown, map, ratio);
    else
      drawFrame(
        context,
        shape,
        {
          ...{ colour: guideColour(guide), ways: shown.ways },
          isActing: isActing(guide, shown),
          isInHand: shown.inHand === guide.id,
        },
        { page: shown.page, map, ratio },
      );
  }
  if (shown.bearing) drawBearing(context, shown.bearing, map, ratio);
  context.setTransform(1, 0, 0, 1, 0, 0);
  for (const tag of tags) {
    const guide = shown.guides.find(({ id }) => id === tag.id);
    if (guide) drawTag(context, tag, guide, shown, ratio);
  }
}

/** The direction that a line under way has chosen, over the whole board. */
function drawBearing(context: CanvasRenderingContext2D, { x, y, dx, dy }: LinePath, map: Matrix, ratio: number): void {
  const far = Math.hypot(context.canvas.width, context.canvas.height) / scaleOf(map);
  const [a, b] = [-far, far].map((along) => apply(map, { x: x + along * dx, y: y + along * dy }));
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.beginPath();
  context.moveTo(a.x, a.y);
  context.lineTo(b.x, b.y);
  context.globalAlpha = 0.75;
  context.lineWidth = 1.6 * ratio;
  context.strokeStyle = GUIDE_HUES[1];
  context.setLineDash([10 * ratio, 4 * ratio]);
  context.stroke();
  context.setLineDash([]);
  context.globalAlpha = 1;
}

function drawGuide(
  context: CanvasRenderingContext2D,
  guide: GuideEntity,
  shown: ShownGuides,
  map: Matrix,
  ratio: number,
): void {
  const isActing = shown.guided && actsOn(guide, shown.layerId);
  const isBearer = shown.bearer === guide.name;
  const colour = guideColour(guide);
  const trace = new GuideTrace(context, map, ratio);
  context.setTransform(1, 0, 0, 1, 0, 0);
  const stroke = (part: 'main' | 'faint') => {
    const dash = isActing ? DASHES[guide.shape.kind] : ASLEEP;
    for (const [width, style, alpha] of [
      // A light rim where the line matters; many pale lines would make ink look grey with one.
      [3, '#ffffff', part === 'main' ? 0.6 : 0],
      [isBearer ? 2 : 1.2, colour, (part === 'main' ? 0.95 : 0.32) * (isActing ? 1 : 0.55)],
    ] as const) {
      context.beginPath();
      trace.shape(guide, part);
      context.globalAlpha = alpha;
      context.lineWidth = width * ratio;
      context.strokeStyle = style;
      context.setLineDash(dash.map((length) => length * ratio));
      context.stroke();
    }
    context.setLineDash([]);
    context.globalAlpha = 1;
  };
  if (guide.shape.kind === 'template' || guide.shape.kind === 'plane' || guide.shape.kind === 'straightedge') {
    context.beginPath();
    trace.shape(guide, 'main');
    context.globalAlpha = isActing ? 0.1 : 0.05;
    context.fillStyle = colour;
    context.fill('evenodd');
    context.globalAlpha = 1;
  }
  if (guide.acting) stroke('faint');
  stroke('main');
}

/** A tag: filled while its guide acts, hollow while it sleeps, outlined in its colour; a thin line leads to its guide. */
function drawTag(
  context: CanvasRenderingContext2D,
  { x, y, width, words, anchor }: GuideTag,
  guide: GuideEntity,
  { guided, inHand, isEditing }: ShownGuides,
  ratio: number,
): void {
  const colour = guideColour(guide);
  const isFull = guide.acting && guided;
  const middle = (y + TAG_HEIGHT / 2) * ratio;
  if (anchor && (guide.acting || isEditing))
    drawLeader(context, { x: (anchor.x < x ? x : x + width) * ratio, y: middle }, anchor, colour, ratio);
  context.beginPath();
  context.roundRect(x * ratio, y * ratio, width * ratio, TAG_HEIGHT * ratio, 5 * ratio);
  context.fillStyle = isFull ? colour : '#ffffff';
  context.globalAlpha = 0.94;
  context.fill();
  context.globalAlpha = 1;
  context.lineWidth = (inHand === guide.id ? 2.5 : 1.2) * ratio;
  context.strokeStyle = inHand === guide.id && isFull ? '#14161a' : colour;
  context.setLineDash(guide.acting ? [] : [3 * ratio, 3 * ratio]);
  context.stroke();
  context.setLineDash([]);
  context.beginPath();
  context.arc((x + 11) * ratio, middle, 3.5 * ratio, 0, 2 * Math.PI);
  context.strokeStyle = context.fillStyle = isFull ? '#ffffff' : colour;
  context.lineWidth = 1.5 * ratio;
  if (isFull) context.fill();
  else context.stroke();
  context.font = `${11 * ratio}px ${LETTERS}`;
  context.textBaseline = 'middle';
  context.fillText(words, (x + 19) * ratio, middle + ratio);
}

/** A thin line from a tag to where its guide lies, with a point at its end. */
function drawLeader(
  context: CanvasRenderingContext2D,
  from: Point,
  anchor: Point,
  colour: string,
  ratio: number,
): void {
  const [x, y] = [anchor.x * ratio, anchor.y * ratio];
  context.globalAlpha = 0.55;
  context.strokeStyle = context.fillStyle = colour;
  context.lineWidth = ratio;
  context.beginPath();
  context.moveTo(from.x, from.y);
  context.lineTo(x, y);
  context.stroke();
  context.beginPath();
  context.arc(x, y, 2.5 * ratio, 0, 2 * Math.PI);
  context.fill();
  context.globalAlpha = 1;
}
