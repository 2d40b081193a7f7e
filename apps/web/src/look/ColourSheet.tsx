import { useState } from 'react';
import { View } from 'react-native';
import { HexColorPicker } from 'react-colorful';
import { Button } from './Button';
import { Field } from './Field';
import { Sheet } from './Sheet';

interface ColourSheetProps {
  readonly colour: string;
  readonly onChange: (colour: string) => void;
  readonly onClose: () => void;
}

const HEX = /^#[0-9a-f]{6}$/i;

/** Any colour: by hand on a field of hues, or written as #rrggbb. */
export function ColourSheet({ colour, onChange, onClose }: ColourSheetProps) {
  const [written, setWritten] = useState(colour);
  const isColour = HEX.test(written);
  const take = () => {
    if (!isColour) return;
    onChange(written.toLowerCase());
    onClose();
  };
  return (
    <Sheet title="Colour" onClose={onClose}>
      <HexColorPicker
        color={isColour ? written : colour}
        onChange={setWritten}
        style={{ width: '100%', height: 214 }}
      />
      <View className="flex-row items-end gap-3">
        <View
          className="h-11 w-11 rounded-xl border border-edge"
          style={{ backgroundColor: isColour ? written : colour }}
        />
        <Field label="As #rrggbb" value={written} onChange={setWritten} onSubmit={take} />
        <Button label="Use it" tone="seal" disabled={!isColour} onPress={take} />
      </View>
    </Sheet>
  );
}
