import { ridingOn } from '../guides';
import { invert } from '../math';
import { mapPath, mapSpine } from '../curve';
import { PageError } from '../gate';
import type { Calm, PenSample } from '../hand';
import type { Nib } from '../nib';
import type { Stroke } from '../stroke';
import { drawStroke } from './liveStroke';

/** Why a stroke cannot be calmed again, in a sentence; nothing where it can. */
export function whyNotRecalm({ origin, nib }: Stroke): string | undefined {
  if (!origin)
    return `A line (${nib.name}) has no hand to go back to: it was constructed, pasted or pulled out of shape.`;
  if (origin.left === 'cut') return `A line (${nib.name}) was cut, so it has left its samples.`;
  if (origin.left) return `A line (${nib.name}) was edited by hand, so it has left its samples.`;
  return undefined;
}

/**
 * The stroke as another calm would have drawn it, from the raw samples it comes from, wherever it was moved since. Throws a
 * PageError for a stroke that has left its samples or never had any.
 */
export function recalm<S extends Stroke>(stroke: S, samples: readonly PenSample[], calm: Calm): S {
  return redrawn(stroke, samples, stroke.nib, calm);
}

/** The stroke as its hand would have drawn it with a nib and a calm; throws as `recalm` does. */
export function redrawn<S extends Stroke>(stroke: S, samples: readonly PenSample[], nib: Nib, calm: Calm): S {
  const { origin, grain, guide } = stroke;
  const reason = whyNotRecalm(stroke);
  if (!origin || reason) throw new PageError(reason ?? 'This line has no samples.');
  const { matrix, zoom, widened = 1 } = origin;
  // A guided line rides its path anew, where the hand drew it.
  const path = guide && (matrix ? mapPath(guide.path, invert(matrix)) : guide.path);
  // Drawn as large as the hand drew it: its tapers go by the size of the nib, and grow with the map.
  const own = widened === 1 ? nib : { ...nib, size: nib.size / widened };
  const drawn = drawStroke(samples, own, calm, { zoom, seed: grain?.seed, riding: path && ridingOn(path, 1 / zoom) });
  const spine = matrix ? mapSpine(drawn.spine, matrix, widened) : drawn.spine;
  return { ...stroke, nib, spine, origin: { ...origin, calm } };
}
