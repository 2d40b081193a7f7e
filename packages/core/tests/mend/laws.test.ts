import fc from 'fast-check';
import { applyChange, draftChange, invertChange, newPage, ofKind, type Page } from '../../src/page';
import type { StrokeEntity } from '../../src/stroke';
import { gapToStroke } from '../../src/drawn';
import { linesWithin, nearestLine, rubStroke, snip, type MendDeed } from '../../src/mend';
import { bar, entities, planned } from './lines';

// Laws of every deed, on pages of lines that lie anyhow.

const coordinate = fc.integer({ min: 0, max: 300 });
const place = fc.tuple(coordinate, coordinate);
const size = fc.integer({ min: 1, max: 20 });
const lines = fc
  .array(fc.tuple(place, place, size), { minLength: 3, maxLength: 9 })
  .map((bars) =>
    entities(bars.filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]) > 4).map(([a, b, w]) => bar(a, b, w))),
  )
  .map((all) => all.map((one, k): StrokeEntity => ({ ...one, layerId: k % 2 ? 'front' : 'back' })));

const pageOf = (strokes: readonly StrokeEntity[]): Page =>
  applyChange(
    newPage({ width: 400, height: 400, ppi: 300 }),
    draftChange(
      'lines',
      strokes.map((after) => ({ before: null, after })),
    ),
  );

const strokesOf = (page: Page): StrokeEntity[] => ofKind(page, 'stroke').sort((a, b) => (a.id < b.id ? -1 : 1));

let ids = 0;
const newId = () => `new-${++ids}`;

const DEEDS: readonly MendDeed[] = [
  { deed: 'tidy', overshoot: 60, gap: 20, exceptions: [] },
  { deed: 'ease', tolerance: 1, specks: 12, exceptions: [] },
  { deed: 'bridge', gap: 60, angle: 2, exceptions: [] },
  { deed: 'pool', radius: 20, strength: 0.5, angle: 1.2 },
  { deed: 'clean', frontId: 'front' },
];

describe('every deed', () => {
  it.each(DEEDS)('$deed: undone, it leaves the page as it was, and each line has an id of its own', (deed) => {
    fc.assert(
      fc.property(lines, (strokes) => {
        const page = pageOf(strokes);
        const change = draftChange(deed.deed, planned(strokes, deed, newId));
        const after = applyChange(page, change);
        expect(strokesOf(applyChange(after, invertChange(change, { id: 'back', by: 'a', at: 0 })))).toEqual(
          strokesOf(page),
        );
        const added = change.edits.flatMap(({ before, after: one }) => (before === null && one ? [one.id] : []));
        expect(new Set(added).size).toBe(added.length);
        expect(added.every((id) => !page.entities.get(id))).toBe(true);
      }),
      { numRuns: 25 },
    );
  });

  it.each(DEEDS)('$deed: changes no line that may not be changed', (deed) => {
    fc.assert(
      fc.property(lines, (strokes) => {
        const edits = planned(strokes, deed, newId, ({ layerId }) => layerId === 'back');
        expect(
          edits.every(({ before }) => before === null || (before.kind === 'stroke' && before.layerId === 'back')),
        ).toBe(true);
      }),
      { numRuns: 25 },
    );
  });

  it('snip and rub leave all alone that they do not touch, and are undone as they were done', () => {
    fc.assert(
      fc.property(lines, place, place, (strokes, a, b) => {
        const way = [
          { x: a[0], y: a[1] },
          { x: b[0], y: b[1] },
        ];
        const page = pageOf(strokes);
        const change = draftChange('snip', snip(strokes, way, { reach: 10, gap: 0, newId }));
        const after = applyChange(page, change);
        expect(strokesOf(applyChange(after, invertChange(change, { id: 'back', by: 'a', at: 0 })))).toEqual(
          strokesOf(page),
        );
        // Their ink lies farther from the hand's way than it reaches.
        for (const stroke of strokes)
          if (gapToStroke(stroke, way[0], way[1], 1_000) > 10)
            expect(after.entities.get(stroke.id)).toBe(page.entities.get(stroke.id));
        // Farther off than rubber and ink are wide: nothing to rub.
        const far = way.map(({ x, y }) => ({ x: x + 2_000, y }));
        for (const stroke of strokes) expect(rubStroke(stroke, far, 10)).toBeUndefined();
      }),
      { numRuns: 40 },
    );
  });
});

it('the nearest line is the first of those within reach, found without looking at all of them closely', () => {
  fc.assert(
    fc.property(lines, place, fc.integer({ min: 0, max: 150 }), (strokes, [x, y], reach) => {
      const all = linesWithin(strokes, (stroke) => stroke, { x, y }, reach);
      expect(nearestLine(strokes, (stroke) => stroke, { x, y }, reach)).toEqual(all[0]);
    }),
    { numRuns: 400 },
  );
});
