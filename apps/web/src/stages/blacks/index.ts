export { LEAKS } from './leakHand';
export { LoopWay } from './loopHand';
export { pourSlot } from './pourHand';
export { blacksStage } from './stage';
