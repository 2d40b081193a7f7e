import { evenlyWide, type Spine } from '../curve';
import { profiled, tapered, type Nib } from '../nib';
import type { Stroke } from './types';

/**
 * A constructed course inked with a nib: its full width, with its profile along all of it, and on open lines its tapers. A
 * chisel, which has no pen to lean, lies at its resting angle. `seed` is for the grain of a broken edge.
 */
export function inked(course: Spine, nib: Nib, seed = 0): Stroke {
  const wide = evenlyWide(course, nib.size);
  const weighed = profiled(course.closed ? wide : tapered(wide, nib), nib);
  const { tip } = nib;
  const laid: Nib = tip?.shape === 'chisel' ? { ...nib, tip: { ...tip, shape: 'flat' } } : nib;
  const stroke: Stroke = { spine: weighed, nib: laid, ends: ['round', 'round'] };
  return nib.edge ? { ...stroke, grain: { seed, offset: 0 } } : stroke;
}

/** What a stroke looks like, without where it comes from: another page has neither its samples nor its guides. */
export const bareStroke = ({ spine, nib, ends, grain, fills }: Stroke): Stroke => ({
  spine,
  nib,
  ends,
  ...(grain && { grain }),
  ...(fills && { fills }),
});
