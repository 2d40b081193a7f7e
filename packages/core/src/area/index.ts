export { areaKind, MOST_RINGS } from './areaKind';
export * from './rings';
export * from './types';
