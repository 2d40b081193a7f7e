export * from './calm';
export type { HandCalmer } from './handCalmer';
export * from './liveStroke';
export * from './outline';
export * from './recalm';
export { sprung, type Spring } from './sprung';
export { TOW_PAUSE } from './tow';
export * from './weight';
