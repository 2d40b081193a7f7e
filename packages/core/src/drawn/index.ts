export * from './drawn';
export { gapToStroke } from './gap';
export * from './mark';
export { strokeBox } from './pieces';
export { mappedStroke, strokeMarks } from './stroke';
export * from './table';
