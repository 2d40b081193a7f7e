import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { web } from '../look';
import { withKey } from '../keys';
import { setStage, useDesk, workbench } from '../board';

/** CSS px between two knots of the upright thread. */
const STEP = 56;

/** The stages as knots on one thread; a nib stands on the one you are in. */
export function Thread({ isUpright }: { readonly isUpright: boolean }) {
  const stage = useDesk((desk) => desk.stage);
  const { stages } = workbench;
  const here = stages.findIndex(({ id }) => id === stage);
  // From the middle of the first knot to that of the last.
  const half = `${50 / Math.max(1, stages.length)}%` as const;
  return (
    <View
      role="tablist"
      aria-label="Stages"
      className={isUpright ? 'w-[76px] items-stretch gap-1 pt-3' : 'flex-row px-2'}
    >
      <View
        className={`absolute bg-rule ${isUpright ? 'left-[37px] top-8 w-[2px]' : 'top-[15px] h-[2px]'}`}
        style={isUpright ? { height: STEP * (stages.length - 1) } : { left: half, right: half }}
      />
      {stages.map(({ id, label }, k) => (
        <Pressable
          key={id}
          role="tab"
          aria-selected={k === here}
          aria-label={label}
          onPress={() => setStage(id)}
          className={`min-h-[52px] items-center ${isUpright ? 'justify-start pt-1' : 'flex-1 pt-1'}`}
          {...web({ title: withKey(`stage-${id}`) })}
        >
          <View className="h-6 items-center justify-center bg-tray">
            {k === here ? <Nib /> : <Knot isPast={k < here} />}
          </View>
          <Text className={`bg-tray text-12 ${k === here ? 'font-bold text-ink' : 'font-sans text-faint'}`}>
            {label}
          </Text>
        </Pressable>
      ))}
    </View>
  );
}

const Knot = ({ isPast }: { readonly isPast: boolean }) => (
  <View
    className={`h-3 w-3 rounded-full border-[1.5px] ${isPast ? 'border-faint bg-faint' : 'border-faint bg-tray'}`}
  />
);

const Nib = () => (
  <Svg width={18} height={24} viewBox="0 0 18 24" aria-hidden>
    <Path d="M5 1h8l3 10-7 12L2 11z" fill="var(--seal)" />
    <Path d="M9 23V12" stroke="var(--tray)" strokeWidth={1.2} />
  </Svg>
);
