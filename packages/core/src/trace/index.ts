export { contoursAt } from './contours';
export * from './light';
export { outlinesOf } from './outlines';
export * from './paper';
export * from './sheet';
export * from './trace';
export * from './types';
