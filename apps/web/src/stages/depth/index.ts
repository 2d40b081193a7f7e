export { depthSlot } from './depthTool';
export { depthTools } from './tools';
