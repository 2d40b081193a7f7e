export * from './balloons';
export {
  bendBorder,
  bleedOver,
  moveBorder,
  moveCorner,
  sidesAlong,
  type BorderOptions,
  type PageEdge,
  type PanelSide,
} from './borders';
export { cutRing } from './cut';
export { boxRing, evenRows, leastPanel, panelGrid, type GridRow, type PanelGrid } from './grid';
export { joinedRing } from './join';
export * from './letters';
export * from './lying';
export { readingOrder } from './order';
export * from './panels';
export { restackLetters, restackPanels, type StackEnd } from './restack';
export { checkPanelRing, ringThrough, sideEnds } from './sides';
export { stretchRoom } from './room';
export * from './snap';
export { spreadsOf, type Opening, type Spread } from '../page';
export { writtenAsText, writtenOn, type Voice, type Written } from './written';
export { closedCourses, shapedRing, type PanelShape } from './shapes';
