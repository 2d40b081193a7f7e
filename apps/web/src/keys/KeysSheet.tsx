import { useEffect, useEffectEvent, useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { chooseFile, download, Button, Choice, Field, say, sayError, Sheet } from '../look';
import { ROOMS, workbench, useDesk } from '../board';
import { CommandRow, KeyCap } from './CommandRow';
import { keyInWords, pressOf } from './keyNames';
import {
  assignKey,
  exportKeys,
  importKeys,
  keyIn,
  keysIn,
  ownerOf,
  resetKeys,
  useKeySet,
  type HandSide,
} from './keySet';

/** A key that was wanted for one command and belongs to another. */
interface Conflict {
  readonly id: string;
  readonly key: string;
  readonly owner: string;
}

/** Every command with its key. A key is changed by touching it and pressing the new one. */
export function KeysSheet({ onClose }: { readonly onClose: () => void }) {
  const hand = useKeySet((set) => set.hand);
  const [wanted, setWanted] = useState('');
  const [awaiting, setAwaiting] = useState<string | undefined>();
  const [conflict, setConflict] = useState<Conflict | undefined>();
  useAwaitedKey(awaiting, (id, key) => {
    setAwaiting(undefined);
    if (key === undefined) return;
    const owner = ownerOf(key, id);
    if (!owner) assignKey(id, key);
    else setConflict({ id, key, owner: owner.label });
  });
  const isWanted = (label: string) => label.toLowerCase().includes(wanted.trim().toLowerCase());
  return (
    <Sheet
      title="Keys"
      onClose={onClose}
      footer={conflict && <ConflictQuestion conflict={conflict} onAnswer={() => setConflict(undefined)} />}
    >
      <View className="flex-row">
        <Choice<HandSide>
          label="The hand that draws"
          value={hand}
          options={[
            { value: 'right', label: 'I draw with the right' },
            { value: 'left', label: 'I draw with the left' },
          ]}
          onChange={(chosen) => useKeySet.setState({ hand: chosen })}
        />
      </View>
      <Field label="Find" value={wanted} onChange={setWanted} />
      {ROOMS.map((room) => {
        const commands = workbench.allCommands.filter((command) => command.room === room && isWanted(command.label));
        if (commands.length === 0) return null;
        return (
          <View key={room} className="gap-1">
            <Text role="heading" className="pt-2 font-bold text-14 text-ink">
              {room}
            </Text>
            {commands.map((command) => (
              <KeyRow
                key={command.id}
                id={command.id}
                label={'hold' in command ? `${command.label} (while held)` : command.label}
                name={command.label}
                isAwaited={awaiting === command.id}
                onAwait={() => setAwaiting(command.id)}
              />
            ))}
          </View>
        );
      })}
      <Borrowing />
      <WholeSet />
    </Sheet>
  );
}

/** Takes the next key that is pressed for the command that awaits one; Escape gives none. */
function useAwaitedKey(awaiting: string | undefined, onKey: (id: string, key: string | undefined) => void): void {
  const take = useEffectEvent(onKey);
  useEffect(() => {
    if (awaiting === undefined) return;
    const listen = (event: KeyboardEvent) => {
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.code === 'Escape') return take(awaiting, undefined);
      const key = pressOf(event);
      if (key !== undefined) take(awaiting, key);
    };
    window.addEventListener('keydown', listen, { capture: true });
    return () => window.removeEventListener('keydown', listen, { capture: true });
  }, [awaiting]);
}

function ConflictQuestion({ conflict, onAnswer }: { readonly conflict: Conflict; readonly onAnswer: () => void }) {
  return (
    <View className="gap-2" role="alert">
      <Text className="font-sans text-14 text-ink">
        {`${keyInWords(conflict.key)} belongs to "${conflict.owner}".`}
      </Text>
      <View className="flex-row gap-2">
        <Button
          label="Take it over"
          tone="seal"
          onPress={() => {
            assignKey(conflict.id, conflict.key);
            onAnswer();
          }}
        />
        <Button label="Leave it" onPress={onAnswer} />
      </View>
    </View>
  );
}

interface KeyRowProps {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly isAwaited: boolean;
  readonly onAwait: () => void;
}

/** A command with the key that can be changed, and those that always work. */
function KeyRow({ id, label, name, isAwaited, onAwait }: KeyRowProps) {
  const set = useKeySet();
  const own = keyIn(set, id);
  return (
    <CommandRow label={label}>
      {keysIn(set, id)
        .slice(own === undefined ? 0 : 1)
        .map((key) => (
          <KeyCap key={key}>{keyInWords(key)}</KeyCap>
        ))}
      <Pressable
        role="button"
        aria-label={`Key of "${name}"`}
        onPress={onAwait}
        className={`min-h-[44px] min-w-[84px] items-center justify-center rounded-lg border px-2 ${isAwaited ? 'border-seal' : 'border-edge'} bg-raised`}
      >
        <Text className="font-bold text-12 text-ink">{isAwaited ? 'Press a key' : keyInWords(own ?? 'none')}</Text>
      </Pressable>
      <Button label="Clear" disabled={own === undefined} onPress={() => assignKey(id, null)} />
    </CommandRow>
  );
}

/** What is done with all keys at once. */
function WholeSet() {
  return (
    <View className="flex-row flex-wrap gap-2 pt-2">
      <Button
        label="Save as a file"
        onPress={() => download(new Blob([exportKeys()], { type: 'application/json' }), 'true-nib-keys.json')}
      />
      <Button label="Load a file" onPress={() => void chooseKeys()} />
      <Button
        label="As they were"
        onPress={() => {
          resetKeys();
          say('The keys are as they came.');
        }}
      />
    </View>
  );
}

/** What the hold key borrows, for each tool that has a key of its own from the start: those that the hand changes most. */
function Borrowing() {
  const borrowed = useDesk((desk) => desk.borrowed);
  const tools = workbench.tools.filter(({ command }) => command.key !== undefined);
  const options = tools.map(({ id, label }) => ({ value: id, label }));
  return (
    <View className="gap-1">
      <Text role="heading" className="pt-2 font-bold text-14 text-ink">
        What the borrowing key takes
      </Text>
      {tools.map(({ id: own, label, borrows }) => (
        <View key={own} className="flex-row items-center gap-2">
          <Text className="w-16 font-sans text-14 text-ink">{`${label}:`}</Text>
          <Choice
            label={`Borrowed while ${label} is in hand`}
            value={borrowed[own] ?? borrows}
            options={options.filter(({ value }) => value !== own)}
            onChange={(tool) => useDesk.setState({ borrowed: { ...borrowed, [own]: tool } })}
          />
        </View>
      ))}
    </View>
  );
}

async function chooseKeys(): Promise<void> {
  const file = await chooseFile('application/json,.json');
  if (file) await takeKeys(file);
}

async function takeKeys(file: File): Promise<void> {
  try {
    const unknown = importKeys(await file.text());
    say(
      unknown.length === 0
        ? 'The keys are taken over.'
        : `Taken over, but for what is unknown here: ${unknown.slice(0, 3).join(', ')}.`,
    );
  } catch (error) {
    sayError(error);
  }
}
