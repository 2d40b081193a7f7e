/** Edges as halves (see `planar.ts`), as far as they are looked at from beside. */
export interface Edges {
  readonly xs: readonly number[];
  readonly ys: readonly number[];
  readonly from: Int32Array;
}

/** Rows that edges are sorted into: as many as there are edges, up to this. */
const MOST_ROWS = 4_096;

/**
 * For halves at which a part that hangs together reaches farthest to the left: the half that bounds, from its left, the
 * face that lies just beside them; −1 where nothing lies to their left. Exact for whole numbers up to 2²⁵.
 */
export function nearestToTheLeft({ xs, ys, from }: Edges, halves: readonly number[]): Int32Array {
  const count = from.length / 2;
  let [top, bottom] = [Infinity, -Infinity];
  for (const vertex of from) {
    top = Math.min(top, ys[vertex]);
    bottom = Math.max(bottom, ys[vertex]);
  }
  const rows = Math.max(1, Math.min(MOST_ROWS, count));
  const high = Math.max(1, (bottom - top + 1) / rows);
  const rowOf = (y: number) => Math.floor((y - top) / high);
  const inRow: number[][] = Array.from({ length: rows + 1 }, () => []);
  for (let edge = 0; edge < count; edge++) {
    const [a, b] = [ys[from[2 * edge]], ys[from[2 * edge + 1]]];
    if (a === b) continue;
    for (let row = rowOf(Math.min(a, b)); row <= rowOf(Math.max(a, b)); row++) inRow[row].push(edge);
  }
  return Int32Array.from(halves, (half) => {
    const [x, y] = [xs[from[half]], ys[from[half]]];
    let best: { readonly edge: number; readonly at: number; readonly slope: number } | undefined;
    for (const edge of inRow[rowOf(y)]) {
      const [a, b] = [from[2 * edge], from[2 * edge + 1]];
      // Looked at a hair below y (seen with y down), so that no corner is hit.
      if (ys[a] <= y === ys[b] <= y) continue;
      const [low, high] = ys[a] < ys[b] ? [a, b] : [b, a];
      const beyond = (xs[high] - xs[low]) * (y - ys[low]) - (ys[high] - ys[low]) * (x - xs[low]);
      if (beyond >= 0) continue;
      const slope = (xs[high] - xs[low]) / (ys[high] - ys[low]);
      const at = ys[high] === y ? xs[high] : xs[low] + (y - ys[low]) * slope;
      if (!best || at > best.at || (at === best.at && slope > best.slope)) best = { edge, at, slope };
    }
    if (!best) return -1;
    // Of the two, the one that goes towards smaller y has greater x on its left.
    const [a, b] = [ys[from[2 * best.edge]], ys[from[2 * best.edge + 1]]];
    return a > b ? 2 * best.edge : 2 * best.edge + 1;
  });
}
