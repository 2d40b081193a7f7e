export { contoursAt } from './contours';
export * from './deeds';
export * from './light';
export { outlinesOf } from './outlines';
export * from './paper';
export { sheetCorners } from './sheet';
export * from './trace';
export type * from './types';
export * from './within';
