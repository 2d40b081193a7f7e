export { type Built, PathTool } from './pathTool';
export { INK } from './stage';
export { beginShape } from './shapeHand';
export { useShapeChoice } from './shapeChoice';
export { PathSettings, ShapeSettings } from './ShapeSettings';
export { beginStroke } from './strokeHand';
