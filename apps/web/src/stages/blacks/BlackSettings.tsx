import { View } from 'react-native';
import type { ShapeKind } from '@true-nib/core/shapes';
import { TemplateChoice } from '../../guiding';
import { Button, Choice, Faint, Line, Switch } from '../../look';
import { CalmSetting, ColourSetting } from '../../nibs';
import { useBoard, type SettingsProps } from '../../board';
import { useSelection } from '../../select';
import { PathSettings, ShapeSettings, useShapeChoice } from '../ink';
import { setBlacks, useBlacks, type JoinDeed, type OutlineBy } from './blackStore';
import { outlineSlot } from './fillTools';
import type { FillingTool } from './filling';
import { fillSelection } from './outlines';

const BY: readonly { readonly value: OutlineBy; readonly label: string }[] = [
  { value: 'loop', label: 'Loop' },
  { value: 'path', label: 'Bézier' },
  { value: 'shape', label: 'Shape' },
  { value: 'template', label: 'Template' },
];

/** How the outline is made, in one row. */
export function OutlineChoice({ isWide = false }: { readonly isWide?: boolean }) {
  const by = useBlacks((state) => state.by);
  const board = useBoard();
  const take = (next: OutlineBy) => {
    board.of(outlineSlot).finish();
    setBlacks({ by: next });
  };
  return <Choice label="Outline by" value={by} options={BY} onChange={take} perRow={isWide ? 2 : 4} />;
}

const SHAPES: readonly { readonly value: ShapeKind; readonly label: string }[] = [
  { value: 'ellipse', label: 'Ellipse' },
  { value: 'rectangle', label: 'Rectangle' },
  { value: 'polygon', label: 'Polygon' },
  { value: 'star', label: 'Star' },
  { value: 'poly-line', label: 'Corners' },
  { value: 'arc', label: 'Arc' },
];

/** All that can be set about a blot or a nick. */
export function FillSettings({ tool, width, isWide }: SettingsProps & { readonly tool: FillingTool }) {
  const { by, hasContour } = useBlacks();
  const shape = useShapeChoice((choice) => choice.shape);
  const board = useBoard();
  const selected = useSelection(({ size, isPixels }) => (isPixels ? 0 : size));
  return (
    <View className="gap-3">
      {isWide && <OutlineChoice isWide />}
      {by === 'loop' && (
        <>
          <Line>
            <CalmSetting of="nib" />
          </Line>
          <Faint>Hold Shift for a straight stretch; let go of it to go on by hand.</Faint>
          {tool === 'blot' && (
            <Switch
              label="Contour with the nib in the same pull"
              on={hasContour}
              onChange={(on) => setBlacks({ hasContour: on })}
            />
          )}
        </>
      )}
      {by === 'path' && <PathSettings slot={outlineSlot} />}
      {by === 'shape' && (
        <>
          <Choice
            label="Shape"
            value={shape === 'line' ? 'ellipse' : shape}
            options={SHAPES}
            onChange={(value) => {
              board.of(outlineSlot).finish();
              useShapeChoice.setState({ shape: value });
            }}
            perRow={3}
          />
          {shape === 'poly-line' ? <PathSettings slot={outlineSlot} /> : <ShapeSettings />}
        </>
      )}
      {by === 'template' && <Templates width={width} />}
      {tool === 'blot' && <ColourSetting />}
      {selected > 0 && (
        <Button
          label={tool === 'blot' ? 'Fill what is selected' : 'Nick what is selected'}
          onPress={() => fillSelection(board, tool)}
        />
      )}
    </View>
  );
}

function Templates({ width }: { readonly width: number }) {
  const inHand = useBlacks((state) => state.templateId);
  return <TemplateChoice width={width} inHand={inHand} onTaken={(templateId) => setBlacks({ templateId })} />;
}

const JOINS: readonly { readonly value: JoinDeed; readonly label: string }[] = [
  { value: 'join', label: 'Join' },
  { value: 'take', label: 'Take off' },
  { value: 'common', label: 'Common' },
];

const IN_WORDS: Readonly<Record<JoinDeed, string>> = {
  join: 'Touch two areas: they become one.',
  take: 'Touch an area, then another: its shape is taken off the first.',
  common: 'Touch two areas: only what both cover is left.',
};

/** What is done with two areas. */
export function JoinChoice() {
  const joins = useBlacks((state) => state.joins);
  return (
    <Choice
      label="Two areas"
      value={joins}
      options={JOINS}
      onChange={(value) => setBlacks({ joins: value })}
      perRow={3}
    />
  );
}

export const JoinWords = () => <Faint>{IN_WORDS[useBlacks((state) => state.joins)]}</Faint>;
