import { apply } from '../../src/math';
import { applyChange, newPage } from '../../src/page';
import {
  draggedPlacement,
  fittedPlacement,
  gripAt,
  gripPlaces,
  liftedEdits,
  placementMatrix,
  rubbedEdits,
} from '../../src/tools';
import { adding, change, layer, stroke } from '../page/entities';

const page = applyChange(newPage({ width: 1000, height: 800, ppi: 300 }), change(adding(layer('inks'))));

describe('erasing', () => {
  const strokes = [stroke('a', 0), stroke('b', 200), stroke('c', 400)];
  let count = 0;
  const newId = () => `piece-${++count}`;

  it('rubs one line into pieces: the first keeps its id', () => {
    const edits = rubbedEdits(
      strokes,
      {
        course: [
          { x: 245, y: -30 },
          { x: 245, y: 60 },
        ],
        radius: 6,
      },
      newId,
    );
    expect(edits.map(({ before, after }) => [before?.id, after?.id])).toEqual([
      ['b', 'b'],
      [undefined, 'piece-1'],
    ]);
  });

  it('lifts every line that a drag touches', () => {
    const lifted = liftedEdits(strokes, { x: 0, y: 5 }, { x: 300, y: 5 }, 10);
    expect(lifted.map(({ before, after }) => [before?.id, after])).toEqual([
      ['a', null],
      ['b', null],
    ]);
  });

  it('lifts the nearest line of a tap beside them, and none from afar', () => {
    expect(liftedEdits(strokes, { x: 220, y: 25 }, { x: 220, y: 25 }, 30).map(({ before }) => before?.id)).toEqual([
      'b',
    ]);
    expect(liftedEdits(strokes, { x: 220, y: 300 }, { x: 220, y: 300 }, 30)).toEqual([]);
  });
});

describe('placing a picture', () => {
  const sheet = { width: 400, height: 300 };
  const fitted = fittedPlacement(sheet, page.size);

  it('fits and centres it', () => {
    expect(fitted).toEqual({ x: 500, y: 400, scale: 2.5, angle: 0 });
    expect(apply(placementMatrix(fitted, sheet), { x: 0, y: 0 })).toEqual({ x: 0, y: 25 });
  });

  it('finds what lies under the hand: a corner, the knob, the sheet, or nothing', () => {
    const { corners, knob } = gripPlaces(fitted, sheet, 40);
    expect(gripAt(fitted, sheet, corners[2], 10, 40)).toBe('size');
    expect(gripAt(fitted, sheet, knob, 10, 40)).toBe('turn');
    expect(gripAt(fitted, sheet, { x: 500, y: 400 }, 10, 40)).toBe('move');
    expect(gripAt(fitted, sheet, { x: 500, y: 850 }, 10, 40)).toBeUndefined();
  });

  it('keeps the grip under the hand', () => {
    const to = { x: 1300, y: 1000 };
    const { corners } = gripPlaces(fitted, sheet, 40);
    const sized = draggedPlacement(fitted, 'size', corners[2], to);
    const reach = (p: { x: number; y: number }) => Math.hypot(p.x - 500, p.y - 400);
    expect(reach(gripPlaces(sized, sheet, 40).corners[2])).toBeCloseTo(reach(to), 6);
    const { knob } = gripPlaces(fitted, sheet, 40);
    const turned = draggedPlacement(fitted, 'turn', knob, { x: 900, y: 400 });
    expect(turned.angle).toBeCloseTo(Math.PI / 2, 9);
    expect(draggedPlacement(fitted, 'move', { x: 1, y: 1 }, { x: 11, y: -4 })).toMatchObject({ x: 510, y: 395 });
  });

  it('turns by 15° at a time when it is asked to stay upright', () => {
    const { knob } = gripPlaces(fitted, sheet, 40);
    const { angle } = draggedPlacement(fitted, 'turn', knob, { x: knob.x + 110, y: knob.y }, true);
    expect((angle * 180) / Math.PI).toBeCloseTo(15, 9);
  });
});
