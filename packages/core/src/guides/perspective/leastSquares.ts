/** Residuals of some parameters: their sum of squares is to be as small as can be. */
export type Residuals = (parameters: readonly number[]) => readonly number[];

const ROUNDS = 60;
const STEP = 1e-6;

/**
 * The parameters near `start` that make a sum of squares least (Levenberg 1944, Marquardt 1963), with slopes taken by
 * central differences. Parameters should be of about one size, some tenths to some units.
 */
export function leastSquares(residuals: Residuals, start: readonly number[]): number[] {
  let best = [...start];
  let errors = residuals(best);
  let cost = sumOfSquares(errors);
  let damping = 1e-3;
  for (let round = 0; round < ROUNDS && cost > 1e-26; round++) {
    const slopes = best.map((_, k) => slopeOf(residuals, best, k));
    const normal = slopes.map((a) => slopes.map((b) => inner(a, b)));
    const pull = slopes.map((a) => -inner(a, errors));
    const before = cost;
    for (let tries = 0; tries < 12; tries++) {
      const damped = normal.map((row, k) => row.map((value, n) => (k === n ? value * (1 + damping) + 1e-18 : value)));
      const step = solved(damped, pull);
      const next = best.map((value, k) => value + step[k]);
      const nextErrors = residuals(next);
      const nextCost = sumOfSquares(nextErrors);
      if (nextCost < cost) {
        [best, errors, cost] = [next, nextErrors, nextCost];
        damping = Math.max(1e-12, damping / 5);
        break;
      }
      damping *= 6;
    }
    if (!(before - cost > 1e-9 * before)) break;
  }
  return best;
}

function slopeOf(residuals: Residuals, at: readonly number[], k: number): number[] {
  const moved = (by: number) => residuals(at.map((value, n) => (n === k ? value + by : value)));
  const [ahead, behind] = [moved(STEP), moved(-STEP)];
  return ahead.map((value, n) => (value - behind[n]) / (2 * STEP));
}

const inner = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, value, k) => sum + value * b[k], 0);
const sumOfSquares = (values: readonly number[]): number => inner(values, values);

/** The solution of a small system, by elimination with the largest pivot. */
function solved(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const rows = matrix.map((row, k) => [...row, right[k]]);
  const size = rows.length;
  for (let k = 0; k < size; k++) {
    let pivot = k;
    for (let n = k + 1; n < size; n++) if (Math.abs(rows[n][k]) > Math.abs(rows[pivot][k])) pivot = n;
    [rows[k], rows[pivot]] = [rows[pivot], rows[k]];
    for (let n = k + 1; n < size; n++) {
      const share = rows[k][k] === 0 ? 0 : rows[n][k] / rows[k][k];
      for (let m = k; m <= size; m++) rows[n][m] -= share * rows[k][m];
    }
  }
  const found = new Array<number>(size).fill(0);
  for (let k = size - 1; k >= 0; k--) {
    let rest = rows[k][size];
    for (let m = k + 1; m < size; m++) rest -= rows[k][m] * found[m];
    found[k] = rows[k][k] === 0 ? 0 : rest / rows[k][k];
  }
  return found;
}
