import { nested, type AreaEntity } from '../../src/area';
import { applyChange, newPage } from '../../src/page';
import { ellipseSpine } from '../../src/shapes';
import { leftEdits } from '../../src/tools';
import { adding, change, layer, stroke } from '../page/entities';

const line = stroke('line');
const area: AreaEntity = {
  ...{ kind: 'area', id: 'area', layerId: 'inks', order: 'a1' },
  rings: nested([ellipseSpine({ centre: { x: 50, y: 50 }, rx: 9, ry: 9 })]),
  fill: { as: 'colour', color: '#14161a' },
};

describe('what is left of things', () => {
  it('keeps its id where it is of the same kind, and is new where it is not; what is gone meanwhile is let be', () => {
    const page = applyChange(newPage({ width: 100, height: 100, ppi: 300 }), change(adding(layer('inks'), line, area)));
    const ids = ['p', 'q'];
    const edits = leftEdits(
      page,
      [
        { id: 'line', left: [{ ...area, id: 'line' }, line, { ...line, order: 'a5' }] },
        { id: 'area', left: [] },
        { id: 'elsewhere', left: [line] },
      ],
      () => ids.shift() ?? '',
    );
    expect(edits.map(({ before, after }) => [before?.id, after?.kind, after?.id])).toEqual([
      ['line', 'stroke', 'line'],
      [undefined, 'area', 'p'],
      [undefined, 'stroke', 'q'],
      ['area', undefined, undefined],
    ]);
  });
});
