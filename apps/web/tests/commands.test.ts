import '../src/open/putTogether';
import { workbench } from '../src/board/workbench';
import { borrowTool, giveBack, setStage, takeTool, useDesk } from '../src/board/desk';
import { takeNib } from '../src/nibs/takeNib';
import {
  changeNib,
  deleteNib,
  duplicateNib,
  nibInHand,
  setCalm,
  setNibSize,
  setRubSize,
  setUnit,
  toggleCalm,
  undoRack,
  useRack,
} from '../src/nibs/rackStore';
import { foundCommands } from '../src/keys/FindSheet';
import { keyInWords, mirroredKey, pressOf } from '../src/keys/keyNames';
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
  type HandSide,
} from '../src/keys/keySet';

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
  const keysUnder = (hand: HandSide) =>
    workbench.allCommands.flatMap(({ id }) => keysIn({ hand, own: {} }, id)).map((key) => key.toLowerCase());

  it.each(['right', 'left'] as const)('gives every key to one command only, for those who draw with the %s', (hand) => {
    const keys = keysUnder(hand);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('names every command once, in words', () => {
    expect(new Set(workbench.allCommands.map(({ id }) => id)).size).toBe(workbench.allCommands.length);
    expect(new Set(workbench.allCommands.map(({ label }) => label)).size).toBe(workbench.allCommands.length);
    for (const { label } of workbench.allCommands) expect(label.length).toBeGreaterThan(1);
  });

  it('keeps the plain keys under one hand, and mirrors them for the other', () => {
    const plain = workbench.allCommands.flatMap(({ key }) =>
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
    expect(foundCommands('turn').map(({ id }) => id)).toEqual(['turn-left', 'turn-right']);
    expect(foundCommands('layer below merge').map(({ id }) => id)).toEqual(['merge-clean', 'merge-down']);
    expect(foundCommands('xyzzy')).toEqual([]);
  });

  it('leaves the history alone while something is being drawn', () => {
    const session = { undo: jest.fn(), redo: jest.fn() };
    const board = (isBusy: boolean) =>
      ({
        session,
        hand: { isBusy },
        keeps: [{ takeBack: () => false }],
      }) as unknown as Parameters<typeof workbench.run>[1];
    workbench.run('undo', board(true));
    expect(session.undo).not.toHaveBeenCalled();
    workbench.run('undo', board(false));
    workbench.run('redo', board(false));
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
    assignKey('delete-layers', 'F2');
    useKeySet.setState({ hand: 'left' });
    const before = workbench.allCommands.map(({ id }) => keyIn(useKeySet.getState(), id));
    const file = exportKeys();
    resetKeys();
    useKeySet.setState({ hand: 'right' });
    expect(importKeys(file)).toEqual([]);
    expect(workbench.allCommands.map(({ id }) => keyIn(useKeySet.getState(), id))).toEqual(before);
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
    borrowTool();
    borrowTool();
    expect(useDesk.getState().tool).toBe('nib');
    giveBack();
    giveBack();
    const { tool, lender } = useDesk.getState();
    expect([tool, lender]).toEqual(['lift', undefined]);
  });

  const inHand = () => nibInHand(useRack.getState());

  it('lets each nib keep its own size, calm, colour and eraser', () => {
    takeNib('fixed-liner');
    setNibSize(3);
    setCalm({ way: 'raw' });
    takeTool('rub');
    setRubSize(20);
    takeNib('pressure');
    changeNib({ color: '#b8402a' });
    takeNib('fixed-liner');
    expect(inHand()).toMatchObject({
      nib: { name: 'Fixed liner', size: 3, color: '#14161a' },
      calm: { way: 'raw' },
      twin: { size: 20 },
    });
    expect(useDesk.getState()).toMatchObject({ stage: 'ink', tool: 'nib' });
  });

  it('keeps sizes within what a nib can be', () => {
    takeNib('fixed-liner');
    setNibSize(0.01);
    expect(inHand().nib.size).toBe(0.5);
    setNibSize(900);
    expect(inHand().nib.size).toBe(200);
    takeTool('rub');
    for (let k = 0; k < 60; k++) workbench.tool('rub')?.resize?.(1.2);
    expect(inHand().twin.size).toBe(400);
  });

  it('measures a nib in mm and back without changing it', () => {
    takeNib('fixed-liner');
    setNibSize(14);
    setUnit('mm', 350);
    expect(inHand().nib.size).toBeCloseTo((14 / 350) * 25.4, 3);
    setUnit('px', 350);
    expect(inHand().nib.size).toBe(14);
  });

  it('brings back the calm that Raw took the place of', () => {
    takeNib('tapered');
    setCalm({ way: 'tow', strength: 33, lag: 12 });
    toggleCalm();
    expect(inHand().calm).toEqual({ way: 'raw' });
    toggleCalm();
    expect(inHand().calm).toEqual({ way: 'tow', strength: 33, lag: 12 });
  });

  it('puts a deleted nib back, and takes back a copy', () => {
    takeNib('tapered');
    const before = useRack.getState().rack;
    deleteNib();
    expect(useRack.getState().rack).toHaveLength(before.length - 1);
    expect(undoRack()).toBe(true);
    expect(useRack.getState().rack).toEqual(before);
    takeNib('tapered');
    duplicateNib();
    expect(inHand().nib.name).toBe('Tapered line 2');
    undoRack();
    expect(useRack.getState().rack).toEqual(before);
  });

  it('starts with the nibs that ship when what the browser kept is no rack', async () => {
    const merge = useRack.persist.getOptions().merge!;
    const fresh = useRack.getInitialState();
    expect(merge({ rack: [{ nib: 'broken' }], base: [], inHand: 7 }, fresh).rack).toEqual(fresh.rack);
    expect(merge(null, fresh)).toEqual(fresh);
    const own = fresh.rack.slice(2);
    expect(merge({ rack: own, base: own, inHand: own[0].id, revision: 3 }, fresh)).toMatchObject({
      rack: own,
      revision: 3,
    });
  });

  it('goes to the stage where a tool is at home', () => {
    takeTool('lift');
    expect(useDesk.getState().stage).toBe('mend');
    setStage('ink');
    expect(useDesk.getState().tool).toBe('nib');
    setStage('mend');
    expect(useDesk.getState().tool).toBe('snip');
  });

  it('stops peeking when the stage changes', () => {
    useDesk.setState({ peeking: true });
    setStage('finish');
    expect(useDesk.getState()).toMatchObject({ stage: 'finish', peeking: false });
  });
});
