import type { GuideKind } from '@true-nib/core/guides';
import { takeTool } from '../board';
import { setGuides } from './guideStore';

/** Takes the guide tool in hand to lay down a guide with the next drag. */
export function layNext(laying: GuideKind | undefined): void {
  takeTool('guide');
  setGuides({ laying, isAiming: false });
}
