import { nested, type AreaEntity } from '../../src/area';
import { PageError } from '../../src/gate';
import { applyChange, checkEntity, invertChange, newPage, type Page } from '../../src/page';
import { ellipseSpine } from '../../src/shapes';
import { changeColour, coloursOf, countColour, nameColour } from '../../src/tools';
import { adding, change, layer, stroke } from '../page/entities';

const rust = '#a8442f';
const sand = '#d9c7a8';
const area = (id: string, fill: AreaEntity['fill']): AreaEntity => ({
  kind: 'area',
  ...{ id, layerId: 'inks', order: id },
  rings: nested([ellipseSpine({ centre: { x: 50, y: 50 }, rx: 20, ry: 20 })]),
  fill,
});
const line = stroke('line');
const page = applyChange(
  newPage({ width: 100, height: 100, ppi: 300 }),
  change(
    adding(
      layer('inks'),
      line,
      area('a', { as: 'colour', color: rust, opacity: 0.5 }),
      area('b', { as: 'colour', color: rust }),
      area('nick', { as: 'nothing' }),
    ),
  ),
);
const newId = () => 'name';
const shown = (of: Page) => {
  const counts = new Map<string, number>();
  for (const entity of of.entities) countColour(counts, entity, 1);
  return coloursOf(of, counts).map(({ color, count, name }) => [color, count, name]);
};

describe('the colours of a page', () => {
  it('are those in use, the most used first; a nick has none', () => {
    expect(shown(page)).toEqual([
      [rust, 2, undefined],
      [line.nib.color, 1, undefined],
    ]);
  });

  it('are counted by edits as if the page were counted anew', () => {
    const counts = new Map<string, number>();
    const made = [changeColour(page, rust, sand), change([{ before: line, after: null }])];
    const edits = [
      ...[...page.entities].map((after) => ({ before: null, after })),
      ...made.flatMap((one) => one.edits),
    ];
    for (const { before, after } of edits) {
      countColour(counts, before, -1);
      countColour(counts, after, 1);
    }
    expect([...counts]).toEqual([[sand, 2]]);
  });

  it('are named, and changed everywhere at once with their name; undo is exact', () => {
    const named = applyChange(page, nameColour(page, rust, ' Hull ', newId));
    const made = changeColour(named, rust, sand);
    const after = applyChange(named, made);
    expect(shown(after)).toEqual([
      [sand, 2, 'Hull'],
      [line.nib.color, 1, undefined],
    ]);
    expect(after.entities.get('a')).toMatchObject({ fill: { color: sand, opacity: 0.5 } });
    expect(after.entities.get('nick')).toBe(named.entities.get('nick'));
    expect(shown(applyChange(after, invertChange(made)))).toEqual(shown(named));
    expect(changeColour(page, sand, rust).edits).toEqual([]);
  });

  it('one that takes the place of another named one keeps that name; an empty name is none', () => {
    const one = applyChange(page, nameColour(page, rust, 'Hull', newId));
    const both = applyChange(
      one,
      nameColour(one, sand, 'Sail', () => 'other'),
    );
    // It is listed though nothing has it yet.
    expect(shown(both)).toContainEqual([sand, 0, 'Sail']);
    expect(shown(applyChange(both, changeColour(both, rust, sand)))[0]).toEqual([sand, 2, 'Sail']);
    expect(shown(applyChange(one, nameColour(one, rust, '', newId)))).toEqual(shown(page));
    expect(nameColour(page, rust, '  ', newId).edits).toEqual([]);
  });

  it('pass the gate', () => {
    const named = { kind: 'colour', id: 'name', color: rust, name: 'Hull' };
    expect(checkEntity({ ...named, more: 1 })).toEqual(named);
    expect(() => checkEntity({ ...named, color: 'red' })).toThrow(PageError);
    expect(() => checkEntity({ ...named, name: undefined })).toThrow(PageError);
  });
});
