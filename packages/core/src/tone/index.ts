export { discRing } from './disc';
export type { Patch } from './patch';
export { crossedShare, dotRadius } from './share';
export { shareAt } from './screen';
export * from './tone';
