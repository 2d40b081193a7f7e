export * from './drawn';
export { areaMarks } from './area';
export { gapToStroke } from './gap';
export * from './mark';
export { strokeBox } from './pieces';
export { dotsFrom } from './toneMark';
export { mappedStroke, strokeMarks } from './stroke';
export * from './table';
export * from './thing';
