export * from './row';
export { checkShape, shapeRow } from './table';
