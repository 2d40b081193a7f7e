import { layOut } from '../board/layOut';
import { generalCommands, generalHolds, historyCommands } from '../chrome/commands';
import { STAGES } from '../stages';

// The app is put together here, before its first screen is drawn.
layOut(STAGES, { first: historyCommands, last: generalCommands, holds: generalHolds });
