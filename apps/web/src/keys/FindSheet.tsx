import { useState } from 'react';
import { Pressable, Text, TextInput, View } from 'react-native';
import { Sheet, web } from '../look';
import { useBoard, type Command, workbench } from '../board';
import { KeyCap } from './CommandRow';
import { keyInWords } from './keyNames';
import { keyIn, useKeySet } from './keySet';

const MOST = 9;

/** Commands whose names hold all the words, those that begin with them first. */
export function foundCommands(words: string): readonly Command[] {
  const parts = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found: readonly Command[] = workbench.commands.filter(({ label }) =>
    parts.every((part) => label.toLowerCase().includes(part)),
  );
  const rank = ({ label }: Command) => (label.toLowerCase().startsWith(parts[0] ?? '') ? 0 : 1);
  return [...found].sort((a, b) => rank(a) - rank(b)).slice(0, MOST);
}

/** A command by its name: typed, chosen with the arrows, run with Enter. */
export function FindSheet({ onClose }: { readonly onClose: () => void }) {
  const board = useBoard();
  const set = useKeySet();
  const [words, setWords] = useState('');
  const [at, setAt] = useState(0);
  const found = foundCommands(words);
  const run = (command: Command | undefined) => {
    if (!command) return;
    onClose();
    command.run(board);
  };
  const onKeyDown = (event: { readonly key: string; preventDefault(): void }) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    setAt((before) => (before + step + found.length) % Math.max(1, found.length));
  };
  return (
    <Sheet title="Find a command" onClose={onClose}>
      <View {...web({ onKeyDown })}>
        <TextInput
          value={words}
          onChangeText={(next) => {
            setWords(next);
            setAt(0);
          }}
          onSubmitEditing={() => run(found[at])}
          autoFocus
          aria-label="Name of a command"
          className="min-h-[48px] rounded-xl border border-edge bg-raised px-3 text-16 text-ink"
        />
      </View>
      <View role="list" aria-label="Commands">
        {found.map((command, k) => (
          <Pressable
            key={command.id}
            role="button"
            aria-pressed={k === at}
            onPress={() => run(command)}
            className={`min-h-[44px] flex-row items-center justify-between gap-2 rounded-lg px-3 ${k === at ? 'bg-raised' : ''}`}
          >
            <Text className={`text-14 text-ink ${k === at ? 'font-bold' : 'font-sans'}`}>{command.label}</Text>
            {keyIn(set, command.id) !== undefined && <KeyCap>{keyInWords(keyIn(set, command.id) ?? '')}</KeyCap>}
          </Pressable>
        ))}
        {found.length === 0 && <Text className="py-2 font-sans text-14 text-faint">Nothing is called that.</Text>}
      </View>
    </Sheet>
  );
}
