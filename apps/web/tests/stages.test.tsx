import { fireEvent, render, screen } from '@testing-library/react-native';
import Feather from 'lucide-react-native/icons/feather';
import { useState } from 'react';
import { Text } from 'react-native';
import { newPage } from '@true-nib/core/page';
import type { Board, PageKeep, PageSlot } from '../src/board/board';
import { borrowTool, giveBack, setStage, takeTool, useDesk } from '../src/board/desk';
import { layOut } from '../src/board/layOut';
import { workbench, type Stage, type Tool } from '../src/board/workbench';
import { Bench } from '../src/chrome/Bench';
import { BenchColumn } from '../src/chrome/BenchColumn';
import { generalCommands, generalHolds, historyCommands } from '../src/chrome/commands';
import { StatusLine } from '../src/chrome/StatusLine';
import { Thread } from '../src/chrome/Thread';
import { useGuides } from '../src/guiding';
import { foundCommands } from '../src/keys/FindSheet';
import { keyIn, ownerOf, resetKeys, useKeySet, withKey } from '../src/keys/keySet';
import { takeNib } from '../src/nibs/takeNib';
import { openBoard } from '../src/open/openBoard';
import { STAGES } from '../src/stages';

// A stage with one tool that exists in tests alone: one line puts it everywhere, and taking that line out takes it away.

const asked: string[] = [];
const keep: PageKeep = {
  letGo: () => asked.push('letGo') > 0,
  takeBack: () => asked.push('takeBack') > 0,
  settle: () => asked.push('settle') > 0,
  nudge: () => asked.push('nudge') > 0,
  leave: () => void asked.push('leave'),
  dispose: () => void asked.push('dispose'),
};
const postSlot: PageSlot<PageKeep> = { open: () => keep };

const quill: Tool = {
  id: 'quill',
  label: 'Quill',
  icon: Feather,
  hint: 'Write where it is touched',
  command: { room: 'Draw', key: 'Shift+F9' },
  borrows: 'nib',
  takesNib: true,
  begin: () => undefined,
  Line: () => <Text>One line of the quill</Text>,
  Settings: () => {
    const [count, setCount] = useState(0);
    return <Text onPress={() => setCount(count + 1)}>{`All about the quill ${count}`}</Text>;
  },
  commands: [{ id: 'sharpen', label: 'Sharpen the quill', room: 'Draw', run: () => void asked.push('sharpen') }],
};
const POST: Stage = {
  id: 'post',
  label: 'Post',
  key: 'Shift+F8',
  tools: [quill],
  holds: ['dry'],
  keeps: [postSlot],
  forget: () => void asked.push('forget'),
  holdCommands: [{ id: 'dry', label: 'Blot it dry', room: 'Draw', key: 'F10', hold: () => undefined }],
};

const lay = (stages: readonly Stage[]) =>
  layOut(stages, { first: historyCommands, last: generalCommands, holds: generalHolds });
const withPost = () => lay([...STAGES.slice(0, 4), POST, ...STAGES.slice(4)]);
const boardOf = (keeps: readonly PageKeep[]) =>
  ({
    keeps,
    session: { undo: () => asked.push('undo') },
    hand: { isBusy: false, isShifted: false, cancel: () => false, panBy: () => asked.push('pan') },
  }) as unknown as Board;

// Colours are CSS variables, which browsers know and the drawing of icons here does not.
jest.spyOn(console, 'warn').mockImplementation(() => undefined);

beforeEach(() => {
  asked.length = 0;
  withPost();
  resetKeys();
  useDesk.setState(useDesk.getInitialState());
});
afterAll(() => lay(STAGES));

/** Opens a board on a page that nobody sees. */
function openPage() {
  const heard = { addEventListener: () => undefined, removeEventListener: () => undefined };
  Object.assign(globalThis.window, heard);
  Object.assign(globalThis, { document: heard });
  const session = {
    page: newPage({ width: 100, height: 100, ppi: 72 }),
    onEdits: () => () => undefined,
    onPage: () => () => undefined,
    beforeLeaving: (leave: () => void) => leave(),
  };
  const picture = { setLook: () => undefined, setPxGrid: () => undefined, dispose: () => undefined };
  return openBoard(heard as never, session as never, picture as never);
}

it('a page that is opened after one was delivered opens to be drawn on, and nothing is aimed at on it', () => {
  lay(STAGES.map(({ keeps: _none, ...stage }) => stage));
  useDesk.setState({ stage: 'finish', tool: 'nib' });
  useGuides.setState({ isAiming: true });
  openPage();
  expect(useDesk.getState()).toMatchObject({ stage: 'ink', tool: 'nib' });
  expect(useGuides.getState().isAiming).toBe(false);
});

describe('a stage that is one line', () => {
  it('is a knot on the thread between its neighbours, and is gone to by a touch', () => {
    render(<Thread isUpright={false} />);
    const knots = screen.getAllByRole('tab').map(({ props }) => props.accessibilityLabel);
    expect(knots).toEqual(['Rough', 'Guides', 'Ink', 'Mend', 'Post', 'Blacks', 'Finish']);
    fireEvent.press(screen.getByRole('tab', { name: 'Post' }));
    expect(useDesk.getState()).toMatchObject({ stage: 'post', tool: 'quill' });
  });

  it('has its tool, its line and its settings on both benches', () => {
    setStage('post');
    const phone = render(<Bench />);
    expect(screen.getByText('Quill')).toBeOnTheScreen();
    expect(screen.getByText('One line of the quill')).toBeOnTheScreen();
    fireEvent.press(screen.getByRole('button', { name: 'All settings' }));
    fireEvent.press(screen.getByText('All about the quill 0'));
    expect(screen.getByText('All about the quill 1')).toBeOnTheScreen();
    phone.unmount();
    render(<BenchColumn />);
    expect(screen.getByText('Quill')).toBeOnTheScreen();
    expect(screen.getByText('All about the quill 0')).toBeOnTheScreen();
  });

  it('without tools shows what stands in their place, on a phone alone where it says so', () => {
    lay([{ ...POST, tools: [], Chips: () => <Text>Sealing wax</Text> }]);
    useDesk.setState({ stage: 'post' });
    const wide = render(<BenchColumn />);
    expect(screen.getByText('Sealing wax')).toBeOnTheScreen();
    wide.unmount();
    lay([{ ...POST, tools: [], PhoneChips: () => <Text>A thumb</Text> }]);
    const phone = render(<Bench />);
    expect(screen.getByText('A thumb')).toBeOnTheScreen();
    phone.unmount();
    render(<BenchColumn />);
    expect(screen.queryByText('A thumb')).toBeNull();
  });

  it('says in the status line what its tool will do, and which key to hold', () => {
    setStage('post');
    render(<StatusLine />);
    expect(screen.getByText(/Write where it is touched.*hold F10: blot it dry/)).toBeOnTheScreen();
  });

  it('is found by name and by key, with its tool and what that can do', () => {
    expect(foundCommands('post').map(({ id }) => id)).toContain('stage-post');
    expect(foundCommands('quill').map(({ id }) => id)).toEqual(['quill', 'sharpen']);
    expect(keyIn(useKeySet.getState(), 'quill')).toBe('Shift+F9');
    expect(ownerOf('F10')?.id).toBe('dry');
    expect(withKey('stage-post')).toBe('Post (Shift F8)');
    workbench.run('quill', boardOf([]));
    expect(useDesk.getState()).toMatchObject({ stage: 'post', tool: 'quill' });
    workbench.run('sharpen', boardOf([]));
    expect(asked).toEqual(['sharpen']);
  });

  it('is asked by Escape, undo, Enter and the arrows before anything else is done', () => {
    const board = boardOf([keep]);
    for (const id of ['drop', 'undo', 'keep', 'pan-left']) workbench.run(id, board);
    expect(asked).toEqual(['letGo', 'takeBack', 'settle', 'nudge']);
    workbench.run('undo', boardOf([]));
    workbench.run('pan-left', boardOf([]));
    expect(asked.slice(4)).toEqual(['undo', 'pan']);
  });

  it('lends its tool, and keeps it in hand when another nib is taken', () => {
    takeTool('quill');
    borrowTool();
    expect(useDesk.getState().tool).toBe('nib');
    giveBack();
    takeNib('fixed-liner');
    expect(useDesk.getState()).toMatchObject({ stage: 'post', tool: 'quill' });
  });

  it('keeps something for each open page, forgets the last one, and is heard when the page is left', () => {
    lay([POST]);
    const opened = openPage();
    expect(opened.board.of(postSlot)).toBe(keep);
    expect(asked).toEqual(['forget']);
    opened.close();
    expect(asked).toEqual(['forget', 'leave', 'dispose']);
  });

  it('is nowhere once its line is gone', () => {
    lay(STAGES);
    useDesk.setState({ stage: 'ink', tool: 'nib' });
    render(<Thread isUpright={false} />);
    expect(screen.queryByRole('tab', { name: 'Post' })).toBeNull();
    expect(screen.getAllByRole('tab')).toHaveLength(6);
    expect(foundCommands('quill')).toEqual([]);
    expect(ownerOf('F10')).toBeUndefined();
    setStage('post');
    expect(useDesk.getState().stage).toBe('ink');
    expect(workbench.tools.some(({ id }) => id === 'quill')).toBe(false);
  });
});
