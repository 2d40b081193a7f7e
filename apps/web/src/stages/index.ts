import type { Stage } from '../board';
import { blacksStage } from './blacks';
import { DEPTH } from './depth';
import { FINISH } from './finish';
import { guidesStage } from './guides';
import { INK } from './ink';
import { MEND } from './mend';
import { ROUGH } from './rough';
import { TEXTURE } from './texture';

/** The stages in the order of the work. One more line here is one more knot on the thread. */
export const STAGES: readonly Stage[] = [ROUGH, guidesStage(DEPTH), INK, MEND, blacksStage(TEXTURE), FINISH];
