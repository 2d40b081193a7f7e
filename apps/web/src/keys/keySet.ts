import { keptStore } from '../base';
import { type Command, type HoldCommand, workbench } from '../board';
import { isPress, keyInWords, mirroredKey } from './keyNames';

export type HandSide = 'left' | 'right';

/** The keys as this artist has them. Only what differs from the defaults is kept; null is no key at all. */
interface KeySet {
  /** The hand that draws: the keys lie under the other one. */
  readonly hand: HandSide;
  readonly own: Readonly<Record<string, string | null>>;
}

export const useKeySet = keptStore<KeySet>({
  name: 'true-nib.keys',
  version: 1,
  fresh: { hand: 'right', own: {} },
  kept: ['hand', 'own'],
});

/** The key of a command in a set; nothing when it has none. */
export function keyIn({ own, hand }: KeySet, id: string): string | undefined {
  if (id in own) return own[id] ?? undefined;
  const key = workbench.allCommands.find((one) => one.id === id)?.key;
  return key === undefined || hand === 'right' ? key : mirroredKey(key);
}

/** All keys that run a command, its own first. */
export function keysIn(set: KeySet, id: string): readonly string[] {
  const command = workbench.allCommands.find((one) => one.id === id);
  const own = keyIn(set, id);
  const also = command && 'also' in command ? (command.also ?? []) : [];
  return own === undefined ? also : [own, ...also];
}

/** The command that a key belongs to, other than `except`. */
export function ownerOf(key: string, except?: string): Command | HoldCommand | undefined {
  const set = useKeySet.getState();
  const same = key.toLowerCase();
  return workbench.allCommands.find(
    ({ id }) => id !== except && keysIn(set, id).some((one) => one.toLowerCase() === same),
  );
}

/** Gives a command a key, or none. A key that belongs to another is taken over: that one is left without. */
export function assignKey(id: string, key: string | null): void {
  const { own } = useKeySet.getState();
  const owner = key === null ? undefined : ownerOf(key, id);
  useKeySet.setState({ own: { ...own, ...(owner ? { [owner.id]: null } : {}), [id]: key } });
}

export const resetKeys = (): void => void useKeySet.setState({ own: {} });

/** The name of a command with its key, for tooltips. */
export function withKey(id: string): string {
  const command = workbench.allCommands.find((one) => one.id === id);
  const key = keyIn(useKeySet.getState(), id);
  if (!command) return '';
  return key === undefined ? command.label : `${command.label} (${'hold' in command ? 'hold ' : ''}${keyInWords(key)})`;
}

/** A file of keys that cannot be taken; the message says why. */
export class RefusedKeys extends Error {
  override readonly name = 'RefusedKeys';
}

const FORMAT = 'true-nib-keys';

/** The set as a JSON text that `importKeys` takes. */
export function exportKeys(): string {
  const set = useKeySet.getState();
  const keys = Object.fromEntries(workbench.allCommands.map(({ id }) => [id, keyIn(set, id) ?? null]));
  return `${JSON.stringify({ format: FORMAT, version: 1, hand: set.hand, keys }, null, 2)}\n`;
}

/**
 * Takes a set over from a JSON text. Commands it does not name keep their keys. Answers the names it holds that are no
 * commands here, which are left out. Throws RefusedKeys, and changes nothing, for anything that is not a set of keys.
 */
export function importKeys(text: string): readonly string[] {
  if (text.length > 100_000) throw new RefusedKeys('This file is too large to be a set of keys.');
  const { hand, keys } = parsed(text);
  const known = new Set(workbench.allCommands.map(({ id }) => id));
  const own: Record<string, string | null> = {};
  const unknown: string[] = [];
  for (const [id, key] of Object.entries(keys)) {
    if (!known.has(id)) unknown.push(id.slice(0, 40));
    else if (key === null || isPress(key)) own[id] = key;
    else throw new RefusedKeys(`${JSON.stringify(key)?.slice(0, 40)} is not a key, for "${id}".`);
  }
  const set: KeySet = { hand, own };
  const taken = new Map<string, string>();
  for (const { id } of workbench.allCommands)
    for (const key of keysIn(set, id)) {
      const other = taken.get(key.toLowerCase());
      if (other !== undefined) throw new RefusedKeys(`${keyInWords(key)} is given to both "${other}" and "${id}".`);
      taken.set(key.toLowerCase(), id);
    }
  useKeySet.setState(set);
  return unknown;
}

function parsed(text: string): { readonly hand: HandSide; readonly keys: object } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new RefusedKeys('This file is not JSON.');
  }
  if (
    typeof value !== 'object' ||
    value === null ||
    !('format' in value) ||
    value.format !== FORMAT ||
    !('keys' in value)
  )
    throw new RefusedKeys('This file is no set of keys of this desk.');
  const { keys } = value;
  if (typeof keys !== 'object' || keys === null || Array.isArray(keys))
    throw new RefusedKeys('The keys in this file are not a list of commands.');
  return { hand: 'hand' in value && value.hand === 'left' ? 'left' : 'right', keys };
}
