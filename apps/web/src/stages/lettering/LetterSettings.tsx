import { Text, View } from 'react-native';
import { Hint, Line, LineHint } from '../../look';
import { ShapeSetting, TailSetting } from './BalloonShape';
import { LetterColours } from './LetterColours';
import { Deeds, Script } from './LetterDeeds';
import { useLetters } from './letterStore';
import { TextField } from './TextField';
import { AirNumber, FontSetting, SettingNumbers, SizeNumbers } from './TextSettings';
import { useText } from './useText';

function Trouble() {
  const trouble = useLetters((state) => state.trouble);
  return trouble ? (
    <Text role="status" aria-live="polite" className="font-bold text-14 text-seal" testID="letter-trouble">
      {trouble}
    </Text>
  ) : null;
}

export function LetterLine() {
  const { text } = useText();
  if (!text)
    return (
      <>
        <SizeNumbers />
        <LineHint>Touch the page where the words go.</LineHint>
      </>
    );
  return (
    <View className="grow flex-row gap-2">
      <View className="shrink grow">
        <TextField rows={1} />
      </View>
      <View className="w-[92px] flex-row">
        <SizeNumbers />
      </View>
    </View>
  );
}

export function BalloonSettings({ isWide }: { readonly isWide: boolean }) {
  const { text } = useText();
  return (
    <View className="gap-3">
      {isWide && <TextField rows={4} />}
      <Trouble />
      {!text && <Hint>Touch the page where a balloon goes, or touch a balloon to change it.</Hint>}
      <ShapeSetting />
      <TailSetting />
      <Line>
        {isWide && <SizeNumbers />}
        <AirNumber />
      </Line>
      <SettingNumbers />
      <LetterColours />
      <FontSetting />
      <Deeds />
      <Script />
    </View>
  );
}

export function TextSettings({ isWide }: { readonly isWide: boolean }) {
  const { text } = useText();
  return (
    <View className="gap-3">
      {isWide && <TextField rows={4} />}
      <Trouble />
      {!text && <Hint>Touch the page where a text goes, or touch one to change it.</Hint>}
      {isWide && (
        <Line>
          <SizeNumbers />
        </Line>
      )}
      <SettingNumbers />
      <LetterColours />
      <FontSetting />
      <Deeds />
    </View>
  );
}
