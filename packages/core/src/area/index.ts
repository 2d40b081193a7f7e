export { areaKind, MOST_RINGS } from './areaKind';
export { checkFill, checkTone, TONE_LIMITS } from './checkFill';
export * from './ramp';
export * from './rings';
export * from './types';
