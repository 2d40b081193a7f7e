export type { Calm, Nib, PenSample, Stroke, StrokeEnd } from '../page';
export * from './calm';
export * from './liveStroke';
export * from './nib';
export * from './outline';
export * from './recalm';
export { sprung, type Spring } from './sprung';
export { TOW_PAUSE } from './tow';
export * from './weight';
