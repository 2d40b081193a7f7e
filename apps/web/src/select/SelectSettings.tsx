import { panelLayers } from '@true-nib/core/comic';
import { layersOf, pxToMm } from '@true-nib/core/page';
import { frameCorners, frameMatrix, type Frame } from '@true-nib/core/select';
import { apply } from '@true-nib/core/math';
import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import ArrowUpDown from 'lucide-react-native/icons/arrow-up-down';
import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import Copy from 'lucide-react-native/icons/copy';
import Scissors from 'lucide-react-native/icons/scissors';
import Trash from 'lucide-react-native/icons/trash';
import type { LucideIcon } from 'lucide-react-native';
import { Text, View } from 'react-native';
import { Button, Chip, Choice, ScrubNumber, Switch } from '../look';
import { inThousands } from '../base';
import { useBoard, usePage, useSlot, workbench, useDesk, layerInHand } from '../board';
import { setSelectChoice, useSelectChoice } from './selectChoice';
import { ColourSetting } from '../nibs';
import { withKey } from '../keys';
import { SelectedLines } from './SelectedLines';
import { ChangeSettings } from './ChangeSettings';
import { RecalmSettings } from './RecalmSettings';
import { moveSelectedTo } from './selectionCommands';
import { selectionSlot } from './selection';
import { useSelection } from './useSelection';
import { useShallow } from 'zustand/react/shallow';

export function SelectBy() {
  const selectBy = useSelectChoice((choice) => choice.selectBy);
  return (
    <Choice
      label="Select by"
      value={selectBy}
      options={[
        { value: 'loop', label: 'Loop' },
        { value: 'rect', label: 'Box' },
        { value: 'touch', label: 'Touch' },
      ]}
      onChange={(next) => setSelectChoice({ selectBy: next })}
    />
  );
}

/** What is selected, in words. */
export function SelectedInWords() {
  const size = useSelection((selection) => selection.size);
  const isPixels = useSelection((selection) => selection.isPixels);
  const isPending = useSelection((selection) => selection.isPending);
  const words =
    size === 0 ? 'Nothing selected' : `${inThousands(size)} ${isPixels ? 'px' : size === 1 ? 'line' : 'lines'}`;
  return (
    <Text className="font-sans text-14 text-faint" role="status" aria-live="polite" testID="selected">
      {isPending ? `${words}, not kept yet` : words}
    </Text>
  );
}

export function KeepOrTakeBack() {
  const board = useBoard();
  const isPending = useSelection((selection) => selection.isPending);
  if (!isPending) return null;
  return (
    <View className="flex-row gap-2">
      <View className="flex-1">
        <Button label="Keep" tone="seal" onPress={() => workbench.run('keep', board)} />
      </View>
      <View className="flex-1">
        <Button label="Take back" onPress={() => workbench.run('take-back', board)} />
      </View>
    </View>
  );
}

const ACTIONS: readonly { readonly id: string; readonly label: string; readonly icon: LucideIcon }[] = [
  { id: 'copy', label: 'Copy', icon: Copy },
  { id: 'cut', label: 'Cut', icon: Scissors },
  { id: 'paste', label: 'Paste', icon: ClipboardPaste },
  { id: 'delete', label: 'Delete', icon: Trash },
];

const FLIPS: typeof ACTIONS = [
  { id: 'flip-across', label: 'Flip left–right', icon: ArrowLeftRight },
  { id: 'flip-down', label: 'Flip top–bottom', icon: ArrowUpDown },
];

const WHICH: readonly { readonly id: string; readonly label: string }[] = [
  { id: 'select-all', label: 'All of the layer' },
  { id: 'select-others', label: 'The others' },
  { id: 'same-nib', label: 'Same nib' },
  { id: 'same-colour', label: 'Same colour' },
  { id: 'select-none', label: 'Nothing' },
];

function Actions({ of }: { readonly of: typeof ACTIONS }) {
  const board = useBoard();
  return (
    <View className="flex-row">
      {of.map(({ id, label, icon }) => (
        <Chip key={id} label={label} icon={icon} tooltip={withKey(id)} onPress={() => workbench.run(id, board)} />
      ))}
    </View>
  );
}

/** Whether what is selected stays in its panel, on pages that have any. */
function OverBorders() {
  const board = useBoard();
  if (panelLayers(usePage(board)).size === 0) return null;
  return (
    <View className="flex-row gap-2">
      {[
        { id: 'put-in', label: 'Into its panel' },
        { id: 'let-out', label: 'Over borders' },
      ].map(({ id, label }) => (
        <View key={id} className="flex-1">
          <Button label={label} onPress={() => workbench.run(id, board)} />
        </View>
      ))}
    </View>
  );
}

/** All that can be done to a selection. */
export function SelectSettings({ width }: { readonly width: number }) {
  const board = useBoard();
  const isAny = useSelection(({ size }) => size > 0);
  const isPixels = useSelection((selection) => selection.isPixels);
  const isWash = useHandMedium() === 'wash';
  const switches = useSelectChoice(
    useShallow(({ selectWhole, proportional, fromCentre, freeCorners, scaleWidth }) => ({
      selectWhole,
      proportional,
      fromCentre,
      freeCorners,
      scaleWidth,
    })),
  );
  const turn = setSelectChoice;
  return (
    <View className="gap-2" testID="select-settings">
      <View className="flex-row">
        <SelectBy />
      </View>
      <SelectedInWords />
      <KeepOrTakeBack />
      <Actions of={ACTIONS} />
      {isPixels && <PixelActions />}
      {isAny && <FrameNumbers />}
      {isAny && <Actions of={FLIPS} />}
      {isAny && !isPixels && <OverBorders />}
      <Switch
        label="Keep proportions (Shift)"
        on={switches.proportional}
        onChange={(on) => turn({ proportional: on })}
      />
      <Switch label="From the centre (Alt)" on={switches.fromCentre} onChange={(on) => turn({ fromCentre: on })} />
      <Switch
        label="Pull corners freely, lean edges"
        on={switches.freeCorners}
        onChange={(on) => turn({ freeCorners: on })}
      />
      {!isWash && (
        <>
          <Switch label="Weight grows with size" on={switches.scaleWidth} onChange={(on) => turn({ scaleWidth: on })} />
          <Switch
            label="Only lines wholly inside"
            on={switches.selectWhole}
            onChange={(on) => turn({ selectWhole: on })}
          />
        </>
      )}
      <Text className="font-sans text-12 text-faint">Select</Text>
      <View className="flex-row flex-wrap gap-2">
        {WHICH.filter(({ id }) => !isWash || id !== 'same-nib').map(({ id, label }) => (
          <Button key={id} label={label} onPress={() => workbench.run(id, board)} />
        ))}
      </View>
      <ChangeSettings />
      <RecalmSettings width={width} />
      <SelectedLines />
      {isAny && <MoveTo />}
    </View>
  );
}

function useHandMedium() {
  const page = usePage(useBoard());
  return layerInHand(
    page,
    useDesk((desk) => desk.layerId),
  )?.layer.medium;
}

/** What only pixels can have done to them. */
function PixelActions() {
  const board = useBoard();
  const growBy = useSelectChoice((choice) => choice.growBy);
  return (
    <View className="gap-2" testID="pixel-actions">
      <ColourSetting />
      <Button label="Fill with this colour" onPress={() => workbench.run('fill', board)} />
      <View className="flex-row">
        <ScrubNumber
          label="Grow or shrink by"
          value={growBy}
          onChange={(px) => setSelectChoice({ growBy: px })}
          {...{ least: 0.5, most: 100, step: 0.5, unit: ' px', geometric: true }}
        />
      </View>
      <View className="flex-row gap-2">
        {(['grow', 'shrink'] as const).map((id) => (
          <View key={id} className="flex-1">
            <Button label={id === 'grow' ? 'Grow' : 'Shrink'} onPress={() => workbench.run(id, board)} />
          </View>
        ))}
      </View>
    </View>
  );
}

function MoveTo() {
  const board = useBoard();
  const isPixels = useSelection((selection) => selection.isPixels);
  const kind = isPixels ? 'wash' : 'ink';
  const layers = layersOf(usePage(board)).filter(
    ({ medium, id }) => medium === kind && id !== board.of(selectionSlot).layerId,
  );
  if (layers.length === 0) return null;
  return (
    <>
      <Text className="font-sans text-12 text-faint">Move to layer</Text>
      <View className="flex-row flex-wrap gap-2">
        {layers.map(({ id, name }) => (
          <Button key={id} label={name} onPress={() => moveSelectedTo(board, id)} />
        ))}
      </View>
    </>
  );
}

const DEGREES = 180 / Math.PI;

/** The frame in numbers: where its middle lies, how large it is, how it is turned and leans. */
function FrameNumbers() {
  const { session } = useBoard();
  const selection = useSlot(selectionSlot);
  const frame = useSelection((selection) => selection.frame);
  if (!frame) return null;
  const { ppi, width, height } = session.page.size;
  const mm = (px: number) => Math.round(pxToMm(px, ppi) * 10) / 10;
  const { box } = frame;
  const middle = frame.corners
    ? frameCorners(frame).reduce((sum, { x, y }) => ({ x: sum.x + x / 4, y: sum.y + y / 4 }), { x: 0, y: 0 })
    : apply(frameMatrix(frame), { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 });
  const px = (value: number) => (value * ppi) / 25.4;
  const set = (change: Partial<Frame>) => selection.setFrame({ ...frame, ...change });
  return (
    <View className="gap-2">
      <View className="flex-row gap-2">
        <ScrubNumber
          label="x, mm"
          value={mm(middle.x)}
          onChange={(value) => void selection.moveBy(px(value) - middle.x, 0)}
          {...{ least: -mm(width), most: 2 * mm(width), step: 0.1 }}
        />
        <ScrubNumber
          label="y, mm"
          value={mm(middle.y)}
          onChange={(value) => void selection.moveBy(0, px(value) - middle.y)}
          {...{ least: -mm(height), most: 2 * mm(height), step: 0.1 }}
        />
      </View>
      {!frame.corners && (
        <>
          <View className="flex-row gap-2">
            <ScrubNumber
              label="Wide"
              value={Math.round(Math.abs(frame.scaleX) * 1000) / 10}
              onChange={(percent) => set({ scaleX: (Math.sign(frame.scaleX) * percent) / 100 })}
              {...{ least: 1, most: 1_000, step: 0.1, unit: ' %', geometric: true }}
            />
            <ScrubNumber
              label="High"
              value={Math.round(Math.abs(frame.scaleY) * 1000) / 10}
              onChange={(percent) => set({ scaleY: (Math.sign(frame.scaleY) * percent) / 100 })}
              {...{ least: 1, most: 1_000, step: 0.1, unit: ' %', geometric: true }}
            />
          </View>
          <View className="flex-row gap-2">
            <ScrubNumber
              label="Turn"
              value={Math.round(frame.angle * DEGREES * 10) / 10}
              onChange={(degrees) => set({ angle: degrees / DEGREES })}
              {...{ least: -180, most: 180, step: 0.1, unit: '°' }}
            />
            <ScrubNumber
              label="Lean"
              value={Math.round(frame.skew * DEGREES * 10) / 10}
              onChange={(degrees) => set({ skew: degrees / DEGREES })}
              {...{ least: -75, most: 75, step: 0.1, unit: '°' }}
            />
          </View>
        </>
      )}
    </View>
  );
}
