import { reversedSpine } from '../curve';
import { redrawn, whyNotRecalm } from '../ink';
import type { Nib } from '../nib';
import type { PenSample } from '../hand';
import type { Stroke } from '../stroke';

/**
 * A line as another nib would have drawn it: from its raw samples where it still has them, otherwise its widths as many
 * times as large as the nib is.
 */
export function withNib<S extends Stroke>(stroke: S, nib: Nib, samples?: readonly PenSample[]): S {
  const { origin, spine } = stroke;
  if (origin && samples && !whyNotRecalm(stroke)) return redrawn(stroke, samples, nib, origin.calm);
  const factor = nib.size / stroke.nib.size;
  const points = spine.points.map((value, k) => (k % 3 === 2 ? value * factor : value));
  return { ...stroke, nib, spine: { ...spine, points } };
}

/** A line drawn from its end to its start; it looks the same, and tapers, profiles and grain run the other way from now on. */
export function reversed<S extends Stroke>(stroke: S): S {
  const { origin: _gone, ...rest } = stroke;
  // Everything but its samples, which went the other way.
  return { ...(rest as S), spine: reversedSpine(stroke.spine), ends: [stroke.ends[1], stroke.ends[0]] };
}
