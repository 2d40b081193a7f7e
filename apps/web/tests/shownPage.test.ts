import fc from 'fast-check';
import { applyChange, draftChange, EntityMap, newPage, type Edit, type Entity, type Page } from '@true-nib/core/page';
import { ShownPage } from '../src/render/shownPage';

const layer = (id: string, name: string): Entity => ({
  ...{
    kind: 'layer',
    id,
    name,
    medium: 'ink',
    order: 'a0',
    opacity: 1,
    hidden: false,
    locked: false,
    holdsShape: false,
  },
});
const empty: Page = newPage({ width: 100, height: 100, ppi: 300 });
const pageOf = (...entities: Entity[]): Page => ({ ...empty, entities: EntityMap.of(entities) });
const told = (page: Page) => Object.fromEntries([...page.entities].map((entity) => [entity.id, entity]));

describe('a page as it is shown', () => {
  const [a, pulled, b] = [layer('a', 'a'), layer('a', 'pulled'), layer('b', 'b')];

  it('keeps what a preview shows while others change the page, and goes back to how that is kept', () => {
    const start = pageOf(a);
    const shown = new ShownPage(start);
    expect(shown.preview([{ before: a, after: pulled }])).toHaveLength(1);
    const edits: Edit[] = [{ before: null, after: b }];
    expect(shown.edit(applyChange(start, draftChange('b', edits)), edits)).toEqual(edits);
    expect(told(shown.now)).toEqual({ a: pulled, b });
    expect(shown.back([{ before: a, after: pulled }])).toEqual([{ before: pulled, after: a }]);
  });

  it('goes back to what another has made of it meanwhile, from what it shows', () => {
    const start = pageOf(a);
    const shown = new ShownPage(start);
    const preview = [{ before: a, after: pulled }];
    shown.preview(preview);
    const theirs = layer('a', 'theirs');
    const edits: Edit[] = [{ before: a, after: theirs }];
    expect(shown.edit(applyChange(start, draftChange('a', edits)), edits)).toEqual([{ before: pulled, after: theirs }]);
    expect(shown.back(preview)).toEqual([]);
    shown.preview([{ before: theirs, after: pulled }]);
    expect(shown.back(preview)).toEqual([{ before: pulled, after: theirs }]);
  });

  it('what it answers leads from what it showed to what it shows, whatever is previewed, kept and let be', () => {
    const ids = fc.constantFrom('a', 'b', 'c');
    const steps = fc.array(
      fc.record({
        deed: fc.constantFrom('preview', 'edit', 'back'),
        changes: fc.array(fc.tuple(ids, fc.option(fc.constantFrom('x', 'y', 'z'), { nil: null })), { maxLength: 4 }),
      }),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(steps, (all) => {
        const shown = new ShownPage(pageOf(a));
        let kept = shown.now;
        let seen = told(shown.now);
        for (const { deed, changes } of all) {
          const from = new Map((deed === 'edit' ? [...kept.entities] : [...shown.now.entities]).map((e) => [e.id, e]));
          const edits = changes.flatMap(([id, name]): Edit[] => {
            const before = from.get(id) ?? null;
            const after = name === null ? null : layer(id, name);
            if (after) from.set(id, after);
            else from.delete(id);
            return before || after ? [{ before, after }] : [];
          });
          if (deed === 'edit') kept = applyChange(kept, draftChange('edit', edits));
          const answered =
            deed === 'edit' ? shown.edit(kept, edits) : shown.preview(deed === 'back' ? shown.back(edits) : edits);
          for (const { before, after } of answered) {
            const id = (after ?? before)?.id ?? '';
            expect(seen[id] ?? null).toBe(before);
            if (after) seen = { ...seen, [id]: after };
            else delete seen[id];
          }
          expect(seen).toEqual(told(shown.now));
        }
        shown.preview(shown.back(['a', 'b', 'c'].map((id) => ({ before: layer(id, ''), after: null }))));
        expect(told(shown.now)).toEqual(told(kept));
      }),
    );
  });
});
