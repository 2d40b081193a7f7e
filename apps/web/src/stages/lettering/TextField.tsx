import { marked, typedFrom, type TypedText } from '@true-nib/core/lettering';
import Bold from 'lucide-react-native/icons/bold';
import Italic from 'lucide-react-native/icons/italic';
import { useRef, useState } from 'react';
import { TextInput, View } from 'react-native';
import { useSlot } from '../../board';
import { Chip } from '../../look';
import { letterSlot } from './letterHand';
import { useLetters } from './letterStore';
import { useText } from './useText';

/** What is typed: `*loud*` and `_slanted_`. While nobody types, it is what the page has. */
export function TextField({ rows }: { readonly rows: number }) {
  const hand = useSlot(letterSlot);
  const { text } = useText();
  const isNew = useLetters((state) => state.isNew);
  const [typing, setTyping] = useState<{ readonly id: string; readonly typed: string }>();
  const [chosen, setChosen] = useState<Pick<TypedText, 'from' | 'to'>>();
  const input = useRef<TextInput>(null);
  const at = useRef<Pick<TypedText, 'from' | 'to'>>({ from: 0, to: 0 });
  if (!text) return null;
  const kept = isNew ? '' : typedFrom(text.runs);
  const typed = typing?.id === text.id ? typing.typed : kept;
  const type = (next: string) => {
    setTyping({ id: text.id, typed: next });
    void hand.type(next);
  };
  const mark = (sign: '*' | '_') => {
    const made = marked({ typed, ...at.current }, sign);
    type(made.typed);
    setChosen(made);
    at.current = made;
    input.current?.focus();
  };
  return (
    <View className="gap-2">
      <TextInput
        ref={input}
        key={text.id}
        aria-label="Text"
        multiline
        numberOfLines={rows}
        autoFocus={isNew}
        className="min-h-[44px] w-full rounded-xl border border-edge bg-raised px-3 py-2 font-sans text-16 text-ink"
        value={typed}
        selection={chosen && { start: chosen.from, end: chosen.to }}
        placeholder={rows > 1 ? 'Type here. *Loud* and _slanted_ words.' : 'Type here'}
        onChangeText={type}
        onSelectionChange={({ nativeEvent: { selection } }) => {
          at.current = { from: selection.start, to: selection.end };
          setChosen(undefined);
        }}
        onKeyPress={({ nativeEvent: { key } }) => key === 'Escape' && hand.letGo()}
        onBlur={() => {
          setTyping(undefined);
          hand.settle();
        }}
      />
      {rows > 1 && (
        // A press on these must not take the hand out of the text.
        <div onMouseDown={(event) => event.preventDefault()}>
          <View className="flex-row gap-1">
            <Chip label="Loud" icon={Bold} onPress={() => mark('*')} />
            <Chip label="Slanted" icon={Italic} onPress={() => mark('_')} />
          </View>
        </div>
      )}
    </View>
  );
}
