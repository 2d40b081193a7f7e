export { SelectBy, SelectedInWords, SelectSettings } from './SelectSettings';
export { useSelectChoice } from './selectChoice';
export { beginSelecting } from './selectHand';
export { selectionSlot } from './selection';
export { selectionCommands } from './selectionCommands';
export { useSelectedLines, useSelection } from './useSelection';
export { selectionKeepSlot } from './selectionKeep';
