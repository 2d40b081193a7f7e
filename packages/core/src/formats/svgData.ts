import { curvesOf, inParts, isStraight } from './curves';

/** Paths are written in whole parts of a px, so many to a px. */
export const PATH_PARTS = 100;

/**
 * A closed ring of x, y pairs, page px, as path data (SVG 1.1, §8.3) in hundredths of a px: curves and straight lines in steps from where the last one
 * ended, so that rounding never adds up.
 */
export function ringData(ring: Float64Array): string {
  if (ring.length < 6) return '';
  const at = inParts(curvesOf(ring), PATH_PARTS);
  let data = `M${at[0]}${spaced(at[1])}`;
  let isCurve: boolean | undefined;
  for (let k = 6; k < at.length; k += 6) {
    const [x, y] = [at[k - 6], at[k - 5]];
    const [dx, dy] = [at[k] - x, at[k + 1] - y];
    if (isStraight(at, k)) {
      // The last line is drawn by closing.
      if ((dx === 0 && dy === 0) || k + 6 >= at.length) continue;
      data += `${isCurve === false ? spaced(dx) : `l${dx}`}${spaced(dy)}`;
      isCurve = false;
    } else {
      const a = at[k - 4] - x;
      data += isCurve ? spaced(a) : `c${a}`;
      for (let j = k - 3; j < k; j++) data += spaced(at[j] - (j % 2 === 0 ? x : y));
      data += `${spaced(dx)}${spaced(dy)}`;
      isCurve = true;
    }
  }
  return `${data}z`;
}

/** A whole number after another one: a sign parts them as well as a space does. */
const spaced = (value: number): string => (value < 0 ? `${value}` : ` ${value}`);
