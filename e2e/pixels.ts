/** Where a picture of so many px a side has no edge: a px and its neighbours are alike. */
function flatIn(of: ArrayLike<number>, side: number): boolean[] {
  const flat: boolean[] = [];
  for (let i = 0; i < of.length; i += 4) {
    let isFlat = true;
    for (const step of [-side - 1, -side, -side + 1, -1, 1, side - 1, side, side + 1])
      for (let k = 0; k < 3 && isFlat; k++) isFlat = Math.abs((of[i + 4 * step + k] ?? of[i + k]) - of[i + k]) < 3;
    flat.push(isFlat);
  }
  return flat;
}

/** The greatest difference of two square pictures (four numbers a px) where neither has an edge, and how many px that are. */
export function apartFromEdges(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  side: number,
): { readonly most: number; readonly compared: number } {
  const [first, second] = [flatIn(a, side), flatIn(b, side)];
  let [most, compared] = [0, 0];
  for (let px = 0; px < first.length; px++) {
    if (!first[px] || !second[px]) continue;
    compared++;
    for (let i = 4 * px; i < 4 * px + 3; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  }
  return { most, compared };
}
