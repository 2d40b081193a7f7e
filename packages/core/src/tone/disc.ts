/** Fewest corners of a dot, however small it is seen. */
const FEWEST = 6;

/**
 * A disc as a closed ring of x, y pairs that strays from its circle by about `tolerance`, lengths in page px. The ring covers
 * exactly what the circle covers.
 */
export function discRing(x: number, y: number, radius: number, tolerance: number): Float64Array {
  const count = tolerance < radius ? Math.max(FEWEST, Math.ceil(Math.PI / Math.acos(1 - tolerance / radius))) : FEWEST;
  const step = (2 * Math.PI) / count;
  const out = radius * Math.sqrt(step / Math.sin(step));
  const ring = new Float64Array(2 * count);
  const [c, s] = [Math.cos(step), Math.sin(step)];
  let [dx, dy] = [out, 0];
  for (let i = 0; i < ring.length; i += 2) {
    ring[i] = x + dx;
    ring[i + 1] = y + dy;
    [dx, dy] = [dx * c - dy * s, dx * s + dy * c];
  }
  return ring;
}
