import { apply, type Matrix } from '../math';
import type { GuidePath } from './guidePath';
import { STRIDE, type Spine } from './spine';

/** The image of a spine: nodes and handles mapped exactly, widths times `factor`. */
export function mapSpine({ points: old, closed }: Spine, map: Matrix, factor = 1): Spine {
  const points = new Float64Array(old.length);
  for (let k = 0; k < old.length; k += STRIDE) {
    points[k] = map[0] * old[k] + map[2] * old[k + 1] + map[4];
    points[k + 1] = map[1] * old[k] + map[3] * old[k + 1] + map[5];
    points[k + 2] = old[k + 2] * factor;
  }
  return { points, closed };
}

/** The image of a path under an affine map. */
export function mapPath(path: GuidePath, map: Matrix): GuidePath {
  if (path.kind === 'curve') return { kind: 'curve', course: mapSpine(path.course, map) };
  const at = apply(map, path);
  const [a, b, c, d] = map;
  if (path.kind === 'line') {
    const [x, y] = [a * path.dx + c * path.dy, b * path.dx + d * path.dy];
    const stretch = Math.hypot(x, y);
    const { from, to } = path;
    return {
      ...{ kind: 'line', ...at, dx: x / stretch, dy: y / stretch },
      ...(from !== undefined && { from: from * stretch }),
      ...(to !== undefined && { to: to * stretch }),
    };
  }
  // The image of the unit circle under A·R·diag(rx, ry); its half axes are the singular values (Golub & Van Loan, §8.6).
  const [cos, sin] = [Math.cos(path.angle), Math.sin(path.angle)];
  const [p, q] = [(a * cos + c * sin) * path.rx, (c * cos - a * sin) * path.ry];
  const [r, s] = [(b * cos + d * sin) * path.rx, (d * cos - b * sin) * path.ry];
  const [e, f, g, h] = [(p + s) / 2, (p - s) / 2, (r + q) / 2, (r - q) / 2];
  const [sum, difference] = [Math.hypot(e, h), Math.hypot(f, g)];
  const [turn, twist] = [Math.atan2(g, f), Math.atan2(h, e)];
  return { kind: 'ellipse', ...at, rx: sum + difference, ry: Math.abs(sum - difference), angle: (twist + turn) / 2 };
}
