/** From this share on round dots on a square grid touch each other. */
const TOUCHING = Math.PI / 4;
const BISECTIONS = 40;

/**
 * The radius of round dots, one to each square of side 1, that cover a share of it together. From π/4 on they overlap: each
 * loses a segment of its circle over every side (area of a circular segment, Bronstein 2008, §3.2).
 */
export function dotRadius(share: number): number {
  if (share <= 0) return 0;
  if (share <= TOUCHING) return Math.sqrt(share / Math.PI);
  let [low, high] = [0.5, Math.SQRT1_2];
  for (let k = 0; k < BISECTIONS; k++) {
    const middle = (low + high) / 2;
    if (overlapping(middle) < share) low = middle;
    else high = middle;
  }
  return high;
}

/** The share of the square that dots of a radius of 0.5 to √½ cover. */
function overlapping(radius: number): number {
  const square = radius * radius;
  const segment = square * Math.acos(Math.min(1, 0.5 / radius)) - 0.5 * Math.sqrt(Math.max(0, square - 0.25));
  return Math.PI * square - 4 * segment;
}

/**
 * The share that each of two crossed screens covers, so that both cover `share` together: screens that know nothing of each
 * other let through the product of what they let through (Murray 1936, after Davies).
 */
export const crossedShare = (share: number): number => 1 - Math.sqrt(1 - share);
