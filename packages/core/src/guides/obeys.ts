import { isSameCourse, type GuidePath } from '../curve';
import { distance } from '../math';
import type { GuideShape } from './guide';
import { straightEdges, templateRings } from './edges';
import { project } from './path';
import { isOnPlaneShape, wayOf } from './perspective/carry';

/** Whether a path is one that a guide of this shape gives: a line that was moved off it since is none of its own. */
export function obeys(path: GuidePath, shape: GuideShape): boolean {
  switch (shape.kind) {
    case 'rails':
      return path.kind === 'line' && Math.abs(path.dx * Math.sin(shape.angle) - path.dy * Math.cos(shape.angle)) < 1e-6;
    case 'rays': {
      if (path.kind !== 'line') return false;
      const [x, y] = [shape.x - path.x, shape.y - path.y];
      return Math.abs(x * path.dy - y * path.dx) < 1e-6 * (1 + Math.hypot(x, y)) + 1e-3;
    }
    case 'ripples': {
      if (path.kind !== 'ellipse' || distance(path, shape) > 1e-3) return false;
      const [long, short] = [Math.max(path.rx, path.ry), Math.min(path.rx, path.ry)];
      return Math.abs(short / long - shape.ratio) < 1e-6;
    }
    case 'straightedge':
      return straightEdges(shape).some((edge) => path.kind === 'line' && project(edge, path).distance < 1e-3);
    case 'batten':
      return path.kind === 'curve' && isSameCourse(path.course, shape.course);
    case 'frame':
      return wayOf(shape, path) !== undefined;
    case 'plane':
      return isOnPlaneShape(path, shape);
    case 'template':
      return path.kind === 'curve' && templateRings(shape).some((ring) => isSameCourse(ring, path.course));
    default:
      return path.kind === 'curve';
  }
}
