import Eraser from 'lucide-react-native/icons/eraser';
import Lasso from 'lucide-react-native/icons/lasso';
import PenTool from 'lucide-react-native/icons/pen-tool';
import Shapes from 'lucide-react-native/icons/shapes';
import Spline from 'lucide-react-native/icons/spline';
import { View } from 'react-native';
import type { SettingsProps, Tool } from '../../board';
import { lastEndSlot } from '../../hand';
import { Hint } from '../../look';
import {
  CalmSetting,
  ColourSetting,
  CalmFold,
  NibFolds,
  NibInHand,
  nibFor,
  rubSizeFor,
  SizeSetting,
  resizeRub,
  useRackNib,
} from '../../nibs';
import {
  beginSelecting,
  useSelectChoice,
  selectionCommands,
  SelectBy,
  SelectedInWords,
  SelectSettings,
} from '../../select';
import { CutEndChoice } from '../mend';
import { pathSlot } from './pathTool';
import { beginRubbing } from './rubHand';
import { useShapeChoice } from './shapeChoice';
import { beginShape } from './shapeHand';
import { PathSettings, ShapeChoice, ShapeSettings } from './ShapeSettings';
import { straightOnSlot } from './straightOn';
import { beginStroke } from './strokeHand';

const nibRing: Tool['ring'] = (page) => nibFor(page).size / 2;

const perRow = (isWide: boolean) => (isWide ? 1 : 3);

/** The line of a wide column. */
const Row = ({ children }: { readonly children: React.ReactNode }) => (
  <View className="flex-row gap-2">{children}</View>
);

const NibNow = () => <NibInHand width={92} height={48} />;

function NibHint() {
  const { nib } = useRackNib();
  return `${nib.name} draws`;
}

const nib: Tool = {
  id: 'nib',
  label: 'Nib',
  icon: PenTool,
  hint: NibHint,
  command: { room: 'Draw', key: 'KeyQ' },
  borrows: 'rub',
  takesNib: true,
  ring: nibRing,
  begin: (board, press) =>
    board.of(straightOnSlot).isHeld
      ? beginShape(board, 'line', press, { from: board.of(lastEndSlot).at })
      : beginStroke(board),
  Line: () => (
    <>
      <NibNow />
      <SizeSetting of="nib" />
      <CalmSetting of="nib" />
    </>
  ),
  Settings: ({ width, isWide }) => (
    <>
      {isWide && (
        <>
          <NibInHand width={width} height={52} isNamed />
          <Row>
            <SizeSetting of="nib" />
          </Row>
          <Row>
            <CalmSetting of="nib" />
          </Row>
        </>
      )}
      <ColourSetting />
      <CalmFold width={width} of="nib" />
      <NibFolds width={width} perRow={perRow(isWide)} />
    </>
  ),
};

const rub: Tool = {
  id: 'rub',
  label: 'Rub',
  icon: Eraser,
  hint: 'Rub takes away what it touches',
  command: { room: 'Draw', key: 'KeyW' },
  borrows: 'nib',
  isEraserEnd: true,
  ring: (page) => rubSizeFor(page) / 2,
  ringStays: true,
  resize: resizeRub,
  begin: beginRubbing,
  Line: () => (
    <>
      <SizeSetting of="rub" />
      <CalmSetting of="rub" />
    </>
  ),
  Settings: ({ width, isWide }) => (
    <>
      {isWide && (
        <>
          <Row>
            <SizeSetting of="rub" />
          </Row>
          <Row>
            <CalmSetting of="rub" />
          </Row>
        </>
      )}
      <CutEndChoice />
      {isWide && <Hint>Takes away what it touches and cuts the lines there. It never paints over them.</Hint>}
      <CalmFold width={width} of="rub" />
    </>
  ),
};

const useIsPoly = () => useShapeChoice(({ shape }) => shape === 'poly-line');

function ShapeLine() {
  if (useIsPoly())
    return (
      <View className="grow">
        <PathSettings />
      </View>
    );
  return (
    <>
      <NibNow />
      <SizeSetting of="nib" />
    </>
  );
}

const ShapeHint = () => (useIsPoly() ? 'Touch to set corners' : 'Drag out a shape');

/** What a tool of construction shows beside its own settings. */
const Constructed = ({ width, isWide }: SettingsProps) => (
  <>
    {isWide && (
      <>
        <NibInHand width={width} height={52} isNamed />
        <Row>
          <SizeSetting of="nib" />
        </Row>
      </>
    )}
    <ColourSetting />
    <NibFolds width={width} perRow={perRow(isWide)} />
  </>
);

const shape: Tool = {
  id: 'shape',
  label: 'Shapes',
  icon: Shapes,
  hint: ShapeHint,
  command: { room: 'Draw', key: 'Shift+Digit1' },
  borrows: 'rub',
  takesNib: true,
  ring: nibRing,
  begin(board, press) {
    const { shape: kind } = useShapeChoice.getState();
    return kind === 'poly-line' ? board.of(pathSlot).begin(press.at, press.modifiers) : beginShape(board, kind, press);
  },
  Line: ShapeLine,
  Settings: ({ width, isWide }) => (
    <>
      <ShapeChoice perRow={isWide ? 2 : 4} />
      <ShapeSettings />
      <Constructed {...{ width, isWide }} />
    </>
  ),
};

const path: Tool = {
  id: 'path',
  label: 'Bézier',
  icon: Spline,
  hint: 'Touch for a corner, drag for a curve',
  command: { room: 'Draw', key: 'Shift+Digit2' },
  borrows: 'rub',
  takesNib: true,
  ring: nibRing,
  begin: (board, press) => board.of(pathSlot).begin(press.at, press.modifiers),
  Line: () => (
    <View className="grow">
      <PathSettings />
    </View>
  ),
  Settings: ({ width, isWide }) => (
    <>
      {isWide && <PathSettings />}
      <Constructed {...{ width, isWide }} />
    </>
  ),
};

const SELECTING = { loop: 'Draw a loop to select', rect: 'Draw a box to select', touch: 'Touch to select' } as const;

const SelectHint = () => SELECTING[useSelectChoice(({ selectBy }) => selectBy)];

const select: Tool = {
  id: 'select',
  label: 'Select',
  icon: Lasso,
  hint: SelectHint,
  command: { room: 'Select', key: 'Digit4' },
  borrows: 'nib',
  showsSelection: true,
  begin: (board, press) => beginSelecting(board, press.at, press.modifiers),
  Line: () => (
    <>
      <SelectBy />
      <SelectedInWords />
    </>
  ),
  Settings: ({ width }) => <SelectSettings width={width} />,
  commands: selectionCommands,
};

export const inkTools: readonly Tool[] = [nib, rub, shape, path, select];
