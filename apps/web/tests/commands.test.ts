import { ALL_COMMANDS, runCommand } from '../src/board/commands';
import {
  borrowTool,
  calmOf,
  changeNib,
  giveBack,
  nibOf,
  scaleTool,
  setNibSize,
  setStage,
  takeNib,
  takeTool,
  toggleCalm,
  useDesk,
} from '../src/board/desk';
import { foundCommands } from '../src/board/keys/FindSheet';
import { keyInWords, mirroredKey, pressOf } from '../src/board/keys/keyNames';
import {
  assignKey,
  exportKeys,
  importKeys,
  keyIn,
  keysIn,
  ownerOf,
  resetKeys,
  useKeySet,
  withKey,
  type Hand,
} from '../src/board/keys/keySet';

const pressed = (code: string, more: Partial<KeyboardEvent> = {}) => ({
  ...{
    code,
    key: code.replace(/^Key/, '').toLowerCase(),
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    shiftKey: false,
  },
  ...more,
});

describe('the table of commands', () => {
  const keysUnder = (hand: Hand) =>
    ALL_COMMANDS.flatMap(({ id }) => keysIn({ hand, own: {} }, id)).map((key) => key.toLowerCase());

  it.each(['right', 'left'] as const)('gives every key to one command only, for those who draw with the %s', (hand) => {
    const keys = keysUnder(hand);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('names every command once, in words', () => {
    expect(new Set(ALL_COMMANDS.map(({ id }) => id)).size).toBe(ALL_COMMANDS.length);
    expect(new Set(ALL_COMMANDS.map(({ label }) => label)).size).toBe(ALL_COMMANDS.length);
    for (const { label } of ALL_COMMANDS) expect(label.length).toBeGreaterThan(1);
  });

  it('keeps the plain keys under one hand, and mirrors them for the other', () => {
    const plain = ALL_COMMANDS.flatMap(({ key }) =>
      key !== undefined && /^(Shift\+)?(Key|Digit)/.test(key) ? [key] : [],
    );
    const left = /^(Shift\+)?(Key[QWERTASDFGZXCVB]|Digit[1-6])$/;
    for (const key of plain) {
      expect(key).toMatch(left);
      expect(mirroredKey(mirroredKey(key))).toBe(key);
    }
    expect(mirroredKey('KeyQ')).toBe('KeyP');
    expect(mirroredKey('Shift+KeyZ')).toBe('Shift+Slash');
    expect(mirroredKey('$mod+z')).toBe('$mod+z');
  });

  it('writes keys as people read them', () => {
    expect(keyInWords('$mod+Shift+z')).toMatch(/^(Ctrl|Cmd) Shift Z$/);
    expect(keyInWords('+')).toBe('+');
    expect(keyInWords('Shift+Slash')).toBe('Shift /');
    expect(withKey('peek')).toBe('Peek: hide the rough (hold R)');
    expect(withKey('rub')).toBe('Rub (W)');
  });

  it('finds commands by any of their words', () => {
    expect(foundCommands('turn').map(({ id }) => id)).toEqual(['flip', 'turn-left', 'turn-right']);
    expect(foundCommands('layer below merge').map(({ id }) => id)).toEqual(['merge-down']);
    expect(foundCommands('xyzzy')).toEqual([]);
  });

  it('leaves the history alone while something is being drawn', () => {
    const session = { undo: jest.fn(), redo: jest.fn() };
    const board = (isBusy: boolean) => ({ session, hand: { isBusy } }) as unknown as Parameters<typeof runCommand>[1];
    runCommand('undo', board(true));
    expect(session.undo).not.toHaveBeenCalled();
    runCommand('undo', board(false));
    runCommand('redo', board(false));
    expect([session.undo.mock.calls.length, session.redo.mock.calls.length]).toEqual([1, 1]);
  });
});

describe('own keys', () => {
  beforeEach(() => useKeySet.setState({ hand: 'right', own: {} }));

  it('reads a pressed key by its place, and with Ctrl by its character', () => {
    expect(pressOf(pressed('KeyY'))).toBe('KeyY');
    expect(pressOf(pressed('KeyY', { shiftKey: true }))).toBe('Shift+KeyY');
    expect(pressOf(pressed('KeyY', { ctrlKey: true, key: 'Z' }))).toBe('$mod+z');
    expect(pressOf(pressed('ShiftLeft', { shiftKey: true }))).toBeUndefined();
  });

  it('names the owner of a key, and takes it over', () => {
    expect(ownerOf('KeyW')?.id).toBe('rub');
    expect(ownerOf('KeyW', 'rub')).toBeUndefined();
    assignKey('lift', 'KeyW');
    const set = useKeySet.getState();
    expect([keyIn(set, 'lift'), keyIn(set, 'rub')]).toEqual(['KeyW', undefined]);
    expect(withKey('rub')).toBe('Rub');
    resetKeys();
    expect(keyIn(useKeySet.getState(), 'rub')).toBe('KeyW');
  });

  it('comes back whole from its own file', () => {
    assignKey('delete-layers', 'Shift+Digit6');
    useKeySet.setState({ hand: 'left' });
    const before = ALL_COMMANDS.map(({ id }) => keyIn(useKeySet.getState(), id));
    const file = exportKeys();
    resetKeys();
    useKeySet.setState({ hand: 'right' });
    expect(importKeys(file)).toEqual([]);
    expect(ALL_COMMANDS.map(({ id }) => keyIn(useKeySet.getState(), id))).toEqual(before);
  });

  it.each([
    ['no JSON', 'nib = q', /not JSON/],
    ['another file', '{"keys":{}}', /no set of keys/],
    ['a list', '{"format":"true-nib-keys","keys":[]}', /not a list of commands/],
    ['a number for a key', '{"format":"true-nib-keys","keys":{"nib":7}}', /7 is not a key/],
    ['one key twice', '{"format":"true-nib-keys","keys":{"nib":"KeyW"}}', /W is given to both/],
    ['too much', ' '.repeat(100_001), /too large/],
  ])('refuses %s and changes nothing', (_what, text, reason) => {
    assignKey('nib', 'KeyY');
    expect(() => importKeys(text)).toThrow(reason);
    expect(keyIn(useKeySet.getState(), 'nib')).toBe('KeyY');
  });

  it('leaves out commands it does not know, and says which', () => {
    expect(importKeys('{"format":"true-nib-keys","keys":{"spray":"KeyY","nib":"KeyY"}}')).toEqual(['spray']);
    expect(keyIn(useKeySet.getState(), 'nib')).toBe('KeyY');
  });
});

describe('the desk', () => {
  it('borrows a tool and gives the one before back, however often it is asked', () => {
    takeTool('lift');
    borrowTool('rub');
    borrowTool('nib');
    expect(useDesk.getState().tool).toBe('nib');
    giveBack();
    giveBack();
    const { tool, lender } = useDesk.getState();
    expect([tool, lender]).toEqual(['lift', undefined]);
  });

  it('lets each nib keep its own size and colour', () => {
    takeNib(0);
    setNibSize(3);
    takeNib(1);
    changeNib({ color: '#b8402a' });
    takeNib(0);
    expect(nibOf(useDesk.getState())).toMatchObject({ name: 'Fixed liner', size: 3, color: '#14161a' });
    expect(useDesk.getState()).toMatchObject({ stage: 'ink', tool: 'nib' });
  });

  it('keeps sizes from 0.5 to 200 px', () => {
    setNibSize(0.01);
    expect(nibOf(useDesk.getState()).size).toBe(0.5);
    setNibSize(900);
    expect(nibOf(useDesk.getState()).size).toBe(200);
    takeTool('rub');
    for (let k = 0; k < 60; k++) scaleTool(1.2);
    expect(useDesk.getState().rubSize).toBe(400);
  });

  it('brings Even back as strong as it was', () => {
    useDesk.setState({ calmWay: 'even', calmStrength: 73 });
    toggleCalm();
    expect(calmOf(useDesk.getState())).toEqual({ way: 'raw' });
    toggleCalm();
    expect(calmOf(useDesk.getState())).toEqual({ way: 'even', strength: 73 });
  });

  it('stops peeking when the stage changes', () => {
    useDesk.setState({ peeking: true });
    setStage('finish');
    expect(useDesk.getState()).toMatchObject({ stage: 'finish', peeking: false });
  });
});
