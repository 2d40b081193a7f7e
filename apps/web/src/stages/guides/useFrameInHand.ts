import { useBoard, usePage } from '../../board';
import { frameInHand, type FrameGuide, useGuides } from '../../guiding';

/** The frame that is worked in, as the page has it. */
export function useFrameInHand(): FrameGuide | undefined {
  const page = usePage(useBoard());
  const guideId = useGuides((state) => state.guideId);
  return frameInHand(page, guideId);
}
