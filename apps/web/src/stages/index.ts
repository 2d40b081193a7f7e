import type { Stage } from '../board/workbench';
import { depthSlot } from './depth/depthTool';
import { depthTools } from './depth/tools';
import { FINISH } from './finish/stage';
import { guidesStage } from './guides/stage';
import { INK } from './ink/stage';
import { MEND } from './mend/stage';
import { ROUGH } from './rough/stage';

/** The stages in the order of the work. One more line here is one more knot on the thread. */
export const STAGES: readonly Stage[] = [ROUGH, guidesStage(depthTools, [depthSlot]), INK, MEND, FINISH];
