import { curvesOf } from './curves';

/** Paths are written in whole parts of a px, so many to a px. */
export const PATH_PARTS = 100;

/** How far a handle may lie beside its chord, in these parts, for its curve to be written as a straight line. */
const FLAT = 1;

/**
 * A closed ring of x, y pairs, page px, as path data (SVG 1.1, §8.3) in hundredths of a px: curves and straight lines in steps from where the last one
 * ended, so that rounding never adds up.
 */
export function ringData(ring: Float64Array): string {
  if (ring.length < 6) return '';
  const curves = curvesOf(ring);
  let x = Math.round(curves[0] * PATH_PARTS);
  let y = Math.round(curves[1] * PATH_PARTS);
  let data = `M${x}${spaced(y)}`;
  let isCurve: boolean | undefined;
  for (let k = 2; k < curves.length; k += 6) {
    const a = Math.round(curves[k] * PATH_PARTS) - x;
    const b = Math.round(curves[k + 1] * PATH_PARTS) - y;
    const c = Math.round(curves[k + 2] * PATH_PARTS) - x;
    const d = Math.round(curves[k + 3] * PATH_PARTS) - y;
    const dx = Math.round(curves[k + 4] * PATH_PARTS) - x;
    const dy = Math.round(curves[k + 5] * PATH_PARTS) - y;
    if (isFlat(a, b, dx, dy) && isFlat(c, d, dx, dy)) {
      // The last line is drawn by closing.
      if ((dx === 0 && dy === 0) || k + 6 >= curves.length) continue;
      data += `${isCurve === false ? spaced(dx) : `l${dx}`}${spaced(dy)}`;
      isCurve = false;
    } else {
      data += `${isCurve ? spaced(a) : `c${a}`}${spaced(b)}${spaced(c)}${spaced(d)}${spaced(dx)}${spaced(dy)}`;
      isCurve = true;
    }
    x += dx;
    y += dy;
  }
  return `${data}z`;
}

/** Whether a handle lies along a chord, between its ends. */
function isFlat(a: number, b: number, dx: number, dy: number): boolean {
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return Math.abs(a) <= FLAT && Math.abs(b) <= FLAT;
  const along = (a * dx + b * dy) / length;
  return Math.abs(a * dy - b * dx) <= FLAT * length && along >= -FLAT && along <= length + FLAT;
}

/** A whole number after another one: a sign parts them as well as a space does. */
const spaced = (value: number): string => (value < 0 ? `${value}` : ` ${value}`);
