import Combine from 'lucide-react-native/icons/combine';
import LayoutPanelTop from 'lucide-react-native/icons/layout-panel-top';
import ListOrdered from 'lucide-react-native/icons/list-ordered';
import Split from 'lucide-react-native/icons/square-split-horizontal';
import UnfoldVertical from 'lucide-react-native/icons/unfold-vertical';
import type { Tool, Wing } from '../../board';
import {
  CutSettings,
  GutterSettings,
  JoinLine,
  PanelLine,
  PanelSettings,
  ReadingSettings,
  StretchLine,
} from './PanelSettings';
import { overBordersCommands, overBordersHold } from './overBorders';
import { panelSlot } from './panelHand';
import { setPanels } from './panelStore';

const panel: Tool = {
  id: 'panel',
  label: 'Panels',
  icon: LayoutPanelTop,
  hint: 'Drag a frame, or a border; touch a panel to choose it',
  command: { room: 'Draw', label: 'Lay out panels' },
  borrows: 'cut-panel',
  begin: (board, press) => board.of(panelSlot).beginPanel(press),
  Line: PanelLine,
  Settings: PanelSettings,
};

const cut: Tool = {
  id: 'cut-panel',
  label: 'Cut',
  icon: Split,
  hint: 'Drag across a panel: it is cut in two, with a gutter between',
  command: { room: 'Draw', label: 'Cut a panel in two' },
  borrows: 'panel',
  begin: (board, press) => board.of(panelSlot).beginCut(press),
  Line: GutterSettings,
  Settings: CutSettings,
};

const join: Tool = {
  id: 'join-panels',
  label: 'Join',
  icon: Combine,
  hint: 'Touch a panel, then the one beside it: they become one',
  command: { room: 'Draw', label: 'Join two panels' },
  borrows: 'panel',
  begin: (board, press) => board.of(panelSlot).beginJoin(press),
  Line: JoinLine,
  Settings: JoinLine,
};

const read: Tool = {
  id: 'read-panels',
  label: 'Order',
  icon: ListOrdered,
  hint: 'Touch the panels in the order in which they are read',
  command: { room: 'Draw', label: 'Say in which order panels are read' },
  borrows: 'panel',
  begin: (board, press) => board.of(panelSlot).beginReading(press),
  Line: ReadingSettings,
  Settings: ReadingSettings,
};

const stretch: Tool = {
  id: 'stretch-room',
  label: 'Room',
  icon: UnfoldVertical,
  hint: 'Drag down between two panels: everything below moves along',
  command: { room: 'Draw', label: 'Stretch the room between panels' },
  borrows: 'panel',
  begin: (board, press) => board.of(panelSlot).beginStretch(press),
  Line: StretchLine,
  Settings: StretchLine,
};

/** Panels are laid out. */
export const PANELS: Wing = {
  tools: [panel, cut, join, read, stretch],
  keeps: [panelSlot],
  forget: () => setPanels({ chosen: [], touched: [] }),
  commands: overBordersCommands,
  holdCommands: [overBordersHold],
};
