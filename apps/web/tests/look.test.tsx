import { fireEvent, render, screen } from '@testing-library/react-native';
import Eraser from 'lucide-react-native/icons/eraser';
import { Text } from 'react-native';
import { Choice } from '../src/look/Choice';
import { Chip } from '../src/look/Chip';
import { Field } from '../src/look/Field';
import { Fold } from '../src/look/Fold';
import { useFolds } from '../src/look/folds';
import { later } from '../src/look/later';
import { ScrubNumber } from '../src/look/ScrubNumber';
import { asShare, fromShare } from '../src/look/scrub';
import { Switch } from '../src/look/Switch';
import { LAYER_MARKS } from '@true-nib/core/page';
import { hex as contrastOf } from 'wcag-contrast';
import { colors } from '../src/look/tokens';

describe.each(['light', 'dark'] as const)('colours, %s', (theme) => {
  const of = colors[theme];
  it.each([
    ['ink', 'tray'],
    ['ink', 'raised'],
    ['ink', 'desk'],
    ['faint', 'tray'],
    ['faint', 'raised'],
    ['faint', 'desk'],
    ['seal', 'tray'],
    ['seal', 'raised'],
    ['onseal', 'seal'],
  ] as const)('%s on %s is text that can be read: 4.5 : 1 (WCAG 2.2, by wcag-contrast 3)', (text, ground) => {
    expect(contrastOf(of[text], of[ground])).toBeGreaterThanOrEqual(4.5);
  });
  it.each([
    ['edge', 'tray'],
    ['edge', 'raised'],
    ['seal', 'tray'],
  ] as const)('%s on %s is an outline that can be seen: 3 : 1 (WCAG 2.2, by wcag-contrast 3)', (edge, ground) => {
    expect(contrastOf(of[edge], of[ground])).toBeGreaterThanOrEqual(3);
  });
});

describe('marks of layers', () => {
  it.each(LAYER_MARKS)('$name is seen on white paper: 3 : 1 (WCAG 2.2, by wcag-contrast 3)', ({ color }) => {
    expect(contrastOf(color, '#ffffff')).toBeGreaterThanOrEqual(3);
  });
});

describe('a fold', () => {
  const fold = (isOpenAtFirst: boolean) => (
    <Fold title="Ways of calm" note="changed" isOpenAtFirst={isOpenAtFirst}>
      <Text>what is in it</Text>
    </Fold>
  );
  beforeEach(() => useFolds.setState({ open: {} }));
  it('holds nothing while it is closed, says so, and stays as it was left', () => {
    const first = render(fold(false));
    expect(screen.queryByText('what is in it')).toBeNull();
    const head = screen.getByRole('button', { name: 'Ways of calm, changed', expanded: false });
    fireEvent.press(head);
    expect(screen.getByText('what is in it')).toBeOnTheScreen();
    first.unmount();
    render(fold(false));
    expect(screen.getByRole('button', { name: 'Ways of calm, changed', expanded: true })).toBeOnTheScreen();
  });
  it('can be open at first, and closed', () => {
    render(fold(true));
    fireEvent.press(screen.getByRole('button', { name: 'Ways of calm, changed', expanded: true }));
    expect(screen.queryByText('what is in it')).toBeNull();
  });
});

describe('scrubbing', () => {
  const sizes = { least: 0.5, most: 200, step: 0.5, geometric: true };
  it('goes from end to end and back', () => {
    for (const range of [sizes, { least: 0, most: 100, step: 1 }])
      for (const value of [range.least, range.least + 10 * range.step, range.most])
        expect(fromShare(asShare(value, range), range)).toBeCloseTo(value, 6);
    expect(fromShare(2, sizes)).toBe(200);
    expect(fromShare(-1, sizes)).toBe(0.5);
  });
  it('multiplies where it is geometric', () => {
    expect(fromShare(asShare(10, sizes) + asShare(1, sizes), sizes)).toBeCloseTo(20, 0);
  });
  it('moves by at least one step when a key asks', () => {
    expect(fromShare(asShare(1, sizes) + 0.0001, sizes, 1, 1)).toBe(1.5);
    expect(fromShare(0, sizes, -1, 0.5)).toBe(0.5);
  });
});

const touch = (pageX: number) => ({ nativeEvent: { pageX, pageY: 0, touches: [], changedTouches: [] } });

describe('a number that is scrubbed', () => {
  const setup = (disabled = false) => {
    const [onChange, onSettled] = [jest.fn(), jest.fn()];
    render(
      <ScrubNumber
        label="Size"
        value={50}
        onChange={onChange}
        onSettled={onSettled}
        least={0}
        most={100}
        step={1}
        unit=" px"
        disabled={disabled}
      />,
    );
    return { onChange, onSettled, control: screen.getByLabelText('Size') };
  };

  it('says its value', () => {
    const { control } = setup();
    expect(control.props['aria-valuenow'] ?? control.props.accessibilityValue?.now).toBe(50);
    expect(screen.getByText('50 px')).toBeTruthy();
  });

  it('follows a sideways drag and settles once', () => {
    const { control, onChange, onSettled } = setup();
    fireEvent(control, 'responderGrant', touch(100));
    fireEvent(control, 'responderMove', touch(126));
    fireEvent(control, 'responderMove', touch(152));
    // What is kept is as it was; the number goes along with the hand.
    expect(control.props['aria-valuenow'] ?? control.props.accessibilityValue?.now).toBe(70);
    fireEvent(control, 'responderRelease', touch(152));
    expect(onChange.mock.calls.map(([value]) => value)).toEqual([60, 70]);
    expect(onSettled.mock.calls).toEqual([[70]]);
  });

  it('can be typed after a tap, within its range', () => {
    const { control, onSettled } = setup();
    fireEvent(control, 'responderGrant', touch(100));
    fireEvent(control, 'responderRelease', touch(101));
    const field = screen.getByDisplayValue('50');
    fireEvent.changeText(field, '7,5');
    fireEvent(field, 'submitEditing');
    expect(onSettled).toHaveBeenLastCalledWith(7.5);
  });

  it('leaves the value alone when what was typed is no number', () => {
    const { control, onSettled, onChange } = setup();
    fireEvent(control, 'responderGrant', touch(100));
    fireEvent(control, 'responderRelease', touch(100));
    const field = screen.getByDisplayValue('50');
    fireEvent.changeText(field, 'wide');
    fireEvent(field, 'submitEditing');
    expect([onChange.mock.calls, onSettled.mock.calls]).toEqual([[], []]);
  });

  it('steps by arrow keys, further with Shift', () => {
    const { control, onSettled } = setup();
    const press = (key: string, shiftKey = false) =>
      fireEvent(control, 'keyDown', { key, shiftKey, preventDefault: () => undefined });
    press('ArrowUp');
    press('ArrowLeft');
    press('ArrowRight', true);
    expect(onSettled.mock.calls).toEqual([[51], [49], [60]]);
  });

  it('does nothing while it is disabled', () => {
    expect(setup(true).control.props.onStartShouldSetResponder()).toBe(false);
  });
});

describe('controls', () => {
  it('a choice tells which one is chosen, and hears of another', () => {
    const onChange = jest.fn();
    render(
      <Choice
        label="Calm"
        value="raw"
        onChange={onChange}
        options={[
          { value: 'raw', label: 'Raw' },
          { value: 'even', label: 'Even' },
        ]}
      />,
    );
    expect(screen.getByRole('radio', { name: 'Raw' })).toBeChecked();
    fireEvent.press(screen.getByRole('radio', { name: 'Even' }));
    expect(onChange).toHaveBeenCalledWith('even');
  });

  it('a switch turns over', () => {
    const onChange = jest.fn();
    render(<Switch label="With the rough" on onChange={onChange} />);
    fireEvent.press(screen.getByRole('switch', { name: 'With the rough' }));
    expect(onChange).toHaveBeenCalledWith(false);
  });

  it('a chip carries its word and does nothing while it is disabled', () => {
    const onPress = jest.fn();
    render(<Chip label="Rub" icon={Eraser} onPress={onPress} disabled />);
    fireEvent.press(screen.getByRole('button', { name: 'Rub' }));
    expect(onPress).not.toHaveBeenCalled();
    expect(screen.getByText('Rub')).toBeTruthy();
  });

  it('a field hands on what is written', () => {
    const onChange = jest.fn();
    render(<Field label="Name" value="" onChange={onChange} />);
    fireEvent.changeText(screen.getByLabelText('Name'), 'Quay');
    expect(onChange).toHaveBeenCalledWith('Quay');
  });
});

describe('a part that is fetched when it is shown', () => {
  const Words = ({ words }: { readonly words: string }) => <Text>{words}</Text>;

  it('comes once for all views, and is there at once the next time', async () => {
    const load = jest.fn(() => Promise.resolve(Words));
    const Part = later(load);
    const first = render(<Part words="A chart" />);
    expect(screen.queryByText('A chart')).toBeNull();
    expect(await screen.findByText('A chart')).toBeTruthy();
    first.unmount();
    render(<Part words="Another" />);
    expect(screen.getByText('Another')).toBeTruthy();
    expect(load).toHaveBeenCalledTimes(1);
  });

  it('says when it cannot be fetched, and is asked for again by the next view', async () => {
    const load = jest.fn(() => Promise.resolve(Words)).mockRejectedValueOnce(new Error('gone'));
    const Part = later(load);
    const first = render(<Part words="A chart" />);
    expect(await screen.findByText(/could not be fetched/)).toBeTruthy();
    first.unmount();
    render(<Part words="A chart" />);
    expect(await screen.findByText('A chart')).toBeTruthy();
  });
});
