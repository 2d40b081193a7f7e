import fc from 'fast-check';
import {
  applyChange,
  checkChange,
  EntityMap,
  find,
  historyOf,
  invertChange,
  layersOf,
  mergeEdits,
  newPage,
  noHistory,
  orderBetween,
  remember,
  type Change,
  type Edit,
  type Entity,
  type Page,
} from '../../src/page';
import { ChangeConflict, sameValue } from '../../src/gate';
import { adding, change, layer, picture, stroke } from './entities';

const blank = newPage({ width: 1000, height: 800, ppi: 300 });
const contents = (page: Page) => new Map([...page.entities].map((entity) => [entity.id, entity]));

/** Random but fitting edits: adds, replaces and removes among ten ids. */
const steps = fc.array(
  fc.record({
    id: fc.integer({ min: 0, max: 9 }).map((n) => `s${n}`),
    x: fc.integer({ min: 0, max: 500 }),
    isGone: fc.boolean(),
  }),
  { maxLength: 30 },
);

function editFor(page: Page, { id, x, isGone }: { id: string; x: number; isGone: boolean }): Edit {
  const before = page.entities.get(id) ?? null;
  return { before, after: isGone && before ? null : stroke(id, x) };
}

describe('changes', () => {
  it('undone, give back the same page', () => {
    fc.assert(
      fc.property(steps, (random) => {
        let page = blank;
        const pages: Page[] = [];
        const done: Change[] = [];
        for (const step of random) {
          const next = change([editFor(page, step)]);
          pages.push(page);
          done.push(next);
          page = applyChange(page, next);
        }
        for (const last of done.reverse()) {
          page = applyChange(page, invertChange(last));
          expect(sameValue([...contents(page)].sort(), [...contents(pages.pop()!)].sort())).toBe(true);
        }
      }),
    );
  });

  it('never touch the page they are applied to', () => {
    const page = applyChange(blank, change(adding(layer('inks'), stroke('a'))));
    const before = contents(page);
    applyChange(page, change([{ before: stroke('a'), after: stroke('a', 50) }]));
    expect(contents(page)).toEqual(before);
  });

  it('that no longer fit are conflicts that name the entity, and change nothing', () => {
    const page = applyChange(blank, change(adding(stroke('a'))));
    expect(() => applyChange(page, change(adding(stroke('a'))))).toThrow(ChangeConflict);
    expect(() => applyChange(page, change([{ before: stroke('b'), after: null }]))).toThrow(/no longer on the page/);
    expect(() => applyChange(page, change([{ before: stroke('a', 9), after: null }]))).toThrow(/changed since/);
    expect(() => applyChange(page, change(adding(stroke('c')), { needs: ['gone'] }))).toThrow(
      expect.objectContaining({ entityId: 'gone' }),
    );
  });

  it('may need what they add themselves', () => {
    expect(() => applyChange(blank, change(adding(layer('inks'), stroke('a')), { needs: ['inks'] }))).not.toThrow();
  });

  it('merge to one edit each, and to none where they end as they began', () => {
    const [a, b] = [stroke('a'), stroke('a', 10)];
    expect(
      mergeEdits([
        { before: a, after: b },
        { before: b, after: null },
      ]),
    ).toEqual([{ before: a, after: null }]);
    expect(
      mergeEdits([
        { before: a, after: b },
        { before: b, after: a },
      ]),
    ).toEqual([]);
  });
});

describe('the map of entities', () => {
  it('behaves as a plain map would', () => {
    fc.assert(
      fc.property(steps, (random) => {
        let own = EntityMap.empty;
        const plain = new Map<string, Entity>();
        for (const { id, x, isGone } of random) {
          if (isGone) plain.delete(id);
          else plain.set(id, stroke(id, x));
          own = isGone ? own.without(id) : own.with(plain.get(id)!);
        }
        expect(own.size).toBe(plain.size);
        expect(new Map([...own].map((entity) => [entity.id, entity]))).toEqual(plain);
        expect(EntityMap.of(plain.values()).size).toBe(plain.size);
      }),
    );
  });

  it('finds the few layers among many strokes, and forgets those that are gone or replaced', () => {
    const many = EntityMap.of([...Array.from({ length: 100 }, (_, k) => stroke(`s${k}`, k)), layer('a'), layer('b')]);
    const kinds = (map: EntityMap, kind: 'layer' | 'stroke') => [...map.ofKind(kind)].map(({ id }) => id).sort();
    expect(kinds(many, 'layer')).toEqual(['a', 'b']);
    expect(kinds(many.without('a').with(layer('c')).without('s1'), 'layer')).toEqual(['b', 'c']);
    expect(kinds(many.with(stroke('a')), 'layer')).toEqual(['b']);
    expect(kinds(many, 'stroke')).toHaveLength(100);
  });

  it('shares what an edit does not touch, on a page of fifty thousand', () => {
    const many = EntityMap.of(Array.from({ length: 50_000 }, (_, k) => stroke(`s${k}`, k)));
    const more = many.with(stroke('new'));
    expect(more.size).toBe(50_001);
    expect(many.get('new')).toBeUndefined();
    expect(more.get('s777')).toBe(many.get('s777'));
    // Of all the lists that hold them only those are new that lead to the one that was added.
    const before = listsIn(many);
    const fresh = [...listsIn(more)].filter((list) => !before.has(list));
    expect(before.size).toBeGreaterThan(10_000);
    expect(fresh.length).toBeLessThanOrEqual(3);
  });
});

/** All arrays that a value is made of. */
function listsIn(value: object, found = new Set<object>()): Set<object> {
  if (Array.isArray(value) && !found.has(value)) found.add(value);
  // Entities themselves are no part of how the map is built.
  if ('kind' in value) return found;
  for (const inner of Object.values(value)) if (typeof inner === 'object' && inner !== null) listsIn(inner, found);
  return found;
}

describe('history', () => {
  const did = (id: string, by = 'me'): Change => change([], { id, by });
  const undid = (id: string, undoes: string, by = 'me'): Change => change([], { id, by, undoes });

  it('goes back and forth through one author’s own changes only', () => {
    const journal = [did('1'), did('x', 'other'), did('2'), undid('u2', '2'), undid('y', 'x', 'other')];
    const mine = historyOf(journal, 'me');
    expect(mine.done.map(({ id }) => id)).toEqual(['1']);
    expect(mine.undone.map(({ id }) => id)).toEqual(['u2']);
    expect(historyOf(journal, 'other').done).toEqual([]);
  });

  it('redoes by undoing the undo, without limit', () => {
    const journal = [did('1'), undid('u', '1'), undid('r', 'u'), undid('v', 'r')];
    expect(historyOf(journal.slice(0, 3), 'me')).toMatchObject({ done: [{ id: 'r' }], undone: [] });
    expect(historyOf(journal, 'me')).toMatchObject({ done: [], undone: [{ id: 'v' }] });
  });

  it('forgets what was undone once something new is done', () => {
    expect(historyOf([did('1'), undid('u', '1'), did('2')], 'me')).toMatchObject({ done: [{ id: '2' }], undone: [] });
  });

  it('knows what was undone out of its turn, as two tabs of one author do', () => {
    const journal = [did('1'), did('2'), undid('u1', '1')];
    expect(historyOf(journal, 'me')).toMatchObject({ done: [{ id: '2' }], undone: [{ id: 'u1' }] });
    expect(historyOf([...journal, undid('r', 'u1')], 'me')).toMatchObject({ done: [{ id: '2' }, { id: 'r' }] });
  });

  it('whatever is undone and redone, in or out of turn: offers to undo what is there, to redo what is not, each once', () => {
    const moves = fc.array(fc.tuple(fc.constantFrom('do', 'undo', 'redo'), fc.nat(5)), { maxLength: 40 });
    fc.assert(
      fc.property(moves, (all) => {
        let history = noHistory;
        const journal: Change[] = [];
        /** What each change brought about or took back: the first change, and whether that is there after it. */
        const effects = new Map<string, { readonly first: string; readonly isThere: boolean }>();
        const there = new Set<string>();
        for (const [k, [move, back]] of all.entries()) {
          const from = move === 'undo' ? history.done : history.undone;
          const target = move === 'do' ? undefined : from[Math.max(0, from.length - 1 - back)];
          if (move !== 'do' && !target) continue;
          const next = target ? undid(`c${k}`, target.id) : did(`c${k}`);
          const undone = target && effects.get(target.id);
          const effect = { first: undone?.first ?? next.id, isThere: !undone?.isThere };
          effects.set(next.id, effect);
          if (effect.isThere) there.add(effect.first);
          else there.delete(effect.first);
          journal.push(next);
          history = remember(history, next);
        }
        const firsts = (changes: typeof history.done) => changes.map(({ id }) => effects.get(id)?.first);
        expect(new Set(firsts(history.done))).toEqual(there);
        expect(history.done).toHaveLength(there.size);
        for (const first of firsts(history.undone)) expect(there.has(first ?? '')).toBe(false);
        expect(historyOf(journal, 'me')).toEqual(history);
      }),
    );
  });
});

describe('layers', () => {
  it('lie in the order of their keys, equal keys by id', () => {
    const page = applyChange(blank, change(adding(layer('b', 'a1'), layer('c', 'a0'), layer('a', 'a1'))));
    expect(layersOf(page).map(({ id }) => id)).toEqual(['c', 'a', 'b']);
  });

  it('take new things between', () => {
    const above = orderBetween('a0', undefined);
    expect('a0' < above).toBe(true);
    const between = orderBetween('a0', above);
    expect('a0' < between && between < above).toBe(true);
  });

  it('are found by kind', () => {
    const page = applyChange(blank, change(adding(layer('inks'), picture('p'))));
    expect(find(page, 'layer', 'p')).toBeUndefined();
    expect(find(page, 'picture', 'p')?.tint).toBe('blue');
  });
});

it('a checked change is the change that came', () => {
  const original = change(adding(layer('inks'), stroke('a'), picture('p')), { needs: ['inks'], undoes: 'x' });
  expect(sameValue(checkChange(original), original)).toBe(true);
});
