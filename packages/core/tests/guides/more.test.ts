import { boxAlong, boxAxes, guidedWay, project, symmetricStrokes, symmetryMaps, trackOf } from '../../src/guides';
import { twinEdits } from '../../src/tethers';
import { apply, distance, rotation, then, translation, type Matrix } from '../../src/math';
import { applyChange, draftChange, newPage, type Edit, type Page } from '../../src/page';
import { inked, type StrokeEntity } from '../../src/stroke';
import { mapPath, type EllipsePath } from '../../src/curve';
import { lineSpine } from '../../src/shapes';
import { checkOwnTemplate, ownTemplate, searchTemplates, templateToJson, TEMPLATES } from '../../src/templates';
import { liner } from '../hands';
import { at, bow, guide, places } from './guides';

const level = guide({ kind: 'rails', x: 0, y: 0, angle: 0 });
const steep = guide({ kind: 'rails', x: 0, y: 0, angle: 1.1 });

describe('a straight way', () => {
  it('goes along the rails that are closest in direction, and along an edge where it starts there', () => {
    expect(guidedWay([level, steep], at(10, 20), at(110, 25), { reach: 5 }).to).toEqual(at(110, 20));
    const ruler = guide({ kind: 'straightedge', x: 100, y: 100, angle: 0, length: 100, width: 20 });
    const way = guidedWay([level, ruler], at(60, 93), at(400, 120), { reach: 8 });
    expect(way).toEqual({ from: at(60, 90), to: at(150, 90) });
    expect(guidedWay([], at(1, 2), at(3, 4), { reach: 8 })).toEqual({ from: at(1, 2), to: at(3, 4) });
  });
});

describe('a box', () => {
  it('has its sides along two families of rails, or along and across one', () => {
    const axes = boxAxes([level, steep]);
    if (!axes) throw new Error('Two families give axes.');
    const [a, b, c, d] = boxAlong(axes, at(0, 0), at(200, 100));
    expect([a, c]).toEqual([at(0, 0), at(200, 100)]);
    expect(b.y).toBeCloseTo(0, 9);
    expect(Math.atan2(c.y - b.y, c.x - b.x)).toBeCloseTo(1.1, 9);
    expect(distance(a, d)).toBeCloseTo(distance(b, c), 9);
    const [, across] = boxAxes([steep]) ?? [];
    expect(Math.atan2(across?.y ?? 0, across?.x ?? 0)).toBeCloseTo(1.1 + Math.PI / 2, 9);
    expect(boxAxes([guide({ kind: 'rays', x: 0, y: 0 })])).toBeUndefined();
    expect(boxAxes([{ ...level, acting: false }])).toBeUndefined();
  });
});

describe('a path under an affine map', () => {
  it('goes where its places go, also where an ellipse is sheared', () => {
    const maps: Matrix[] = [then(rotation(0.7), translation(30, -9)), [1.4, 0.3, -0.6, 0.8, 5, 6], [-1, 0, 0, 1, 0, 0]];
    const ellipse: EllipsePath = { kind: 'ellipse', x: 50, y: 60, rx: 120, ry: 45, angle: 0.5 };
    for (const map of maps)
      for (const path of [ellipse, { kind: 'line', x: 5, y: 6, dx: 0.6, dy: 0.8 } as const]) {
        const image = mapPath(path, map);
        for (let k = 0; k < 12; k++)
          expect(project(image, apply(map, trackOf(path).place(60 * k))).distance).toBeLessThan(1e-6);
      }
  });
});

describe('a set that is awake', () => {
  const maps = symmetryMaps({ kind: 'wheel', x: 100, y: 100, angle: 0, sectors: 4, reflects: false, joins: false });
  const strokes = symmetricStrokes(inked(lineSpine(at(110, 100), at(160, 100)), liner), maps, 'set').map(
    (stroke, k): StrokeEntity => ({ kind: 'stroke', id: `s${k}`, layerId: 'inks', order: `a${k}`, ...stroke }),
  );
  const page: Page = applyChange(
    newPage({ width: 400, height: 400, ppi: 300 }),
    draftChange(
      'all',
      strokes.map((after) => ({ before: null, after })),
    ),
  );
  let count = 0;
  const newId = () => `new-${++count}`;
  const edit = (k: number, after: StrokeEntity | null): Edit => ({ before: strokes[k], after });

  it('takes an edit of any of its lines over to all, each under its own map', () => {
    const longer = inked(lineSpine(at(100, 110), at(100, 190)), liner).spine;
    const edits = twinEdits(page, 'set', [edit(1, { ...strokes[1], spine: longer })], newId);
    expect(edits.map(({ after }) => after?.id).sort()).toEqual(['s0', 's2', 's3']);
    for (const { after } of edits) {
      if (after?.kind !== 'stroke') throw new Error('Lines stay lines.');
      const { points } = after.spine;
      expect(distance(at(points[9], points[10]), at(100, 100))).toBeCloseTo(90, 9);
    }
    expect(applyChange(page, draftChange('both', [edit(1, { ...strokes[1], spine: longer }), ...edits]))).toBeDefined();
  });

  it('keeps every line in the panel that it was begun in', () => {
    const panels = ['left', 'right', undefined, 'left'];
    const apart = strokes.map((stroke, k) => ({ ...stroke, ...(panels[k] && { panelId: panels[k] }) }));
    const there = apart.reduce((all, after) => all.with(after), page.entities);
    const after = { ...apart[1], spine: inked(lineSpine(at(100, 110), at(100, 190)), liner).spine };
    const edits = twinEdits({ ...page, entities: there }, 'set', [{ before: apart[1], after }], newId);
    const kept = Object.fromEntries(edits.map(({ after: one }) => [one?.id, one?.kind === 'stroke' && one.panelId]));
    expect(kept).toEqual({ s0: 'left', s2: undefined, s3: 'left' });
  });

  it('is deleted as one, and cut into pieces as one', () => {
    expect(twinEdits(page, 'set', [edit(0, null)], newId).map(({ after }) => after)).toEqual([null, null, null]);
    const half = (a: number, b: number) => inked(lineSpine(at(a, 100), at(b, 100)), liner).spine;
    const cut: Edit[] = [
      edit(0, { ...strokes[0], spine: half(110, 130) }),
      { before: null, after: { ...strokes[0], id: 'piece', spine: half(140, 160) } },
    ];
    const edits = twinEdits(page, 'set', cut, newId);
    expect(edits).toHaveLength(6);
    expect(edits.filter(({ before }) => before === null)).toHaveLength(3);
  });

  it('leaves lines alone that are no longer images, other sets, and what is edited by itself', () => {
    const moved = { ...strokes[2], spine: inked(lineSpine(at(0, 0), at(9, 9)), liner).spine };
    const other = applyChange(page, draftChange('move one', [edit(2, moved)]));
    expect(
      twinEdits(other, 'set', [edit(0, null)], newId)
        .map(({ before }) => before?.id)
        .sort(),
    ).toEqual(['s1', 's3']);
    expect(twinEdits(page, 'another', [edit(0, null)], newId)).toEqual([]);
    expect(twinEdits(page, 'set', [edit(0, null), edit(1, null)], newId).map(({ before }) => before?.id)).not.toContain(
      's1',
    );
  });
});

describe('a template of one’s own', () => {
  it('lies about its middle, 400 px across, and comes back from JSON as it was', () => {
    const own = ownTemplate('leaf', '  Leaf ', [bow]);
    expect(own).toMatchObject({ id: 'leaf', name: 'Leaf', group: 'Own' });
    const xs = places(own.rings[0]).map(({ x }) => x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(400, 6);
    const again = checkOwnTemplate(JSON.parse(JSON.stringify(templateToJson(own))));
    again.rings[0].points.forEach((value, k) => expect(value).toBeCloseTo(own.rings[0].points[k], 9));
  });

  it.each([
    ['no outline', () => ownTemplate('a', 'a', []), /at least one outline/],
    ['too many outlines', () => ownTemplate('a', 'a', Array(65).fill(bow)), /at most 64 outlines/],
    [
      'a million nodes',
      () => ownTemplate('a', 'a', [{ closed: false, points: new Float64Array(9 * 5_000 + 3) }]),
      /at most 4000 nodes/,
    ],
    ['no object', () => checkOwnTemplate(7), /object/],
    ['an id that leads elsewhere', () => checkOwnTemplate({ id: '../x', name: '', rings: [] }), /id of letters/],
    ['rings that are none', () => checkOwnTemplate({ id: 'x', name: 'x', rings: 'round' }), /list of outlines/],
    [
      'numbers that are none',
      () => checkOwnTemplate({ id: 'x', name: 'x', rings: [{ points: [NaN], closed: true }] }),
      /spine/,
    ],
  ])('is refused with %s', (_name, make, reason) => expect(make).toThrow(reason));

  it('is found by any of its words', () => {
    expect(searchTemplates(TEMPLATES, 'ellip 30').map(({ id }) => id)).toEqual(['ellipse-30']);
    expect(searchTemplates(TEMPLATES, 'nothing like it')).toEqual([]);
  });
});
