import { evenlyWide } from '../curve';
import { clamp, distance, type Point } from '../math';
import { lineSpine } from '../shapes';
import type { Stroke } from '../stroke';

/** The share of its width that a bridge reaches into the lines at either end. */
const INTO = 0.35;
/** Page px that a bridge is wide at least and at most. */
const WIDTHS = { least: 0.5, most: 200 } as const;

/** A line beside a gap, and how wide it is there, page px. */
export interface Beside {
  readonly line: Stroke;
  readonly width: number;
}

/**
 * A line over a gap between two places, in the nib of the first line beside it and as wide as the narrower, which reaches into both;
 * nothing where no line lies beside it.
 */
export function bridgeOver([from, to]: readonly [Point, Point], beside: readonly Beside[]): Stroke | undefined {
  if (beside.length === 0) return undefined;
  const width = clamp(Math.min(...beside.map((one) => one.width)), WIDTHS.least, WIDTHS.most);
  const length = Math.max(0.01, distance(from, to));
  const [dx, dy] = [((to.x - from.x) / length) * width * INTO, ((to.y - from.y) / length) * width * INTO];
  const course = lineSpine({ x: from.x - dx, y: from.y - dy }, { x: to.x + dx, y: to.y + dy });
  const { edge: _edge, profile: _profile, tip: _tip, ...nib } = beside[0].line.nib;
  return { spine: evenlyWide(course, width), nib, ends: ['round', 'round'] };
}
