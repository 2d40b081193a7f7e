export * from './bodies';
export { balloonKind, BALLOON_LIMITS } from './balloonKind';
export * from './grips';
export * from './outline';
export * from './types';
