import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import Maximize from 'lucide-react-native/icons/maximize';
import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { useBoard, type SettingsProps, type Tool } from '../../board';
import { Cells, ToolChip } from '../../hand';
import { Chip, Hint, LineHint, useIsWide } from '../../look';
import { chooseRough } from '../../stack';
import {
  OpacitySetting,
  OrderSetting,
  PlaceSetting,
  RemoveRough,
  ScaleSetting,
  TintSetting,
  TurnSetting,
  useRough,
} from './RoughSettings';

/** What can be done with roughs at a touch, and the tool that places them. */
export function RoughChips({ place }: { readonly place: Tool }) {
  const { session } = useBoard();
  const actions = useRough();
  const isWide = useIsWide();
  return (
    <Cells>
      <ToolChip {...place} />
      <Chip
        label="Bring in"
        icon={ImagePlus}
        tooltip="Bring in a picture from disk"
        onPress={() => void chooseRough(session)}
      />
      {!isWide && (
        <Chip
          label="Photo"
          icon={Camera}
          tooltip="Take a photo of paper and bring it in"
          onPress={() => void chooseRough(session, 'photo')}
        />
      )}
      {actions && (
        <Chip
          label="Fit"
          icon={Maximize}
          disabled={actions.layer.locked}
          tooltip="Fit the rough to the page"
          onPress={actions.fit}
        />
      )}
      {actions && (
        <Chip
          label={actions.layer.locked ? 'Unlock' : 'Lock'}
          icon={actions.layer.locked ? Lock : LockOpen}
          tooltip="A locked rough cannot be moved"
          onPress={() => actions.lock(!actions.layer.locked)}
        />
      )}
    </Cells>
  );
}

export function RoughLine() {
  const rough = useRough();
  if (!rough) return <LineHint>Bring in a sketch, a scan or a photo to draw over.</LineHint>;
  return (
    <>
      <OpacitySetting {...rough} />
      <ScaleSetting {...rough} />
      <TurnSetting {...rough} />
    </>
  );
}

const Line = ({ children }: { readonly children: ReactNode }) => <View className="flex-row gap-2">{children}</View>;

export function RoughAll({ isWide }: SettingsProps) {
  const rough = useRough();
  if (!rough)
    return isWide ? <Hint>Bring in a sketch, a scan or a photo to draw over, or drop one on the page.</Hint> : null;
  if (!isWide)
    return (
      <>
        <TintSetting {...rough} />
        <OrderSetting {...rough} />
        <Line>
          <PlaceSetting axis="x" {...rough} />
          <PlaceSetting axis="y" {...rough} />
        </Line>
        <RemoveRough {...rough} />
      </>
    );
  return (
    <>
      <Line>
        <OpacitySetting {...rough} />
      </Line>
      <TintSetting {...rough} />
      <OrderSetting {...rough} />
      <Text className="pt-2 font-sans text-12 text-faint">Where it lies</Text>
      {(['x', 'y'] as const).map((axis) => (
        <Line key={axis}>
          <PlaceSetting axis={axis} {...rough} />
        </Line>
      ))}
      <Line>
        <ScaleSetting {...rough} />
      </Line>
      <Line>
        <TurnSetting {...rough} />
      </Line>
      <RemoveRough {...rough} />
    </>
  );
}
