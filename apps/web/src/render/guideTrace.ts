import { SEGMENT, STRIDE, type Spine } from '@true-nib/core/curve';
import {
  outlines,
  straightEdges,
  wayTo,
  type GuideEntity,
  type GuideGrid,
  type RipplesShape,
} from '@true-nib/core/guides';
import { apply, box, boxCorners, invert, scaleOf, type Matrix, type Point } from '@true-nib/core/math';

/** CSS px between lines of a field that has no grid. */
const EVERY = 64;
const MOST = 120;

/** Traces guides as paths of device px. */
export class GuideTrace {
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
