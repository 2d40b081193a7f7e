import type { LetteringEntity } from '@true-nib/core/lettering';
import { PAPER_WHITE } from '@true-nib/core/nib';
import { mmToPx, ptToPx, pxToMm, pxToPt } from '@true-nib/core/page';
import { View } from 'react-native';
import { useBoard, useSlot } from '../../board';
import { Button, Choice, chooseFile, Line, PictureChoice, ScrubNumber, Switch } from '../../look';
import { newId } from '../../session';
import { frameInHand } from '../../guiding';
import { selectionSlot, useSelection } from '../../select';
import type { FramePlane } from '@true-nib/core/guides';
import { alongCourse, lettersToBlot, placeOnPlane } from '@true-nib/core/comic';
import { FAMILIES, ownFace, shippedFaces } from './faces';
import { letterSlot } from './letterHand';
import { setLetters, useLetters } from './letterStore';
import { useText } from './useText';

const nothing = () => undefined;

/** Size and air in one line. */
export function SizeNumbers() {
  const hand = useSlot(letterSlot);
  const { page, text } = useText();
  const size = useLetters((state) => state.size);
  const { ppi } = page.size;
  const shown = text ? Math.round(pxToPt(text.style.size, ppi) * 10) / 10 : size;
  const set = (pt: number) => {
    setLetters({ size: pt });
    void hand.change('Size of letters', ({ style }) => ({ style: { ...style, size: ptToPx(pt, ppi) } }));
  };
  return (
    <ScrubNumber
      label="Size"
      value={shown}
      onChange={text ? nothing : (pt) => setLetters({ size: pt })}
      onSettled={set}
      {...{ least: 2, most: 400, step: 0.5, unit: ' pt', geometric: true }}
    />
  );
}

export function AirNumber() {
  const hand = useSlot(letterSlot);
  const { page, text } = useText();
  const air = useLetters((state) => state.air);
  const { ppi } = page.size;
  if (text && text.fit.as !== 'balloon') return null;
  const shown = text?.fit.as === 'balloon' ? Math.round(pxToMm(text.fit.air, ppi) * 10) / 10 : air;
  return (
    <ScrubNumber
      label="Air"
      value={shown}
      onChange={text ? nothing : (mm) => setLetters({ air: mm })}
      onSettled={(mm) => {
        setLetters({ air: mm });
        void hand.change('Air round the letters', ({ fit }) => ({
          fit: fit.as === 'balloon' ? { ...fit, air: mmToPx(mm, ppi) } : fit,
        }));
      }}
      {...{ least: 0, most: 20, step: 0.1, unit: ' mm' }}
    />
  );
}

export function FontSetting() {
  const board = useBoard();
  const hand = useSlot(letterSlot);
  const { text } = useText();
  const { family, own } = useLetters();
  const take = async (id: string) => {
    const { refs } = await shippedFaces(board.session, id);
    await hand.change('Font', ({ style }) => ({ style: { ...style, fonts: refs } }));
  };
  const name = text?.style.fonts.plain.name;
  const shown = name === undefined ? family : (FAMILIES.find((one) => name.startsWith(one.name))?.id ?? 'own');
  const bringIn = async () => {
    const file = await chooseFile('.ttf,.otf,.woff,font/ttf,font/otf,font/woff');
    if (!file) return;
    try {
      const ref = await ownFace(board.session, file);
      setLetters({ family: 'own', own: ref });
      await hand.change('Font', ({ style }) => ({ style: { ...style, fonts: { plain: ref } } }));
    } catch (error) {
      board.notice(error instanceof Error ? error.message : 'This font could not be read.');
    }
  };
  const options = [
    ...FAMILIES.map(({ id, name: label }) => ({ value: id, label })),
    ...(own ? [{ value: 'own', label: own.name }] : []),
  ];
  return (
    <View className="gap-2">
      <Choice
        label="Font"
        value={shown}
        options={options}
        perRow={2}
        onChange={(next) => {
          setLetters({ family: next });
          if (next === 'own' && own)
            void hand.change('Font', ({ style }) => ({ style: { ...style, fonts: { plain: own } } }));
          else void take(next).catch((error: unknown) => board.notice(error instanceof Error ? error.message : ''));
        }}
      />
      <Button label="Bring in a font" onPress={() => void bringIn()} />
    </View>
  );
}

/** How the text is set: by numbers, and by which the other goes. */
export function SettingNumbers() {
  const hand = useSlot(letterSlot);
  const { text } = useText();
  const { leading, tracking, align, capitals } = useLetters();
  const style = text?.style;
  return (
    <View className="gap-2">
      <Line>
        <ScrubNumber
          label="Leading"
          value={style ? Math.round(style.leading * 100) : leading}
          onChange={nothing}
          onSettled={(value) => {
            setLetters({ leading: value });
            void hand.change('Leading', (one) => ({ style: { ...one.style, leading: value / 100 } }));
          }}
          {...{ least: 70, most: 250, step: 1, unit: ' %' }}
        />
        <ScrubNumber
          label="Tracking"
          value={style ? Math.round(style.tracking * 100) : tracking}
          onChange={nothing}
          onSettled={(value) => {
            setLetters({ tracking: value });
            void hand.change('Tracking', (one) => ({ style: { ...one.style, tracking: value / 100 } }));
          }}
          {...{ least: -20, most: 100, step: 1, unit: ' %' }}
        />
      </Line>
      <Choice
        label="Align"
        value={style?.align ?? align}
        options={[
          { value: 'left', label: 'Left' },
          { value: 'middle', label: 'Middle' },
          { value: 'right', label: 'Right' },
        ]}
        onChange={(next) => {
          setLetters({ align: next });
          void hand.change('Alignment', (one) => ({ style: { ...one.style, align: next } }));
        }}
      />
      <Switch
        label="All capitals"
        on={style?.capitals ?? capitals}
        onChange={(on) => {
          setLetters({ capitals: on });
          void hand.change('Capitals', (one) => ({ style: { ...one.style, capitals: on } }));
        }}
      />
      {text?.fit.as === 'balloon' && (
        <Choice
          label="What goes by what"
          value={text.fit.by}
          options={[
            { value: 'balloon', label: 'Balloon fits' },
            { value: 'letters', label: 'Text fits' },
          ]}
          onChange={(by) =>
            void hand.change('Fit', ({ fit }) => ({ fit: fit.as === 'balloon' ? { ...fit, by } : fit }))
          }
        />
      )}
      {text && text.fit.as !== 'balloon' && <ArchNumber text={text} />}
      {text && text.fit.as !== 'balloon' && <PlaceDeeds text={text} />}
    </View>
  );
}

/** Planes that a text lies on, as letters on small walls, 44 by 30. */
const PLANES: readonly { readonly value: FramePlane | 'flat'; readonly label: string; readonly picture: string }[] = [
  { value: 'flat', label: 'Flat', picture: 'M10 5H34V25H10ZM11.4 6.4V23.6H32.6V6.4ZM20.8 11H17V9H27V11H23.2V21H20.8Z' },
  {
    value: 'left',
    label: 'Left wall',
    picture: 'M10 2L34 8V22L10 28ZM11.4 3.8V26.2L32.6 20.9V9.1ZM20.8 11H17V9L27 10.6V12L23.2 11.6V19.6L20.8 20Z',
  },
  {
    value: 'right',
    label: 'Right wall',
    picture: 'M34 2L10 8V22L34 28ZM32.6 3.8V26.2L11.4 20.9V9.1ZM21 11.6L17 12V10.6L27 9V11H23.4V20L21 19.6Z',
  },
  {
    value: 'floor',
    label: 'Floor',
    picture: 'M14 8H30L40 24H4ZM14.8 9.4L6.6 22.6H37.4L29.2 9.4ZM20.6 13H17L17.6 11.6H26.4L27 13H23.4L24 20H20Z',
  },
];

/** Where a text of its own lies: flat, on a plane of the frame in hand, along a line that is selected; or it becomes a blot. */
function PlaceDeeds({ text }: { readonly text: LetteringEntity }) {
  const board = useBoard();
  const hand = useSlot(letterSlot);
  const { page } = useText();
  const frame = frameInHand(page);
  const isAny = useSelection(({ size, isPixels }) => size > 0 && !isPixels);
  const along = () => {
    const line = board.of(selectionSlot).entities.find((entity) => entity.kind === 'stroke');
    if (!line) return board.notice('Select a line first: the letters stand along it.');
    void hand.change('Letters along a line', () => alongCourse(line.spine));
  };
  return (
    <View className="gap-2">
      {frame && (
        <PictureChoice
          label="Lies on"
          value={text.place[6] === 0 && text.place[7] === 0 ? 'flat' : undefined}
          options={PLANES}
          onChange={(plane) =>
            void hand.change('Letters on a plane', (one) => ({
              place: placeOnPlane(page, one, plane === 'flat' ? undefined : { frame: frame.shape, plane }),
            }))
          }
        />
      )}
      {isAny && <Button label="Along the selected line" onPress={along} />}
      <Button
        label="Letters to a blot"
        onPress={() => {
          hand.settle();
          if (board.session.attempt((now) => lettersToBlot(now, text.id, newId)))
            setLetters({ chosen: [], isNew: false });
        }}
      />
    </View>
  );
}

/** Arch and a second colour, for texts of their own. */
function ArchNumber({ text }: { readonly text: LetteringEntity }) {
  const hand = useSlot(letterSlot);
  const { page } = useText();
  const { ppi } = page.size;
  const width = text.style.outline?.width ?? 0;
  return (
    <Line>
      <ScrubNumber
        label="Arch"
        value={text.fit.as === 'arch' ? Math.round(text.fit.rise * 100) : 0}
        onChange={nothing}
        onSettled={(percent) =>
          void hand.change('Arch', () => ({
            fit: percent === 0 ? { as: 'free' } : { as: 'arch', rise: percent / 100 },
          }))
        }
        {...{ least: -60, most: 60, step: 1, unit: ' %' }}
      />
      <ScrubNumber
        label="White round it"
        value={Math.round(pxToMm(width, ppi) * 10) / 10}
        onChange={nothing}
        onSettled={(mm) =>
          void hand.change('Outline of letters', ({ style: { outline: _before, ...style } }) => ({
            style: mm > 0 ? { ...style, outline: { color: PAPER_WHITE, width: mmToPx(mm, ppi) } } : style,
          }))
        }
        {...{ least: 0, most: 10, step: 0.1, unit: ' mm' }}
      />
    </Line>
  );
}
