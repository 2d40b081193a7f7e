export type { Calm, Nib, PenSample, Stroke, StrokeEnd } from '../page';
export * from './calm';
export * from './liveStroke';
export * from './nib';
export * from './outline';
