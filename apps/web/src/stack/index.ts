export { StackPanel } from './StackPanel';
export { bringIn } from './bringIn';
export {
  addLayer,
  deleteChosen,
  duplicateChosen,
  groupChosen,
  inkToPixels,
  mergeDown,
  tellLayers,
  toggleSolo,
  walkStack,
} from './layerCommands';
export { mergeClean } from './mergeClean';
export { chooseRough, takeRough } from './takeRough';
