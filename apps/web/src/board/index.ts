export { asEntities } from './asEntities';
export { begunSlot, inPanel } from './begunIn';
export type { Board, Hand, PageKeep, PageSlot, Press } from './board';
export { BoardContext, useBoard, usePage, useSessionState, useSlot } from './boardContext';
export { type Command, type HoldCommand, ROOMS } from './command';
export {
  borrowTool,
  chooseLayer,
  giveBack,
  isInHand,
  leaveAside,
  setStage,
  takeLayer,
  takeTool,
  togglePage,
  toolInHand,
  useDesk,
} from './desk';
export type { Desk, DeskSheet } from './deskState';
export { calmedGesture, type Gesture, type Modifiers, refuse, still } from './gesture';
export { layOut } from './layOut';
export { asSeen, drawnLayer, hiddenInWords, layerInHand, nodeInHand, targetInHand, underBorders } from './layerInHand';
export { type SettingsProps, type Stage, type Tool, type Wing, workbench } from './workbench';
