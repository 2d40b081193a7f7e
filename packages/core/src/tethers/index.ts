export * from './courses';
export { isImage, tetheredCount } from './guided';
export * from './tether';
export { twinEdits } from './twins';
