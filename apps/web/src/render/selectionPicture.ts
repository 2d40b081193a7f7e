import { mapped, waysOf, type DrawnEntity } from '@true-nib/core/drawn';
import { apply, chain, invert, scaleOf, type Matrix, type Point, applyProjective } from '@true-nib/core/math';
import { PageError } from '@true-nib/core/gate';
import { frameGrips, frameMap, frameMatrix, isUntouched, type Frame } from '@true-nib/core/select';
import { paintDrawn } from './inkPaint';
import { strokeFine } from './overlay';
import { paintPixels, type ShownPixels } from './pixelPicture';

/** A selection as the board shows it: what was drawn as it is shown, its frame, and the colour of its outlines. */
export interface ShownSelection {
  readonly entities: readonly DrawnEntity[];
  /** Selected pixels in place of them. */
  readonly pixels?: ShownPixels;
  readonly frame: Frame;
  readonly color: string;
  readonly scaleWidth: boolean;
}

/** Strokes that are mapped and inked anew for every look; more are moved as one picture. */
const MOST_EXACT = 40;
/** Strokes whose course is drawn broad; that of more is fine. */
const MOST_BROAD = 40;
/** Strokes whose course is drawn; of more only some are. */
const MOST_LINES = 600;
const MOST_PICTURED = 1_500;
/** CSS px between the frame's top edge and the knob that turns it. */
export const FRAME_STEM = 26;

interface Picture {
  readonly canvas: OffscreenCanvas;
  readonly map: Matrix;
}

/** Paints a selection over the page: its courses at rest, the strokes themselves while they are being transformed. */
export class SelectionPicture {
  private selection: ShownSelection | undefined;
  private courses: readonly Path2D[] | undefined;
  private picture: Picture | undefined;

  set(selection: ShownSelection | undefined): void {
    if (selection?.entities !== this.selection?.entities) {
      this.courses = undefined;
      this.picture = undefined;
    }
    this.selection = selection;
  }

  get isShown(): boolean {
    return this.selection !== undefined;
  }

  /** `map` takes page px to device px, `ratio` is device px per CSS px; while the view moves less is shown. */
  paint(context: CanvasRenderingContext2D, map: Matrix, ratio: number, ground: string, isMoving: boolean): void {
    const { selection } = this;
    if (!selection) return;
    try {
      if (selection.pixels) paintPixels(context, selection.pixels, selection, { map, ratio }, isMoving);
      else if (isUntouched(selection.frame)) this.paintCourses(context, map, ratio, selection);
      else this.paintTransformed(context, map, ratio, selection);
    } catch (error) {
      // A frame that cannot be is shown by its corners alone; what is wrong is said when it is to be kept.
      if (!(error instanceof PageError)) throw error;
    }
    paintFrame(context, selection.frame, { map, ratio }, { color: selection.color, ground });
  }

  private paintCourses(context: CanvasRenderingContext2D, map: Matrix, ratio: number, selection: ShownSelection): void {
    this.courses ??= coursesOf(some(selection.entities));
    context.strokeStyle = selection.color;
    if (selection.entities.length > MOST_BROAD) return strokeFine(context, this.courses, map, ratio);
    context.setTransform(...map);
    context.lineWidth = (1.5 * ratio) / scaleOf(map);
    for (const path of this.courses) context.stroke(path);
  }

  private paintTransformed(
    context: CanvasRenderingContext2D,
    map: Matrix,
    ratio: number,
    selection: ShownSelection,
  ): void {
    const { entities, frame, scaleWidth } = selection;
    if (entities.length <= MOST_EXACT)
      return paintDrawn(context, mapped(entities, frameMap(frame), { scaleWidth }), map);
    if (!frame.corners && entities.length <= MOST_PICTURED) {
      this.picture ??= pictureOf(entities, map, context.canvas);
      context.setTransform(...chain(invert(this.picture.map), frameMatrix(frame), map));
      return context.drawImage(this.picture.canvas, 0, 0);
    }
    this.paintMapped(context, map, ratio, selection);
  }

  private paintMapped(
    context: CanvasRenderingContext2D,
    map: Matrix,
    ratio: number,
    { entities, frame, color }: ShownSelection,
  ): void {
    const page = frameMap(frame);
    context.strokeStyle = color;
    const path = new Path2D();
    for (const { points, stride } of some(entities).flatMap((entity) => waysOf(entity, 2 / scaleOf(map))))
      for (let i = 0; i < points.length; i += stride) {
        const { x, y } = applyProjective(page, points[i], points[i + 1]);
        if (i === 0) path.moveTo(x, y);
        else path.lineTo(x, y);
      }
    strokeFine(context, [path], map, ratio);
  }
}

/** A spread of what is selected, where there is too much to draw all of it. */
function some(entities: readonly DrawnEntity[]): readonly DrawnEntity[] {
  const step = Math.ceil(entities.length / MOST_LINES);
  return step <= 1 ? entities : entities.filter((_entity, k) => k % step === 0);
}

/** Courses that share a path: the cost of many in one grows with their square. */
const EACH_PATH = 12;
/** Page px that a course may stray by where it is shown as a line. */
const STRAY = 0.1;

function coursesOf(entities: readonly DrawnEntity[]): Path2D[] {
  const paths: Path2D[] = [];
  entities.forEach((entity, k) => {
    if (k % EACH_PATH === 0) paths.push(new Path2D());
    const path = paths[paths.length - 1];
    for (const { points, stride } of waysOf(entity, STRAY))
      for (let i = 0; i < points.length; i += stride)
        if (i === 0) path.moveTo(points[0], points[1]);
        else path.lineTo(points[i], points[i + 1]);
  });
  return paths;
}

/** The part of the selection that is in view, painted once. */
function pictureOf(entities: readonly DrawnEntity[], map: Matrix, { width, height }: HTMLCanvasElement): Picture {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (context) paintDrawn(context, entities, map);
  return { canvas, map };
}

function paintFrame(
  context: CanvasRenderingContext2D,
  frame: Frame,
  { map, ratio }: { readonly map: Matrix; readonly ratio: number },
  { color, ground }: { readonly color: string; readonly ground: string },
): void {
  const { corners, edges, knob } = frameGrips(frame, (FRAME_STEM * ratio) / scaleOf(map));
  const on = (p: Point) => apply(map, p);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.strokeStyle = color;
  context.fillStyle = ground;
  context.lineWidth = 1.5 * ratio;
  context.setLineDash([6 * ratio, 4 * ratio]);
  context.beginPath();
  corners.map(on).forEach((p, k) => (k === 0 ? context.moveTo(p.x, p.y) : context.lineTo(p.x, p.y)));
  context.closePath();
  context.moveTo(on(edges[0]).x, on(edges[0]).y);
  context.lineTo(on(knob).x, on(knob).y);
  context.stroke();
  context.setLineDash([]);
  for (const corner of corners.map(on)) {
    context.beginPath();
    context.rect(corner.x - 5 * ratio, corner.y - 5 * ratio, 10 * ratio, 10 * ratio);
    context.fill();
    context.stroke();
  }
  for (const edge of edges.map(on)) {
    context.beginPath();
    context.arc(edge.x, edge.y, 4 * ratio, 0, 2 * Math.PI);
    context.fill();
    context.stroke();
  }
  context.beginPath();
  context.arc(on(knob).x, on(knob).y, 7 * ratio, 0, 2 * Math.PI);
  context.fill();
  context.stroke();
}
