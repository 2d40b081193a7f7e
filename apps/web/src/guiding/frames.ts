import { actsOn, type Seen, type FrameShape, type GuideEntity } from '@true-nib/core/guides';
import { find, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { takeTool, useDesk, layerInHand, type Board } from '../board';
import { guidesOf } from './layGuide';
import { setGuides, useGuides } from './guideStore';
import { setDepth, useDepth, type DepthDeed } from './depthStore';

export type FrameGuide = GuideEntity & { readonly shape: FrameShape };

const isFrame = (guide: GuideEntity | undefined): guide is FrameGuide => guide?.shape.kind === 'frame';

/**
 * The frame that is worked in: the one in hand, the one that what is in hand hangs on, else the first that acts on the layer
 * in hand, else any.
 */
export function frameInHand(page: Page, guideId = useGuides.getState().guideId): FrameGuide | undefined {
  const inHand = guideId === undefined ? undefined : find(page, 'guide', guideId);
  if (isFrame(inHand)) return inHand;
  const { shape } = inHand ?? {};
  if (shape?.kind === 'plane' || shape?.kind === 'fold') {
    const own = find(page, 'guide', shape.frame);
    if (isFrame(own)) return own;
  }
  const frames = guidesOf(page).filter(isFrame);
  const layerId = layerInHand(page, useDesk.getState().layerId)?.layer.id;
  return frames.find((guide) => actsOn(guide, layerId)) ?? frames[0];
}

/** The frames of a page that act on a layer, for selections, boxes and shapes: none while all is free. */
export function actingFrame(page: Page, layerId: EntityId | undefined): FrameGuide | undefined {
  const { guided, isFree } = useGuides.getState();
  if (!guided || isFree) return undefined;
  return guidesOf(page)
    .filter(isFrame)
    .find((guide) => actsOn(guide, layerId));
}

/** Takes up work in depth, with the frame of the page in hand. */
export function takeDepth(page: Page, deed: DepthDeed = useDepth.getState().deed): void {
  const guideId = frameInHand(page)?.id;
  takeTool('depth');
  setDepth({ deed });
  if (deed === 'frame') setGuides({ guideId, laying: undefined });
}

export const seenOn = ({ session, picture }: Board): Seen => ({
  page: session.page.size,
  view: picture.view,
  board: picture.free,
});
