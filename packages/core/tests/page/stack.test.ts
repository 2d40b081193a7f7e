import fc from 'fast-check';
import {
  applyChange,
  changeLayers,
  checkEntity,
  deleteLayers,
  duplicateLayers,
  EntityMap,
  groupLayers,
  invertChange,
  layersOf,
  layPaper,
  mergeLayers,
  MOST_LAYERS,
  moveInStack,
  newPage,
  nodeOf,
  ofKind,
  paperOf,
  placedAbove,
  restyleLayer,
  roughsOf,
  rowsOf,
  shortened,
  stackOf,
  visibleLayers,
  withTheOneBelow,
  type Change,
  type Entity,
  type LayerEntity,
  type SeenRough,
  type Page,
} from '../../src/page';
import { PageError } from '../../src/gate';
import { identity, type Matrix } from '../../src/math';
import { PLAIN_STYLE } from '../../src/nib';
import { mapStroke, type StrokeEntity } from '../../src/stroke';
import { twinEdits } from '../../src/tethers';
import { washTile } from '../../src/page/kinds/wash';
import type { GuideEntity } from '../../src/guides';
import { guide } from '../guides/guides';
import { adding, change, layer, picture, stroke } from './entities';

const empty = newPage({ width: 1000, height: 800, ppi: 300 });
const pageOf = (...entities: Entity[]): Page => applyChange(empty, change(adding(...entities)));
const names = (page: Page) => rowsOf(stackOf(page)).map(({ layer: { id }, depth }) => `${'·'.repeat(depth)}${id}`);
const inside = (id: string, order: string, parentId: string) => layer(id, order, 'ink', { parentId });

/** Rough at the bottom, a group of two, and an Ink layer on top. */
const page = pageOf(
  layer('rough', 'a0', 'rough'),
  layer('group', 'a1', 'group'),
  inside('low', 'a0', 'group'),
  inside('high', 'a1', 'group'),
  layer('top', 'a2'),
);

/** A change does what it says, and its inverse takes it back: the same stack, row by row. */
function after(before: Page, made: Change): Page {
  const next = applyChange(before, made);
  const back = applyChange(next, invertChange(made));
  expect(names(back)).toEqual(names(before));
  expect([...back.entities].length).toBe([...before.entities].length);
  return next;
}

let count = 0;
const newId = () => `new-${++count}`;

describe('the stack', () => {
  it('stands as it is painted: lowest first, groups around what lies in them', () => {
    expect(names(page)).toEqual(['top', 'group', '·high', '·low', 'rough']);
    expect(layersOf(page).map(({ id }) => id)).toEqual(['rough', 'low', 'high', 'top']);
  });

  it('hides and locks what lies in a hidden or locked group', () => {
    const hidden = after(page, changeLayers(page, ['group'], 'Hide', { hidden: true, locked: true }));
    expect(nodeOf(hidden, 'low')).toMatchObject({ isHidden: true, isLocked: true });
    expect(nodeOf(hidden, 'low')?.layer.hidden).toBe(false);
    expect(visibleLayers(hidden)).toEqual(['top']);
  });

  it('loses no layer whose group is gone, or that would lie in itself', () => {
    const lost = pageOf(
      inside('orphan', 'a0', 'nowhere'),
      { ...layer('a', 'a1', 'group'), parentId: 'b' },
      { ...layer('b', 'a2', 'group'), parentId: 'a' },
      { ...layer('self', 'a3', 'group'), parentId: 'self' },
    );
    expect(
      rowsOf(stackOf(lost))
        .map((row) => row.layer.id)
        .sort(),
    ).toEqual(['a', 'b', 'orphan', 'self']);
  });

  it('is the same object while only strokes change', () => {
    const drawn = applyChange(page, change(adding(stroke('s', 0, 'top'))));
    expect(stackOf(drawn)).toBe(stackOf(page));
  });
});

describe('moving layers', () => {
  it.each([
    ['to the top', ['rough'], { above: 'top' }, ['rough', 'top', 'group', '·high', '·low']],
    ['to the bottom', ['top'], {}, ['group', '·high', '·low', 'rough', 'top']],
    ['into a group', ['top'], { parentId: 'group', above: 'low' }, ['group', '·high', '·top', '·low', 'rough']],
    ['out of a group', ['low'], { above: 'rough' }, ['top', 'group', '·high', 'low', 'rough']],
    ['several in their order', ['top', 'low'], { above: 'rough' }, ['group', '·high', 'top', 'low', 'rough']],
  ])('%s', (_what, ids, place, rows) => {
    const moved = after(page, moveInStack(page, ids, place));
    expect(names(moved)).toEqual(rows);
  });

  it('is refused for a group into itself, for a place that is not there, and for nothing', () => {
    const nested = pageOf(layer('outer', 'a0', 'group'), { ...layer('inner', 'a0', 'group'), parentId: 'outer' });
    expect(() => moveInStack(nested, ['outer'], { parentId: 'inner' })).toThrow(/cannot lie in itself/);
    expect(() => moveInStack(page, ['top'], { above: 'nowhere' })).toThrow(/not there/);
    expect(() => moveInStack(page, ['top'], { parentId: 'rough' })).toThrow(/group/);
    expect(() => moveInStack(page, ['gone'], {})).toThrow(/no longer on the page/);
    expect(() => moveInStack(page, [], {})).toThrow(/Choose a layer/);
  });

  it('any move keeps every layer exactly once, and the others in their order', () => {
    const ids = ['rough', 'group', 'low', 'high', 'top'];
    fc.assert(
      fc.property(
        fc.subarray(ids, { minLength: 1 }),
        fc.constantFrom(...ids),
        fc.boolean(),
        (moved, above, isInGroup) => {
          let next: Page;
          try {
            next = applyChange(page, moveInStack(page, moved, isInGroup ? { parentId: 'group', above } : { above }));
          } catch (error) {
            expect(error).toBeInstanceOf(PageError);
            return;
          }
          const flat = (p: Page) => rowsOf(stackOf(p)).map((row) => row.layer.id);
          expect(flat(next).sort()).toEqual([...ids].sort());
          // What was moved lies directly above the place, in the order in which it stood, with what lies in it.
          const rows = flat(next).filter((id) => !(moved.includes('group') && (id === 'low' || id === 'high')));
          const outer = moved.filter((id) => !(moved.includes('group') && (id === 'low' || id === 'high')));
          const place = rows.indexOf(above);
          const block = rows.slice(Math.max(0, place - outer.length), place);
          if (above !== 'group' || moved.includes('group'))
            expect(block).toEqual(flat(page).filter((id) => outer.includes(id)));
          const gone = new Set(moved.includes('group') ? [...moved, 'low', 'high'] : moved);
          expect(flat(next).filter((id) => !gone.has(id))).toEqual(flat(page).filter((id) => !gone.has(id)));
        },
      ),
    );
  });

  it('puts a new layer directly above the one in hand, in its group', () => {
    const added = placedAbove(page, layer('fresh'), 'low');
    expect(names(applyChange(page, change(adding(added))))).toEqual([
      'top',
      'group',
      '·high',
      '·fresh',
      '·low',
      'rough',
    ]);
    expect(names(applyChange(page, change(adding(placedAbove(page, layer('fresh'), undefined)))))[0]).toBe('fresh');
  });

  it('groups layers where the highest of them stands', () => {
    const grouped = after(page, groupLayers(page, ['rough', 'high'], layer('g', 'a0', 'group')));
    expect(names(grouped)).toEqual(['top', 'group', '·g', '··high', '··rough', '·low']);
  });
});

describe('copying, deleting and limits', () => {
  const drawn = applyChange(page, change(adding(stroke('s', 0, 'low'), stroke('t', 9, 'top'))));

  it('a copy lies above its layer with all that lies on it', () => {
    const copied = after(drawn, duplicateLayers(drawn, ['group'], newId));
    const rows = rowsOf(stackOf(copied)).map(({ layer: { id, name } }) =>
      id.startsWith('new') ? `copy of ${name}` : id,
    );
    expect(rows).toEqual([
      'top',
      'copy of Layer group 2',
      'copy of Layer high',
      'copy of Layer low',
      'group',
      'high',
      'low',
      'rough',
    ]);
    const copies = ofKind(copied, 'stroke').filter(({ spine }) => spine === stroke('s').spine || spine.points[0] === 0);
    expect(new Set(copies.map(({ layerId }) => layerId)).size).toBe(2);
  });

  it('a copied symmetric set is a set of its own: what is done to one leaves the other alone', () => {
    const twin = (id: string, layerId: string, matrix: Matrix): StrokeEntity => ({
      ...mapStroke(stroke('s', 5, layerId), matrix),
      ...{ id, layerId, copy: { set: 'pair', matrix } },
    });
    const start = applyChange(
      page,
      change(adding(twin('s', 'low', identity), twin('t', 'high', [-1, 0, 0, 1, 400, 0]))),
    );
    const copied = after(start, duplicateLayers(start, ['group'], newId));
    const sets = new Map(ofKind(copied, 'stroke').map(({ id, copy }) => [id, copy?.set]));
    expect([sets.size, sets.get('s'), sets.get('t'), new Set(sets.values()).size]).toEqual([4, 'pair', 'pair', 2]);
    const [copy] = ofKind(copied, 'stroke').filter(({ id }) => id !== 's' && id !== 't');
    const alone = twinEdits(copied, 'pair', [{ before: copy, after: null }], newId);
    expect(alone).toEqual([]);
    const both = twinEdits(copied, copy.copy?.set ?? '', [{ before: copy, after: null }], newId);
    expect(both.map(({ before }) => before?.id === 's' || before?.id === 't')).toEqual([false]);
  });

  it('copies have names of their own, however long the names they come from', () => {
    const named = (id: string, name: string) => ({ ...layer(id), name });
    const long = 'Rigging '.repeat(25);
    const shelf = pageOf(named('a', 'Inks'), named('b', 'Inks 2'), named('c', long), named('d', 'Panel 7'));
    const namesAfter = (ids: readonly string[]) =>
      duplicateLayers(shelf, ids, newId)
        .edits.map(({ after: copy }) => checkEntity(copy))
        .map((copy) => copy.kind === 'layer' && copy.name);
    expect(namesAfter(['a'])).toEqual(['Inks 3']);
    expect(namesAfter(['d'])).toEqual(['Panel 8']);
    expect(new Set(namesAfter(['a', 'b', 'c'])).size).toBe(3);
    expect(long).toHaveLength(200);
    expect(shortened(`${'x'.repeat(198)}🪢 and on`)).toBe(`${'x'.repeat(198)}…`);
  });

  it('deleting takes what lies on a layer with it, and is refused for a locked one', () => {
    const left = after(drawn, deleteLayers(drawn, ['group']));
    expect(ofKind(left, 'stroke').map(({ id }) => id)).toEqual(['t']);
    const locked = applyChange(drawn, changeLayers(drawn, ['high'], 'Lock', { locked: true }));
    expect(() => deleteLayers(locked, ['group'])).toThrow(/Layer high is locked/);
  });

  it('ten thousand layers are refused in a sentence', () => {
    const many = Array.from({ length: 10_000 }, (_, k) => layer(`l${k}`));
    expect(() => pageOf(...many)).toThrow(`at most ${MOST_LAYERS} layers`);
    expect(() => pageOf(...many.slice(0, MOST_LAYERS))).not.toThrow();
  });

  it('edits that are refused on the way leave the map as it was, and each is told what the one before left', () => {
    const start = EntityMap.of([layer('e0'), stroke('e2')]);
    const told: (string | undefined)[] = [];
    const refused = () =>
      start.edited(
        [
          ['e0', null],
          ['e0', layer('e0', 'a1')],
          ['e0', layer('e0', 'a2')],
          ['e1', layer('e1')],
        ],
        (present, k) => {
          told.push(present?.kind === 'layer' ? present.order : undefined);
          if (k === 3) throw new Error('not this one');
        },
      );
    expect(refused).toThrow('not this one');
    expect(told).toEqual(['a0', undefined, 'a1', undefined]);
    expect([start.size, start.get('e1'), start.get('e0')]).toEqual([2, undefined, layer('e0')]);
  });

  it('many edits at once make the same map as one by one', () => {
    const ids = fc.constantFrom(...Array.from({ length: 12 }, (_, k) => `e${k}`));
    const made = fc.option(fc.constantFrom('ink' as const, 'group' as const), { nil: null });
    fc.assert(
      fc.property(fc.array(fc.tuple(ids, made), { maxLength: 40 }), (steps) => {
        const start = EntityMap.of([layer('e0'), layer('e1'), stroke('e2')]);
        const edits = new Map(steps.map(([id, medium]) => [id, medium && layer(id, 'a0', medium)]));
        let one = start;
        for (const [id, entity] of edits) one = entity ? one.with(entity) : one.without(id);
        const all = start.edited(edits);
        const told = (map: EntityMap) => [...map].map(({ id }) => id).sort();
        expect(told(all)).toEqual(told(one));
        expect([all.size, all.countOf('layer')]).toEqual([one.size, one.countOf('layer')]);
      }),
    );
  });
});

describe('merging', () => {
  const two = (more: Parameters<typeof layer>[3] = {}, under: Parameters<typeof layer>[3] = {}) =>
    pageOf(
      layer('under', 'a0', 'ink', under),
      layer('over', 'a1', 'ink', more),
      stroke('u', 0, 'under'),
      { ...stroke('v', 10, 'over'), order: 'a5' },
      { ...stroke('w', 20, 'over'), order: 'a2' },
    );

  it('keeps the name of the lowest, and the order in which all was painted', () => {
    const merged = after(two(), mergeLayers(two(), ['over', 'under']));
    expect(names(merged)).toEqual(['under']);
    const strokes = ofKind(merged, 'stroke').sort((a, b) => (a.order < b.order ? -1 : 1));
    expect(strokes.map(({ id, layerId }) => [id, layerId])).toEqual([
      ['u', 'under'],
      ['w', 'under'],
      ['v', 'under'],
    ]);
  });

  it('lays down in the strokes what the layers showed them as', () => {
    const styled = two({ style: { ...PLAIN_STYLE, widthFactor: 2, color: '#b8402a' } });
    const merged = applyChange(styled, mergeLayers(styled, ['over', 'under']));
    const found = Object.fromEntries(ofKind(merged, 'stroke').map((one) => [one.id, one]));
    expect(found.v.nib.color).toBe('#b8402a');
    expect(found.v.spine.points[2]).toBe(20);
    expect(found.u.spine.points[2]).toBe(10);
    expect(ofKind(merged, 'layer')[0].style).toBeUndefined();
  });

  it('lets guides that reached a layer reach what it was merged into', () => {
    const reaching = (id: string, reach: GuideEntity['reach']) =>
      guide({ kind: 'rails', x: 0, y: 0, angle: 0 }, { id, reach });
    const start = applyChange(
      two(),
      change(
        adding(
          reaching('over only', ['over']),
          reaching('both', ['over', 'under']),
          reaching('other', ['elsewhere']),
          reaching('all', 'all'),
        ),
      ),
    );
    const merged = after(start, mergeLayers(start, ['over', 'under']));
    const reached = Object.fromEntries(ofKind(merged, 'guide').map(({ id, reach }) => [id, reach]));
    expect(reached).toEqual({ 'over only': ['under'], both: ['under'], other: ['elsewhere'], all: 'all' });
  });

  it.each([
    ['another kind', { medium: 'wash' as const }, /Layer under is Ink and Layer over is Wash/],
    ['a rough', { medium: 'rough' as const }, /Roughs are kept apart/],
    ['a locked one', { locked: true }, /Layer over is locked/],
    ['another fade', { opacity: 0.5 }, /Layer over is faded/],
    ['a hidden one', { hidden: true }, /Layer over is hidden/],
    ['another edge', { style: { ...PLAIN_STYLE, edge: 'hard' as const } }, /differ in edge/],
  ])('is refused for %s', (_what, more, reason) => {
    expect(() => mergeLayers(two(more), ['over', 'under'])).toThrow(reason);
  });

  it('is refused for faded ones, however alike: where they overlap they are darker than one would be', () => {
    const faded = two({ opacity: 0.5 }, { opacity: 0.5 });
    expect(() => mergeLayers(faded, ['over', 'under'])).toThrow(/Layer under is faded/);
    expect(
      names(
        after(
          two({ hidden: true }, { hidden: true }),
          mergeLayers(two({ hidden: true }, { hidden: true }), ['over', 'under']),
        ),
      ),
    ).toEqual(['under']);
  });

  it('is refused where one lies in a faded group and another does not', () => {
    const grouped = (ofOver: string | undefined, ofUnder: string | undefined) =>
      pageOf(
        layer('g', 'a0', 'group', { opacity: 0.5 }),
        layer('under', 'a1', 'ink', ofUnder === undefined ? {} : { parentId: ofUnder }),
        layer('over', 'a2', 'ink', ofOver === undefined ? {} : { parentId: ofOver }),
      );
    expect(() => mergeLayers(grouped('g', undefined), ['over', 'under'])).toThrow(/group Layer g is faded/);
    expect(() => mergeLayers(grouped(undefined, 'g'), ['over', 'under'])).toThrow(/group Layer g is faded/);
    expect(names(after(grouped('g', 'g'), mergeLayers(grouped('g', 'g'), ['over', 'under'])))).toEqual(['g', '·under']);
  });

  it('is refused where something is seen that lies between, and says what', () => {
    const withBetween = (more: Partial<LayerEntity>, ...laid: Entity[]) =>
      pageOf(
        layer('under', 'a0'),
        layer('between', 'a1', 'wash', more),
        layer('over', 'a2'),
        stroke('u', 0, 'under'),
        ...laid,
      );
    const tile = washTile('between', 0, 0, 'ab'.repeat(32));
    expect(() => mergeLayers(withBetween({}, tile), ['over', 'under'])).toThrow(/Layer between lies between/);
    for (const page of [withBetween({}), withBetween({ hidden: true }, tile)])
      expect(names(after(page, mergeLayers(page, ['over', 'under'])))).toEqual(['between', 'under']);
  });

  it('takes at least two, and the one below must be there', () => {
    expect(() => mergeLayers(two(), ['over'])).toThrow(/at least two/);
    expect(withTheOneBelow(two(), 'over')).toEqual(['under', 'over']);
    expect(() => withTheOneBelow(two(), 'under')).toThrow(/no layer below/);
  });

  it('empties the groups that it merges', () => {
    const drawn = applyChange(page, change(adding(stroke('s', 0, 'high'))));
    const merged = after(drawn, mergeLayers(drawn, ['group', 'top']));
    expect(names(merged)).toEqual(['group', '·low', 'rough']);
    expect(ofKind(merged, 'stroke')[0].layerId).toBe('low');
  });
});

describe('restyling and paper', () => {
  it('restyling an Ink layer is one edit, however many lines lie on it', () => {
    const styled = restyleLayer(page, 'top', { ...PLAIN_STYLE, widthFactor: 1.5 });
    expect(styled.edits).toHaveLength(1);
    const next = after(page, styled);
    expect(nodeOf(next, 'top')?.layer.style?.widthFactor).toBe(1.5);
    expect(nodeOf(applyChange(next, restyleLayer(next, 'top', undefined)), 'top')?.layer).toEqual(layer('top', 'a2'));
    expect(() => restyleLayer(page, 'rough', PLAIN_STYLE)).toThrow(/Only the lines of an Ink layer/);
  });

  it('paper is white until another is laid', () => {
    expect(paperOf(page)).toBe('#ffffff');
    const bare = applyChange(page, layPaper(page, null));
    expect(paperOf(bare)).toBeNull();
    expect(paperOf(applyChange(bare, layPaper(bare, '#f5ecd8')))).toBe('#f5ecd8');
  });

  it('roughs lie on the paper below all inks, over all of them otherwise, as faded as their groups are together', () => {
    const stack = pageOf(
      layer('r1', 'a0', 'rough', { opacity: 0.5 }),
      layer('g', 'a1', 'group', { opacity: 0.5 }),
      layer('r2', 'a0', 'rough', { parentId: 'g', opacity: 0.8 }),
      layer('i', 'a1', 'ink', { parentId: 'g', hidden: true }),
      layer('r3', 'a2', 'rough', { parentId: 'g' }),
      layer('r4', 'a2', 'rough', { hidden: true }),
      layer('empty', 'a3', 'rough'),
      ...['r1', 'r2', 'r3', 'r4'].map((id) => picture(`p-${id}`, id)),
    );
    const told = (roughs: readonly SeenRough[]) => roughs.map(({ layer: { id }, opacity }) => [id, opacity]);
    const { under, over } = roughsOf(stack);
    expect(told(under)).toEqual([
      ['r1', 0.5],
      ['r2', 0.4],
    ]);
    expect(told(over)).toEqual([['r3', 0.5]]);
    expect(told(roughsOf(stack, () => true).over)).toEqual([
      ['r3', 0.5],
      ['r4', 1],
    ]);
  });

  it('a picture keeps its rough layer whatever moves', () => {
    const drawn = applyChange(page, change(adding(picture('p'))));
    expect(ofKind(after(drawn, moveInStack(drawn, ['rough'], { above: 'top' })), 'picture')[0].layerId).toBe('rough');
  });
});
