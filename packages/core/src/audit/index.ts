export * from './blacks';
export * from './deeds';
export * from './finding';
export * from './leaks';
export type { KnownEnds } from './looseEnds';
export * from './pressCheck';
export * from './weights';
