import { bodyRing, BODY_SHAPES, ownBody, type Body, type BodyShape, type TailKind } from '@true-nib/core/balloon';
import { closedCourses, tailBelow } from '@true-nib/core/comic';
import { identity } from '@true-nib/core/math';
import { View } from 'react-native';
import { useBoard, useSlot } from '../../board';
import { selectionSlot, useSelection } from '../../select';
import { Button, PictureChoice } from '../../look';
import { letterSlot } from './letterHand';
import { setLetters, useLetters } from './letterStore';
import { useText } from './useText';

const SHAPE_WORDS: Readonly<Record<Exclude<BodyShape, 'own'>, string>> = {
  oval: 'Oval',
  box: 'Caption',
  rounded: 'Rounded',
  cloud: 'Cloud',
  burst: 'Burst',
};

/** Shapes as small drawings, 44 by 30. */
const SHAPES = BODY_SHAPES.flatMap((value) =>
  value === 'own' ? [] : [{ value, label: SHAPE_WORDS[value], picture: shapePicture(value) }],
);

function shapePicture(shape: Exclude<BodyShape, 'own'>): string {
  const ring = (width: number, height: number) => {
    const places = bodyRing({ shape, width, height, place: identity }, 0.05);
    const words = Array.from({ length: places.length / 2 }, (_, k) => {
      const [x, y] = [places[2 * k] + 22, places[2 * k + 1] + 15];
      return `${x.toFixed(2)} ${y.toFixed(2)}`;
    });
    return words;
  };
  const outer = ring(38, 25);
  const inner = ring(35.4, 22.4).reverse();
  return `M${outer.join('L')}ZM${inner.join('L')}Z`;
}

export function ShapeSetting() {
  const board = useBoard();
  const hand = useSlot(letterSlot);
  const { text, balloon } = useText();
  const shape = useLetters((state) => state.shape);
  const index = text?.fit.as === 'balloon' ? text.fit.body : 0;
  const isAny = useSelection(({ size, isPixels }) => size > 0 && !isPixels);
  const reshape = (changed: (body: Body) => Body) => {
    if (!balloon) return;
    const bodies = balloon.bodies.map((body, k) => (k === index ? changed(body) : body));
    void hand.change('Shape of the balloon', ({ fit }) => ({ fit }), { ...balloon, bodies });
  };
  const takeSelected = () => {
    const [course] = closedCourses(board.of(selectionSlot).entities);
    if (!course) return board.notice('Select a closed line or an area: the balloon gets its shape.');
    reshape(() => ownBody(course));
  };
  return (
    <View className="gap-2">
      <PictureChoice
        label="Shape"
        value={balloon?.bodies[index]?.shape ?? shape}
        options={SHAPES}
        onChange={(next) => {
          setLetters({ shape: next === 'own' ? 'oval' : next });
          reshape(({ ring: _own, ...rest }) => ({ ...rest, shape: next }));
        }}
      />
      {balloon && isAny && <Button label="Shape of what is selected" onPress={takeSelected} />}
    </View>
  );
}

const TAILS: readonly { readonly value: TailKind | 'none'; readonly label: string; readonly picture: string }[] = [
  {
    value: 'pointed',
    label: 'Pointed',
    picture: 'M8 4H36V6H28Q26 18 14 27Q20 18 19 6H8ZM21 6Q22 14 18 21Q25 14 26 6Z',
  },
  {
    value: 'bubbles',
    label: 'Thought',
    picture:
      'M8 4H36V6H8ZM24 9a5 3.6 0 1 1-.01 0ZM24 10.3a3.7 2.3 0 1 0 .01 0ZM18 17a3.4 2.6 0 1 1-.01 0ZM18 18.2a2.2 1.4 0 1 0 .01 0ZM13 23a2 1.6 0 1 1-.01 0Z',
  },
  { value: 'none', label: 'No tail', picture: 'M8 14H36V16H8Z' },
];

export function TailSetting() {
  const board = useBoard();
  const { page, balloon } = useText();
  const next = useLetters((state) => state.tail);
  const shown = balloon ? (balloon.tails[0]?.kind ?? 'none') : next;
  const add = (kind: TailKind) => {
    if (!balloon) return;
    const after = { ...balloon, tails: [...balloon.tails, tailBelow(balloon, kind, page.size.ppi)] };
    board.session.commit('Tail', [{ before: balloon, after }]);
  };
  return (
    <View className="gap-2">
      <PictureChoice
        label="Tail"
        value={shown}
        options={TAILS}
        onChange={(tail) => {
          setLetters({ tail });
          board.of(letterSlot).settle();
          if (!balloon) return;
          if (tail !== 'none' && balloon.tails.length === 0) return add(tail);
          const tails = tail === 'none' ? [] : balloon.tails.map((one) => ({ ...one, kind: tail }));
          board.session.commit('Tail', [{ before: balloon, after: { ...balloon, tails } }]);
        }}
      />
      {balloon && balloon.tails.length > 0 && (
        <Button label="One more tail" onPress={() => add(balloon.tails[0].kind)} />
      )}
    </View>
  );
}
