import { SEGMENT, STRIDE, type Spine } from '@true-nib/core/curve';
import {
  outlines,
  straightEdges,
  wayTo,
  type BattenShape,
  type EchoShape,
  type GuideEntity,
  type GuideGrid,
  type GuideKind,
  type GuideShape,
  type PlaneShape,
  type RipplesShape,
  type TemplateShape,
} from '@true-nib/core/guides';
import { apply, box, boxCorners, invert, scaleOf, type Matrix, type Point } from '@true-nib/core/math';

/** CSS px between lines of a field that has no grid. */
const EVERY = 64;
const MOST = 120;

/** Traces guides as paths of device px. */
export class GuideTrace {
  /** Device px per page px. */
  readonly scale: number;

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly map: Matrix,
    readonly ratio: number,
  ) {
    this.scale = scaleOf(map);
  }

  shape({ shape }: GuideEntity, part: 'main' | 'faint'): void {
    // The compiler does not see that a shape and the trace of its kind belong together.
    (TRACES[shape.kind] as Trace<GuideShape>)(this, shape, part === 'main');
  }

  /** Where the lines of a field lie between two values, page px from its first one: by its grid, or evenly on the screen. */
  steps(grid: GuideGrid | undefined, [low, high]: readonly [number, number]): number[] {
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
  range(measure: (p: Point) => number): readonly [number, number] {
    const { width, height } = this.context.canvas;
    const back = invert(this.map);
    const values = boxCorners(box(0, 0, width, height)).map((corner) => measure(apply(back, corner)));
    return [Math.min(...values), Math.max(...values)];
  }

  /** The half axes of the rings that can be seen. */
  radii({ x, y, angle, ratio }: RipplesShape): readonly [number, number] {
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

  polygon(points: readonly Point[]): void {
    points
      .map((p) => this.on(p))
      .forEach((p, k) => (k === 0 ? this.context.moveTo(p.x, p.y) : this.context.lineTo(p.x, p.y)));
    this.context.closePath();
  }

  /** A line through a point, or from it on, that reaches over the whole board. */
  line(through: Point, dx: number, dy: number, isWhole = true): void {
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

  ellipse(centre: Point, rx: number, ry: number, angle: number): void {
    const at = this.on(centre);
    const [ux, uy] = [
      this.map[0] * Math.cos(angle) + this.map[2] * Math.sin(angle),
      this.map[1] * Math.cos(angle) + this.map[3] * Math.sin(angle),
    ];
    const turn = Math.atan2(uy, ux);
    this.context.moveTo(at.x + rx * this.scale * Math.cos(turn), at.y + rx * this.scale * Math.sin(turn));
    this.context.ellipse(at.x, at.y, rx * this.scale, ry * this.scale, turn, 0, 2 * Math.PI);
  }

  cross(centre: Point, size: number): void {
    const { x, y } = this.on(centre);
    const half = size * this.ratio;
    this.context.moveTo(x - half, y);
    this.context.lineTo(x + half, y);
    this.context.moveTo(x, y - half);
    this.context.lineTo(x, y + half);
  }

  course({ points: p }: Spine): void {
    const start = this.on({ x: p[0], y: p[1] });
    this.context.moveTo(start.x, start.y);
    for (let i = 0; i + SEGMENT < p.length; i += SEGMENT) {
      const [b, c, d] = [1, 2, 3].map((n) => this.on({ x: p[i + n * STRIDE], y: p[i + n * STRIDE + 1] }));
      this.context.bezierCurveTo(b.x, b.y, c.x, c.y, d.x, d.y);
    }
  }
}

/** Traces a shape: its main lines, or those that a field only hints at. */
type Trace<S extends GuideShape> = (on: GuideTrace, shape: S, isMain: boolean) => void;

const traceCourse: Trace<BattenShape | EchoShape> = (on, { course }, isMain) => isMain && on.course(course);

const traceOutlines: Trace<TemplateShape | PlaneShape> = (on, shape, isMain) =>
  isMain && outlines(shape).forEach((ring) => on.course(ring));

const TRACES: { readonly [K in GuideKind]: Trace<Extract<GuideShape, { readonly kind: K }>> } = {
  straightedge(on, shape, isMain) {
    if (!isMain) return;
    const [[a, b], [c, d]] = straightEdges(shape).map((edge) =>
      [edge.from ?? 0, edge.to ?? 0].map((at) => ({ x: edge.x + at * edge.dx, y: edge.y + at * edge.dy })),
    );
    on.polygon([a, b, d, c]);
  },
  batten: traceCourse,
  echo: traceCourse,
  template: traceOutlines,
  plane: traceOutlines,
  // Painted by itself, with its grids.
  frame: () => undefined,
  fold(on, shape, isMain) {
    const way = wayTo(shape.along, shape);
    if (isMain && way) on.line(shape, way.x, way.y);
  },
  rails(on, shape, isMain) {
    const [dx, dy] = [Math.cos(shape.angle), Math.sin(shape.angle)];
    const across = (p: Point) => (p.y - shape.y) * dx - (p.x - shape.x) * dy;
    for (const at of isMain ? [0] : on.steps(shape.grid, on.range(across)))
      on.line({ x: shape.x - dy * at, y: shape.y + dx * at }, dx, dy);
  },
  rays(on, shape, isMain) {
    if (isMain) return on.cross(shape, 9);
    const { step, offset } = shape.grid ?? { step: Math.PI / 18, offset: 0 };
    for (let k = 0; k * step < Math.PI - 1e-9; k++)
      on.line(shape, Math.cos(offset + k * step), Math.sin(offset + k * step));
  },
  ripples(on, shape, isMain) {
    if (isMain) on.cross(shape, 6);
    for (const rx of isMain ? [(2 * EVERY * on.ratio) / on.scale] : on.steps(shape.grid, on.radii(shape)))
      if (rx > 0) on.ellipse(shape, rx, rx * shape.ratio, shape.angle);
  },
  mirror(on, shape, isMain) {
    if (isMain) on.line(shape, Math.cos(shape.angle), Math.sin(shape.angle));
  },
  wheel(on, shape, isMain) {
    if (!isMain) return;
    on.cross(shape, 7);
    const axes = shape.reflects ? shape.sectors / 2 : shape.sectors;
    for (let k = 0; k < axes; k++) {
      const angle = shape.angle + (k * (shape.reflects ? Math.PI : 2 * Math.PI)) / axes;
      on.line(shape, Math.cos(angle), Math.sin(angle), shape.reflects);
    }
  },
};
