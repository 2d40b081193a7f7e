/** Where the line at a height lies in rings, by the non-zero rule: beginnings and ends of stretches in turn, rising. */
export function spansAt(rings: readonly Float64Array[], height: number): number[] {
  const crossings: { readonly at: number; readonly turn: number }[] = [];
  for (const ring of rings)
    for (let k = 0, last = ring.length - 2; k < ring.length; last = k, k += 2) {
      const [ay, by] = [ring[last + 1], ring[k + 1]];
      if (ay <= height === by <= height) continue;
      const at = ring[last] + ((height - ay) / (by - ay)) * (ring[k] - ring[last]);
      crossings.push({ at, turn: by > ay ? 1 : -1 });
    }
  crossings.sort((a, b) => a.at - b.at);
  const spans: number[] = [];
  let winding = 0;
  for (const { at, turn } of crossings) {
    if (winding === 0) spans.push(at);
    winding += turn;
    if (winding === 0) spans.push(at);
  }
  return spans;
}
