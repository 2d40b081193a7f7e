const isMac = typeof navigator !== 'undefined' && navigator.platform?.startsWith('Mac') === true;

const WORDS: Readonly<Record<string, string>> = {
  $mod: isMac ? 'Cmd' : 'Ctrl',
  ArrowLeft: 'Left',
  ArrowRight: 'Right',
  ArrowUp: 'Up',
  ArrowDown: 'Down',
  Escape: 'Esc',
  Backquote: '`',
  Minus: '-',
  Equal: '=',
  Semicolon: ';',
  Quote: "'",
  Comma: ',',
  Period: '.',
  Slash: '/',
  Backslash: '\\',
  BracketLeft: '[',
  BracketRight: ']',
};

/** A key as a person reads it: "Ctrl Z". */
export const keyInWords = (key: string): string =>
  key === '+'
    ? '+'
    : key
        .split('+')
        .map((part) => WORDS[part] ?? part.replace(/^(Key|Digit)/, ''))
        .map((part) => (part.length === 1 ? part.toUpperCase() : part))
        .join(' ');

const MODIFIERS = new Set([
  'ShiftLeft',
  'ShiftRight',
  'ControlLeft',
  'ControlRight',
  'AltLeft',
  'AltRight',
  'MetaLeft',
  'MetaRight',
]);

/** The key that was pressed, as the table of commands writes it; nothing for a modifier alone. */
export function pressOf(
  event: Pick<KeyboardEvent, 'code' | 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>,
): string | undefined {
  if (MODIFIERS.has(event.code) || event.code === '') return undefined;
  const isMod = isMac ? event.metaKey : event.ctrlKey;
  const mods = [isMod && '$mod', event.altKey && 'Alt', event.shiftKey && 'Shift'].filter(Boolean);
  return [...mods, isMod ? event.key.toLowerCase() : event.code].join('+');
}

/** What a set of keys may say: modifiers and one key, by place or character. */
export const isPress = (value: unknown): value is string =>
  typeof value === 'string' &&
  /^((\$mod|Alt|Shift)\+)*([A-Za-z][A-Za-z0-9]*|[^\s+]|\+)$/.test(value) &&
  value.length < 40;

/** The rows of the keyboard, each with the key that lies as far on the other side. */
const ROWS = ['1234567890', 'QWERTYUIOP', 'ASDFGHJKL;', 'ZXCVBNM,./'];
const codeOf = (char: string): string =>
  /\d/.test(char)
    ? `Digit${char}`
    : /[A-Z]/.test(char)
      ? `Key${char}`
      : ({ ';': 'Semicolon', ',': 'Comma', '.': 'Period', '/': 'Slash' }[char] ?? char);
const MIRRORED = new Map(
  ROWS.flatMap((row) => [...row].map((char, k) => [codeOf(char), codeOf(row[row.length - 1 - k])] as const)),
);

/** The key at the same place under the other hand; those with Ctrl and those that lie in the middle stay. */
export function mirroredKey(key: string): string {
  if (key.includes('$mod')) return key;
  const parts = key.split('+');
  const last = parts.pop() ?? '';
  if (last === 'Backquote') return [...parts, 'Backslash'].join('+');
  return [...parts, MIRRORED.get(last) ?? last].join('+');
}
