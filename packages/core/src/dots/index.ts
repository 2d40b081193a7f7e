export * from './dotsKind';
export * from './left';
export * from './types';
