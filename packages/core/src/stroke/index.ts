export * from './inked';
export * from './mapStroke';
export * from './samplesKind';
export * from './strokeKind';
export * from './style';
export * from './types';
