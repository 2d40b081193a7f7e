import { STRIDE, type Spine } from '../curve';
import type { Matrix } from '../math';
import { PageError, type Calm, type PenSample, type Stroke } from '../page';
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
  const { origin, nib, grain } = stroke;
  const reason = whyNotRecalm(stroke);
  if (!origin || reason) throw new PageError(reason ?? 'This line has no samples.');
  const { spine } = drawStroke(samples, nib, calm, origin.zoom, grain?.seed);
  return { ...stroke, spine: origin.matrix ? moved(spine, origin.matrix) : spine, origin: { ...origin, calm } };
}

/** The spine moved with its widths kept: the nib has them already as they are now. */
function moved({ points, closed }: Spine, [a, b, c, d, e, f]: Matrix): Spine {
  const image = points.slice();
  for (let i = 0; i < points.length; i += STRIDE) {
    image[i] = a * points[i] + c * points[i + 1] + e;
    image[i + 1] = b * points[i] + d * points[i + 1] + f;
  }
  return { points: image, closed };
}
