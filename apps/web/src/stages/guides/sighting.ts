import { sightFrame, type Sighting, type SightedResidual, type SightedEdge } from '@true-nib/core/guides';
import type { Matrix } from '@true-nib/core/math';
import { PageError } from '@true-nib/core/gate';
import type { Page } from '@true-nib/core/page';
import { drawFrame, drawSighted, GUIDE_HUES } from '../../render';
import { useDesk } from '../../board';
import { useDepth } from '../../guiding';

/** What the edges that were laid so far say: a frame, or why there is none yet. */
export type Sighted = Sighting | { readonly missing: string };

let last:
  { readonly edges: readonly SightedEdge[]; readonly size: Page['size']; readonly sighted: Sighted } | undefined;

/** The frame that some edges were seen in; the same one for the same edges. */
export function sightedFrom(edges: readonly SightedEdge[], { size }: Page): Sighted {
  if (last && last.edges === edges && last.size === size) return last.sighted;
  let sighted: Sighted;
  try {
    sighted = sightFrame(edges, size);
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    sighted = { missing: error.message };
  }
  last = { edges, size, sighted };
  return sighted;
}

/** Paints the edges that are being laid, and the frame that they give, while one sights. */
export function drawSighting(context: CanvasRenderingContext2D, page: Page, map: Matrix, ratio: number): void {
  const { tool } = useDesk.getState();
  const { deed, edges } = useDepth.getState();
  if (tool !== 'depth' || deed !== 'sight' || edges.length === 0) return;
  const sighted = sightedFrom(edges, page);
  if ('frame' in sighted)
    drawFrame(
      context,
      sighted.frame,
      { colour: '#4e5a65', isActing: true, isInHand: false, ways: ['right', 'left', 'height'] },
      { page: page.size, map, ratio },
    );
  const residuals: readonly SightedResidual[] =
    'frame' in sighted ? sighted.residuals : edges.map((edge) => ({ edge, degrees: 0, isOutlier: false }));
  drawSighted(context, residuals, { isFitted: 'frame' in sighted, hues: GUIDE_HUES }, { map, ratio });
}
