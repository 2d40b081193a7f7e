import { Text, useWindowDimensions, View } from 'react-native';
import { useTipNote } from './notices';

const WIDTH = 240;

/** What is said at the pen's tip: beside it, never off the screen. */
export function TipLine() {
  const note = useTipNote(({ note }) => note);
  const { width } = useWindowDimensions();
  if (!note) return null;
  const left = Math.max(8, Math.min(width - WIDTH - 8, note.at.x - WIDTH / 2));
  return (
    <View
      className="absolute items-center"
      style={{ left, top: Math.max(8, note.at.y - 56), width: WIDTH }}
      pointerEvents="none"
    >
      <Text
        role="alert"
        className="rounded-lg border border-edge bg-tray px-3 py-1 font-sans text-14 text-ink"
        testID="tip"
      >
        {note.message}
      </Text>
    </View>
  );
}
