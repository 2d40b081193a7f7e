import {
  applyChange,
  changeWash,
  checkEntity,
  deleteLayers,
  duplicateLayers,
  inkToWash,
  invertChange,
  layersOf,
  mergeLayers,
  mergedLayers,
  newPage,
  ofKind,
  tileBox,
  tilePlaces,
  washTile,
  WASH_SIDE,
  washTileId,
  washTilesOf,
  type Entity,
  type Page,
} from '../../src/page';
import { PageError } from '../../src/gate';
import { adding, change, layer, stroke } from './entities';

const name = (digit: string) => digit.repeat(64);
const sky = layer('sky', 'a1', 'wash');
const pageOf = (...entities: Entity[]): Page =>
  applyChange(newPage({ width: 1000, height: 800, ppi: 300 }), change(adding(...entities)));
const page = pageOf(
  layer('inks', 'a0'),
  sky,
  layer('sea', 'a2', 'wash'),
  washTile('sky', 0, 0, name('a')),
  washTile('sky', 1, 0, name('b')),
  washTile('sea', 1, 0, name('c')),
);
const contents = (of: Page, layerId: string) =>
  Object.fromEntries(washTilesOf(of, layerId).map(({ id, blob }) => [id, blob[0]]));

describe('wash tiles', () => {
  it('cover the page without a gap, left and above of its corner too', () => {
    const boxes = [
      { minX: -10, minY: 100, maxX: 20, maxY: 120 },
      { minX: 250, minY: 250, maxX: 600, maxY: 260 },
    ];
    const places = tilePlaces(boxes);
    expect(new Set(places.map((place) => washTileId('x', place))).size).toBe(places.length);
    for (const { minX, minY, maxX, maxY } of boxes)
      for (const [x, y] of [
        [minX, minY],
        [maxX - 0.01, minY],
        [minX, maxY - 0.01],
        [maxX - 0.01, maxY - 0.01],
      ])
        expect(
          places.map(tileBox).filter((box) => x >= box.minX && x < box.maxX && y >= box.minY && y < box.maxY),
        ).toHaveLength(1);
    // An edge that only touches a tile does not need it.
    expect(tilePlaces([{ minX: 0, minY: 0, maxX: WASH_SIDE, maxY: WASH_SIDE }])).toEqual([{ column: 0, row: 0 }]);
  });

  it('change as everything else does: undo brings the very bytes back, and emptied ones are gone', () => {
    const made = changeWash(page, sky, 'Rub', [
      { column: 0, row: 0 },
      { column: 1, row: 0, blob: name('d') },
      { column: 5, row: 2, blob: name('e') },
      { column: 9, row: 9 },
    ]);
    const after = applyChange(page, made);
    expect(contents(after, 'sky')).toEqual({ 'sky~1~0': 'd', 'sky~5~2': 'e' });
    expect(contents(after, 'sea')).toEqual({ 'sea~1~0': 'c' });
    const back = applyChange(after, invertChange(made));
    expect(contents(back, 'sky')).toEqual(contents(page, 'sky'));
    expect(changeWash(page, sky, 'Same', [{ column: 0, row: 0, blob: name('a') }]).edits).toEqual([]);
  });

  it('are copied, and deleted, with their layer', () => {
    let count = 0;
    const copied = applyChange(
      page,
      duplicateLayers(page, ['sky'], () => `new-${++count}`),
    );
    expect(contents(copied, 'new-1')).toEqual({ 'new-1~0~0': 'a', 'new-1~1~0': 'b' });
    expect(contents(copied, 'sky')).toEqual(contents(page, 'sky'));
    const left = applyChange(page, deleteLayers(page, ['sky']));
    expect(ofKind(left, 'wash').map(({ layerId }) => layerId)).toEqual(['sea']);
  });

  it('pass the gate only where they say what they are', () => {
    const tile = washTile('sky', -2, 3, name('a'));
    expect(checkEntity({ ...tile, stray: 1 })).toEqual(tile);
    const refused: readonly (readonly [object, RegExp])[] = [
      [{ id: 'sky~0~0' }, /sky~-2~3/],
      [{ column: 0.5 }, /whole number/],
      [{ row: 1e9 }, /"row"/],
      [{ column: NaN }, /"column"/],
      [{ blob: 'ABC' }, /SHA-256/],
      [{ layerId: '' }, /layerId/],
    ];
    for (const [wrong, reason] of refused) expect(() => checkEntity({ ...tile, ...wrong })).toThrow(reason);
  });
});

describe('merging washes', () => {
  it('keeps the name of the lowest and takes the painted tiles; the others are gone with theirs', () => {
    expect(mergedLayers(page, ['sea', 'sky']).map(({ id }) => id)).toEqual(['sky', 'sea']);
    const made = mergeLayers(page, ['sky', 'sea'], [{ column: 1, row: 0, blob: name('f') }]);
    expect(made.label).toBe('Merge into Layer sky');
    const after = applyChange(page, made);
    expect(ofKind(after, 'layer').map(({ id }) => id)).toEqual(expect.not.arrayContaining(['sea']));
    expect(contents(after, 'sky')).toEqual({ 'sky~0~0': 'a', 'sky~1~0': 'f' });
    expect(ofKind(after, 'wash')).toHaveLength(2);
    expect(ofKind(applyChange(after, invertChange(made)), 'wash')).toHaveLength(3);
  });

  it('refuses to mix pixels and lines, and to lose pixels that nobody painted', () => {
    expect(() => mergeLayers(page, ['inks', 'sky'])).toThrow(/Ink and Layer sky is Wash: these cannot be merged/);
    expect(() => mergeLayers(page, ['sky', 'sea'])).toThrow(PageError);
  });
});

describe('an Ink layer that becomes pixels', () => {
  const style = { widthFactor: 2, edge: 'hard' as const };
  const inked = pageOf({ ...layer('inks', 'a0'), style, standIn: '#d6336c', opacity: 0.5 }, sky, stroke('line'));

  it('lies above its lines as a Wash that fades as they did; they stay, hidden, and undo takes all of it back', () => {
    const made = inkToWash(inked, 'inks', 'wash', [{ column: 1, row: 2, blob: name('d') }]);
    const after = applyChange(inked, made);
    expect(layersOf(after).map(({ id, medium, hidden }) => [id, medium, hidden])).toEqual([
      ['inks', 'ink', true],
      ['wash', 'wash', false],
      ['sky', 'wash', false],
    ]);
    const wash = layersOf(after)[1];
    expect(wash).toMatchObject({ name: 'Layer inks as pixels', opacity: 0.5 });
    // What was said of lines is in the pixels now, and stand-ins are not delivered.
    expect(wash).not.toHaveProperty('style');
    expect(wash).not.toHaveProperty('standIn');
    expect(after.entities.get('line')).toBe(inked.entities.get('line'));
    expect(contents(after, 'wash')).toEqual({ 'wash~1~2': 'd' });
    expect([...applyChange(after, invertChange(made)).entities]).toEqual([...inked.entities]);
  });

  it('is refused for layers without lines, that are locked or not there', () => {
    const locked = pageOf({ ...layer('inks', 'a0'), locked: true }, sky);
    expect(() => inkToWash(inked, 'sky', 'wash', [])).toThrow(PageError);
    expect(() => inkToWash(inked, 'none', 'wash', [])).toThrow(PageError);
    expect(() => inkToWash(locked, 'inks', 'wash', [])).toThrow('locked');
  });
});
