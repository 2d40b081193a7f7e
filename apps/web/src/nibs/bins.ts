/** How often values 0..1 came, in so many steps from 0 to 1, softened and scaled so that the most frequent is `most`. */
export function binned(values: readonly number[], steps: number, most: number): number[] {
  const counts = new Array<number>(steps + 1).fill(0);
  for (const value of values) counts[Math.round(Math.min(1, Math.max(0, value)) * steps)]++;
  const soft = counts.map((count, k) => ((counts[k - 1] ?? 0) + 2 * count + (counts[k + 1] ?? 0)) / 4);
  const peak = Math.max(...soft);
  return peak > 0 ? soft.map((count) => (count / peak) * most) : soft;
}
