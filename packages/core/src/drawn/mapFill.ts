import { mapRamp, type AreaFill } from '../area';
import {
  affineOf,
  apply,
  applyProjective,
  boxMiddle,
  isAffine,
  slopeAt,
  type Box,
  type Matrix,
  type Matrix3x3,
} from '../math';

/** A map of the page as it is about the middle of a box: what cannot be bent follows it. */
export function affineAbout(map: Matrix3x3, box: Box): Matrix {
  if (isAffine(map)) return affineOf(map);
  const { x, y } = boxMiddle(box);
  const [a, b, c, d] = slopeAt(map, x, y);
  const at = applyProjective(map, x, y);
  return [a, b, c, d, at.x - a * x - c * y, at.y - b * x - d * y];
}

/** A fill under an affine map. A tone goes along and turns, and stays as fine as it is: print knows no other screen. */
export function mappedFill(fill: AreaFill, map: Matrix): AreaFill {
  if (fill.as === 'gradient') return { ...fill, ramp: mapRamp(fill.ramp, map) };
  if (fill.as !== 'tone') return fill;
  const [c, s] = [Math.cos(fill.angle), Math.sin(fill.angle)];
  const angle = Math.atan2(map[1] * c + map[3] * s, map[0] * c + map[2] * s);
  return { ...fill, angle, at: apply(map, fill.at), ...(fill.ramp && { ramp: mapRamp(fill.ramp, map) }) };
}
