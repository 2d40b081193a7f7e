import { clamp } from '../math';

/** The pressure of a pen as it is; 0.5 for what has no sensor, as W3C Pointer Events has it (§4.1.1, `pressure`). */
export const pressureOf = (pointerType: string, reported: number): number =>
  pointerType === 'pen' ? clamp(reported, 0, 1) : 0.5;
