import { anchorOf } from '@true-nib/core/guides';
import { inThousands } from '../base/inThousands';
import { SEGMENT, STRIDE, type Spine, type LinePath } from '@true-nib/core/curve';
import {
  actsOn,
  outlines,
  straightEdges,
  wayTo,
  FRAME_PLANES,
  type FramePlane,
  type FrameWay,
  type GuideEntity,
  type GuideGrid,
  type GuideKind,
  type RipplesShape,
} from '@true-nib/core/guides';
import { apply, box, boxCorners, invert, scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import type { EntityId } from '@true-nib/core/kind';
import type { PageSize } from '@true-nib/core/page';
import { drawFrame } from './framePicture';
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

/** CSS px between lines of a field that has no grid. */
const EVERY = 64;
const MOST = 120;

/** A tag at a guide: what it is and whether it acts; CSS px of the board. */
export interface GuideTag {
  readonly id: EntityId;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly words: string;
}

export const TAG_HEIGHT = 26;
/** CSS px between a tag and the edge of the board. */
const MARGIN = 10;

/** The tags of all guides that are seen, each near its guide and inside the board; what lies far off says how far. */
export function tagsOf({ guides, isEditing }: ShownGuides, view: Matrix, board: Extent): GuideTag[] {
  const tags: GuideTag[] = [];
  for (const guide of guides) {
    if (!guide.seen) continue;
    const at = apply(view, anchorOf(guide.shape));
    const reach =
      guide.reach === 'all' ? '' : guide.reach.length === 1 ? ' · 1 layer' : ` · ${guide.reach.length} layers`;
    const state = guide.acting ? '' : ' · asleep';
    const outside = Math.max(-at.x, at.x - board.width, -at.y, at.y - board.height, 0);
    const far = outside > 0 ? ` · ${inThousands(Math.round(outside / scaleOf(view)))} px off` : '';
    const isSmall = !guide.acting && !isEditing;
    // Far off and asleep: nothing to know while one inks.
    if (isSmall && (outside > 0 || guide.shape.kind === 'frame')) continue;
    const words = isSmall ? initialsOf(guide.name) : `${guide.name}${reach}${state}${far}`;
    const width = 34 + 6.6 * words.length;
    let y = clampTo(at.y + 14, MARGIN, board.height - TAG_HEIGHT - MARGIN);
    const x = clampTo(at.x + 14, MARGIN, board.width - width - MARGIN);
    // Tags of guides that share a place lie below one another.
    while (tags.some((tag) => Math.abs(tag.y - y) < TAG_HEIGHT + 2 && x < tag.x + tag.width && tag.x < x + width))
      y += TAG_HEIGHT + 4;
    tags.push({ id: guide.id, x, y, width, words });
  }
  return tags;
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
const isDrawn = ({ seen, shape, acting }: GuideEntity, { isEditing }: ShownGuides): boolean =>
  seen && (shape.kind !== 'frame' || acting || isEditing);

const isActing = (guide: GuideEntity, { guided, layerId }: ShownGuides): boolean => guided && actsOn(guide, layerId);

export const guideColour = ({ hue }: GuideEntity): string => GUIDE_HUES[hue] ?? GUIDE_HUES[0];

/** The grids of the frames that are shown. */
export function gridsOf(shown: ShownGuides): ShownGrids[] {
  return shown.guides.flatMap((guide) => {
    const { shape } = guide;
    if (shape.kind !== 'frame' || !isDrawn(guide, shown) || !FRAME_PLANES.some((plane) => shape.grids[plane]))
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
    if (!isDrawn(guide, shown)) continue;
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

/** Traces guides as paths of device px. */
class GuideTrace {
  private readonly scale: number;

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly map: Matrix,
    private readonly ratio: number,
  ) {
    this.scale = scaleOf(map);
  }

  shape({ shape }: GuideEntity, part: 'main' | 'faint'): void {
    const isMain = part === 'main';
    switch (shape.kind) {
      case 'straightedge': {
        const [a, b] = straightEdges(shape);
        const ends = [a, b].map((edge) =>
          [edge.from ?? 0, edge.to ?? 0].map((at) => ({ x: edge.x + at * edge.dx, y: edge.y + at * edge.dy })),
        );
        if (isMain) this.polygon([ends[0][0], ends[0][1], ends[1][1], ends[1][0]]);
        return;
      }
      case 'batten':
        return isMain ? this.course(shape.course) : undefined;
      case 'echo':
        return isMain ? this.course(shape.course) : undefined;
      case 'template':
      case 'plane':
        return isMain ? outlines(shape).forEach((ring) => this.course(ring)) : undefined;
      case 'frame':
        return;
      case 'fold': {
        const way = wayTo(shape.along, shape);
        return isMain && way ? this.line(shape, way.x, way.y) : undefined;
      }
      case 'rails': {
        const [dx, dy] = [Math.cos(shape.angle), Math.sin(shape.angle)];
        const across = (p: Point) => (p.y - shape.y) * dx - (p.x - shape.x) * dy;
        for (const at of isMain ? [0] : this.steps(shape.grid, this.range(across)))
          this.line({ x: shape.x - dy * at, y: shape.y + dx * at }, dx, dy);
        return;
      }
      case 'rays': {
        const { grid } = shape;
        if (isMain) return this.cross(shape, 9);
        const step = grid?.step ?? Math.PI / 18;
        for (let k = 0; k * step < Math.PI - 1e-9; k++) {
          const angle = (grid?.offset ?? 0) + k * step;
          this.line(shape, Math.cos(angle), Math.sin(angle));
        }
        return;
      }
      case 'ripples':
        if (isMain) this.cross(shape, 6);
        for (const rx of isMain ? [(2 * EVERY * this.ratio) / this.scale] : this.steps(shape.grid, this.radii(shape)))
          if (rx > 0) this.ellipse(shape, rx, rx * shape.ratio, shape.angle);
        return;
      case 'mirror':
        return isMain ? this.line(shape, Math.cos(shape.angle), Math.sin(shape.angle)) : undefined;
      case 'wheel': {
        if (isMain) this.cross(shape, 7);
        const axes = shape.reflects ? shape.sectors / 2 : shape.sectors;
        for (let k = 0; k < axes; k++) {
          const angle = shape.angle + (k * (shape.reflects ? Math.PI : 2 * Math.PI)) / axes;
          if (isMain) this.line(shape, Math.cos(angle), Math.sin(angle), shape.reflects);
        }
        return;
      }
    }
  }

  /** Where the lines of a field lie between two values, page px from its first one: by its grid, or evenly on the screen. */
  private steps(grid: GuideGrid | undefined, [low, high]: readonly [number, number]): number[] {
    const even = (EVERY * this.ratio) / this.scale;
    let step = grid?.step ?? even;
    // Lines closer than some px would only be grey.
    while (step * this.scale < 7 * this.ratio) step *= 2;
    const offset = grid?.offset ?? 0;
    const most = grid && grid.count > 0 ? grid.count : Infinity;
    const first = Math.max(-most, Math.ceil((low - offset) / step));
    const last = Math.min(most, first + MOST, Math.floor((high - offset) / step));
    return Array.from({ length: Math.max(0, last - first + 1) }, (_, k) => offset + (first + k) * step);
  }

  /** The least and the greatest of what `measure` says of the corners of the board. */
  private range(measure: (p: Point) => number): readonly [number, number] {
    const { width, height } = this.context.canvas;
    const back = invert(this.map);
    const values = boxCorners(box(0, 0, width, height)).map((corner) => measure(apply(back, corner)));
    return [Math.min(...values), Math.max(...values)];
  }

  /** The half axes of the rings that can be seen. */
  private radii({ x, y, angle, ratio }: RipplesShape): readonly [number, number] {
    const { width, height } = this.context.canvas;
    const centre = this.on({ x, y });
    const isSeen = centre.x >= 0 && centre.x <= width && centre.y >= 0 && centre.y <= height;
    const radius = (p: Point) => {
      const [dx, dy] = [p.x - x, p.y - y];
      const u = dx * Math.cos(angle) + dy * Math.sin(angle);
      return Math.hypot(u, (dy * Math.cos(angle) - dx * Math.sin(angle)) / ratio);
    };
    const [least, most] = this.range(radius);
    // Between two corners a ring may come nearer than at both: by no more than the board is wide, in its own measure.
    const slack = Math.hypot(width, height) / this.scale / ratio / 2;
    return [isSeen ? 0 : Math.max(0, least - slack), most];
  }

  private on(p: Point): Point {
    return apply(this.map, p);
  }

  private polygon(points: readonly Point[]): void {
    points
      .map((p) => this.on(p))
      .forEach((p, k) => (k === 0 ? this.context.moveTo(p.x, p.y) : this.context.lineTo(p.x, p.y)));
    this.context.closePath();
  }

  /** A line through a point, or from it on, that reaches over the whole board. */
  private line(through: Point, dx: number, dy: number, isWhole = true): void {
    const { width, height } = this.context.canvas;
    const at = this.on(through);
    const [ux, uy] = [this.map[0] * dx + this.map[2] * dy, this.map[1] * dx + this.map[3] * dy];
    const length = Math.hypot(ux, uy) || 1;
    const [x, y] = [ux / length, uy / length];
    // The board's own diagonal about the place of the line that is nearest to its middle.
    const middle = (width / 2 - at.x) * x + (height / 2 - at.y) * y;
    const half = Math.hypot(width, height);
    const from = isWhole ? middle - half : Math.max(0, middle - half);
    const to = Math.max(from, middle + half);
    this.context.moveTo(at.x + from * x, at.y + from * y);
    this.context.lineTo(at.x + to * x, at.y + to * y);
  }

  private ellipse(centre: Point, rx: number, ry: number, angle: number): void {
    const at = this.on(centre);
    const [ux, uy] = [
      this.map[0] * Math.cos(angle) + this.map[2] * Math.sin(angle),
      this.map[1] * Math.cos(angle) + this.map[3] * Math.sin(angle),
    ];
    const turn = Math.atan2(uy, ux);
    this.context.moveTo(at.x + rx * this.scale * Math.cos(turn), at.y + rx * this.scale * Math.sin(turn));
    this.context.ellipse(at.x, at.y, rx * this.scale, ry * this.scale, turn, 0, 2 * Math.PI);
  }

  private cross(centre: Point, size: number): void {
    const { x, y } = this.on(centre);
    const half = size * this.ratio;
    this.context.moveTo(x - half, y);
    this.context.lineTo(x + half, y);
    this.context.moveTo(x, y - half);
    this.context.lineTo(x, y + half);
  }

  private course({ points: p }: Spine): void {
    const start = this.on({ x: p[0], y: p[1] });
    this.context.moveTo(start.x, start.y);
    for (let i = 0; i + SEGMENT < p.length; i += SEGMENT) {
      const [b, c, d] = [1, 2, 3].map((n) => this.on({ x: p[i + n * STRIDE], y: p[i + n * STRIDE + 1] }));
      this.context.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
    }
  }
}

/** A tag: filled while its guide acts, hollow while it sleeps, outlined in its colour. */
function drawTag(
  context: CanvasRenderingContext2D,
  { x, y, width, words }: GuideTag,
  guide: GuideEntity,
  { guided, inHand }: ShownGuides,
  ratio: number,
): void {
  const colour = guideColour(guide);
  const isFull = guide.acting && guided;
  context.beginPath();
  context.roundRect(x * ratio, y * ratio, width * ratio, TAG_HEIGHT * ratio, 6 * ratio);
  context.fillStyle = isFull ? colour : '#ffffff';
  context.globalAlpha = 0.94;
  context.fill();
  context.globalAlpha = 1;
  context.lineWidth = (inHand === guide.id ? 3 : 1.5) * ratio;
  context.strokeStyle = inHand === guide.id && isFull ? '#14161a' : colour;
  context.setLineDash(guide.acting ? [] : [3 * ratio, 3 * ratio]);
  context.stroke();
  context.setLineDash([]);
  const middle = (y + TAG_HEIGHT / 2) * ratio;
  context.beginPath();
  context.arc((x + 14) * ratio, middle, 4.5 * ratio, 0, 2 * Math.PI);
  context.strokeStyle = context.fillStyle = isFull ? '#ffffff' : colour;
  context.lineWidth = 1.5 * ratio;
  if (isFull) context.fill();
  else context.stroke();
  context.font = `${12 * ratio}px system-ui, sans-serif`;
  context.textBaseline = 'middle';
  context.fillText(words, (x + 25) * ratio, middle + ratio);
}
