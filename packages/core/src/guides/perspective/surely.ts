/** Halvings by which the quantile is found: to the last digit. */
const HALVINGS = 100;

/** How much of Student's t distribution lies within ±t: a finite sum for whole degrees of freedom (Abramowitz & Stegun 1964, 26.7.3, 26.7.4). */
function within(t: number, freedom: number): number {
  const angle = Math.atan(t / Math.sqrt(freedom));
  const square = Math.cos(angle) ** 2;
  const isOdd = freedom % 2 === 1;
  let term = isOdd ? Math.cos(angle) : 1;
  let sum = freedom === 1 ? 0 : term;
  for (let k = isOdd ? 3 : 2; k < freedom; k += 2) {
    term *= ((k - 1) / k) * square;
    sum += term;
  }
  return isOdd ? (2 / Math.PI) * (angle + Math.sin(angle) * sum) : Math.sin(angle) * sum;
}

/** The 99 % quantile of F(1, `freedom`), a whole number of 1 or more: the square of that of Student's t on both sides. */
export function surelyMore(freedom: number): number {
  let [low, high] = [0, 1];
  while (within(high, freedom) < 0.99) high *= 2;
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    if (within(middle, freedom) < 0.99) low = middle;
    else high = middle;
  }
  return low * low;
}
