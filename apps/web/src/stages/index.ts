import type { Stage } from '../board';
import { blacksStage } from './blacks';
import { DEPTH } from './depth';
import { finishStage } from './finish';
import { guidesStage } from './guides';
import { INK } from './ink';
import { LETTERING } from './lettering';
import { MEND } from './mend';
import { PANELS } from './panels';
import { PRESS } from './press';
import { roughStage } from './rough';
import { SET } from './set';
import { TEXTURE } from './texture';
import { TRACE } from './trace';

/** The stages in the order of the work. One more line here is one more knot on the thread. */
export const STAGES: readonly Stage[] = [
  roughStage(PANELS, TRACE),
  guidesStage(DEPTH, SET),
  INK,
  MEND,
  blacksStage(TEXTURE),
  finishStage(PRESS, LETTERING),
];
