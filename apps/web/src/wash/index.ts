export { beginMarks } from './markHand';
export { Washing, washingSlot } from './washing';
