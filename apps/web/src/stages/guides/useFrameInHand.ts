import { useBoard, usePage } from '../../board/boardContext';
import { frameInHand, type FrameGuide } from '../../guiding/frames';
import { useGuides } from '../../guiding/guideStore';

/** The frame that is worked in, as the page has it. */
export function useFrameInHand(): FrameGuide | undefined {
  const page = usePage(useBoard());
  const guideId = useGuides((state) => state.guideId);
  return frameInHand(page, guideId);
}
