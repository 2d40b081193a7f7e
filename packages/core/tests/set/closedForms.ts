import { flattenSpine, STRIDE, type Spine } from '../../src/curve';
import { carriedBy, type Vector } from '../../src/math';
import { viewOf, type Eye } from '../../src/set';

/** Many places along a course. */
export function polygonOf(spine: Spine): (readonly [number, number])[] {
  const flat = flattenSpine(spine, 0.001);
  return Array.from({ length: flat.length / STRIDE }, (_, k) => [flat[STRIDE * k], flat[STRIDE * k + 1]] as const);
}

/** The contour of a ball as its equation has it. */
export function ball({ centre, radius }: { readonly centre: Vector; readonly radius: number }, camera: Eye) {
  const { map, camera: look } = viewOf(camera);
  const [x, y, z] = carriedBy(map, centre);
  const rest = x * x + y * y + z * z - radius * radius;
  const equation = (px: number, py: number): number => {
    const [u, v] = [(px - look.centre.x) / look.focal, (py - look.centre.y) / look.focal];
    return (x * u + y * v + z) ** 2 - rest * (u * u + v * v + 1);
  };
  return {
    /** The farthest that places lie off the contour, page px: value over gradient. */
    worstOff: (places: readonly (readonly [number, number])[]): number =>
      Math.max(
        ...places.map(([px, py]) => {
          const h = 1e-3;
          const slope = Math.hypot(
            (equation(px + h, py) - equation(px - h, py)) / (2 * h),
            (equation(px, py + h) - equation(px, py - h)) / (2 * h),
          );
          return Math.abs(equation(px, py)) / slope;
        }),
      ),
  };
}
