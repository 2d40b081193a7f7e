import { COMMANDS, HOLD_KEYS, keyInWords, runCommand, withKey, type Command } from '../src/board/commands';
import {
  calmOf,
  changeNib,
  nibOf,
  scaleTool,
  setNibSize,
  setStage,
  takeNib,
  takeTool,
  toggleCalm,
  useDesk,
} from '../src/board/desk';

const all: readonly Pick<Command, 'id' | 'label' | 'key' | 'also'>[] = [...COMMANDS, ...HOLD_KEYS];

describe('the table of commands', () => {
  it('gives every key to one command only', () => {
    const keys = all.flatMap(({ key, also = [] }) => [key, ...also]);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('names every command once, in words', () => {
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    for (const { label } of all) expect(label.length).toBeGreaterThan(1);
  });

  it('writes keys as people read them', () => {
    expect(keyInWords('$mod+Shift+z')).toMatch(/^(Ctrl|Cmd) Shift Z$/);
    expect(keyInWords('+')).toBe('+');
    expect(withKey('peek')).toBe('Peek: hide the rough (hold R)');
    expect(withKey('rub')).toBe('Rub (W)');
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

describe('the desk', () => {
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
