import { layOut } from '../board';
import { generalCommands, generalHolds, historyCommands } from '../chrome';
import { STAGES } from '../stages';

// The app is put together here, before its first screen is drawn.
layOut(STAGES, { first: historyCommands, last: generalCommands, holds: generalHolds });
