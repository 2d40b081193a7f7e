export { breath, inParts } from './breath';
export { Hired } from './hired';
export { InTurn } from './inTurn';
export { inThousands } from './inThousands';
export { keptHere } from './keptHere';
export { keptStore } from './keptStore';
export { Listeners } from './listeners';
export { seedNow } from './seed';
export { sha256Of } from './sha256';
