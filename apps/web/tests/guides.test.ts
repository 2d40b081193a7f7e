import {
  aimedAt,
  draggedGuide as dragged,
  guideGripAt as gripAt,
  guideGrips as gripsOf,
  isOnGuide,
  withNode,
  type GuideEntity,
  type GuideGrip,
  type GuideShape,
  type Seen,
} from '@true-nib/core/guides';
import { distance, identity, type Point } from '@true-nib/core/math';
import { applyChange, draftChange, newPage } from '@true-nib/core/page';
import { breath } from '../src/base/breath';
import { GuideMoves } from '../src/guiding/carrying';
import { degreesOf, lengthInWords, stateInWords, wheelInWords } from '../src/guiding/inWords';
import { laidShape, newGuide } from '../src/guiding/layGuide';
import { hush } from '../src/look/notices';
import { tagsOf, TAG_HEIGHT } from '../src/render/guidePicture';
import { inks } from './fakes';

const page = newPage({ width: 1000, height: 1400, ppi: 254 });
const at = (x: number, y: number): Point => ({ x, y });
const seen: Seen = { page: page.size, view: identity, board: { width: 1000, height: 1400 } };
const guideGrips = (shape: GuideShape, perCss: number, chosen: number | undefined) =>
  gripsOf(shape, { perCss, chosen, seen });
const draggedGuide = (
  shape: GuideShape,
  ...[grip, from, to, isExact, isBroken]: readonly [GuideGrip, Point, Point, boolean, boolean]
) => dragged(shape, { grip, from, to, isExact, isBroken, isLevel: true, seen });
const ruler: Extract<GuideShape, { kind: 'straightedge' }> = {
  ...{ kind: 'straightedge', x: 200, y: 100, angle: 0, length: 200, width: 40 },
};
const entity = (shape: GuideShape, more: Partial<GuideEntity> = {}): GuideEntity => ({
  ...newGuide(page, shape),
  ...more,
});

describe('moves of a guide whose lines are being carried', () => {
  it('are kept in their turn, but for the last one where it is given up meanwhile', async () => {
    const guide = entity(ruler, { tethers: true });
    const commit = jest.fn();
    const session = { page: { ...page, entities: page.entities.with(guide) }, waitFor: () => undefined, commit };
    const tether = jest.fn(() => Promise.resolve(0));
    const board = { session, picture: { inks: { beside: { tether } } }, notice: (words: string) => commit(words) };
    const moves = new GuideMoves(board as unknown as ConstructorParameters<typeof GuideMoves>[0]);
    const move = (x: number) => ({ id: guide.id, shape: { ...ruler, x }, label: `to ${x}` });
    const ended = jest.fn();
    expect(moves.giveUpLast()).toBeUndefined();
    const kept = move(210);
    moves.keepInTime(kept, ended);
    const given = move(220);
    moves.keepInTime(given, ended);
    expect(moves.giveUpLast()).toEqual({ last: given, before: kept });
    moves.keepInTime(move(211), ended);
    while (commit.mock.calls.length < 2) await breath();
    expect(commit.mock.calls.map(([label]: [string]) => label)).toEqual(['to 210', 'to 211']);
    expect([ended.mock.calls.length, tether.mock.calls.length]).toEqual([2, 2]);
    expect(moves.giveUpLast()).toBeUndefined();
    // What was done since is what a step back takes back.
    moves.keepInTime(move(230), ended);
    session.page = { ...session.page };
    expect(moves.giveUpLast()).toBeUndefined();
    await breath();
    hush();
  });
});

describe('a guide under the hand', () => {
  it('is laid down by a drag: a ruler from end to end, rails along it, ripples about its start', () => {
    const way = [at(100, 100), at(300, 100)];
    expect(laidShape('straightedge', way, page, undefined, 1)).toMatchObject({ x: 200, y: 100, angle: 0, length: 200 });
    expect(laidShape('rails', [at(0, 0), at(50, 50)], page, undefined, 1)).toMatchObject({ angle: Math.PI / 4 });
    expect(laidShape('ripples', way, page, undefined, 1)).toMatchObject({ x: 100, y: 100, ratio: 0.5 });
    expect(laidShape('wheel', [at(9, 9)], page, undefined, 1)).toMatchObject({ x: 9, y: 9, sectors: 6 });
    expect(laidShape('echo', [at(9, 9)], page, undefined, 1)).toBeUndefined();
    expect(laidShape('batten', [at(0, 0), at(50, 20), at(100, 0)], page, undefined, 1)).toHaveProperty('course');
  });

  it('gets a name of its own among others', () => {
    const first = newGuide(page, ruler);
    const both = { ...page, entities: page.entities.with(first) };
    expect([first.name, newGuide(both, ruler).name]).toEqual(['Straightedge', 'Straightedge 2']);
    expect(newGuide(both, ruler).order > first.order).toBe(true);
  });

  it('is pulled by its end while the other one stays, by whole 15° where that is held', () => {
    const end = gripAt(guideGrips(ruler, 1, undefined), at(302, 101), 10);
    if (end?.grip.part !== 'end') throw new Error('There is a grip at the end.');
    const pulled = draggedGuide(ruler, end.grip, end.at, at(300, 200), false, false);
    expect(pulled).toMatchObject({ length: expect.closeTo(Math.hypot(200, 100), 6) });
    const [start] = guideGrips(pulled, 1, undefined).filter(({ grip }) => grip.part === 'start');
    expect(distance(start.at, at(100, 100))).toBeLessThan(1e-9);
    const exact = draggedGuide(ruler, end.grip, end.at, at(300, 200), true, false);
    expect(exact).toMatchObject({ angle: expect.closeTo(Math.PI / 6, 9) });
  });

  it('aims an edge at a point, from either side', () => {
    for (const target of [at(500, 300), at(-300, 80), at(180, 700)]) {
      const aimed = aimedAt(ruler, [target.x, target.y, 1]);
      const across = (target.y - aimed.y) * Math.cos(aimed.angle) - (target.x - aimed.x) * Math.sin(aimed.angle);
      expect(Math.abs(across)).toBeCloseTo(20, 6);
      expect(Math.cos(aimed.angle)).toBeGreaterThan(-0.01);
    }
  });

  it('turns by its knob, sizes by its corners, bends by its points', () => {
    const rails: GuideShape = { kind: 'rails', x: 0, y: 0, angle: 0 };
    expect(draggedGuide(rails, { part: 'turn' }, at(96, 0), at(50, 50), false, false)).toMatchObject({
      angle: Math.PI / 4,
    });
    const ring = laidShape('template', [at(500, 500), at(600, 500)], page, undefined, 1);
    if (ring?.kind !== 'template') throw new Error('A template was laid.');
    const sized = draggedGuide(ring, { part: 'corner', corner: 2 }, at(600, 600), at(700, 600), false, false);
    expect(sized).toMatchObject({ place: { scaleX: expect.closeTo(1, 6), scaleY: expect.closeTo(0.5, 6) } });
    const bow = laidShape('batten', [at(0, 0), at(50, 40), at(100, 0)], page, undefined, 1);
    if (!bow || !('course' in bow)) throw new Error('A batten was laid.');
    const more = withNode(bow, at(50, 40));
    expect('course' in more && more.course.points.length).toBe(bow.course.points.length + 9);
    expect(draggedGuide(bow, { part: 'node', node: 0 }, at(0, 0), at(0, -9), false, false)).not.toEqual(bow);
    expect(draggedGuide(rails, { part: 'move' }, at(0, 0), at(7, 2), true, false)).toMatchObject({ x: 7, y: 0 });
  });

  it('is taken hold of where it is seen', () => {
    expect([at(200, 100), at(295, 115), at(400, 100)].map((p) => isOnGuide(ruler, p, 10))).toEqual([true, true, false]);
    expect(isOnGuide({ kind: 'mirror', x: 0, y: 0, angle: 0, joins: false }, at(900, 4), 10)).toBe(true);
  });
});

describe('a guide in words', () => {
  it('says its angle as drawn, its length in px and mm', () => {
    expect(degreesOf(-Math.PI / 6)).toBeCloseTo(30, 9);
    expect(lengthInWords({ ...ruler, angle: -Math.PI / 6 }, 254)).toBe('30.0° · 200 px · 20.0 mm');
    expect(lengthInWords({ kind: 'rays', x: 0, y: 0 }, 254)).toBeUndefined();
  });

  it('says how many strokes a wheel draws', () => {
    expect(wheelInWords({ sectors: 10, reflects: false })).toBe(
      'One stroke and 9 copies: 10 in all, turned by 36° each.',
    );
    expect(wheelInWords({ sectors: 2, reflects: true })).toBe('One stroke and 1 copy: 2 in all, mirrored on 1 axis.');
  });

  it('says what it does now', () => {
    const layered = applyChange(
      page,
      draftChange(
        'Layers',
        [inks, { ...inks, id: 'b', name: 'Heron' }].map((after) => ({ before: null, after })),
      ),
    );
    const said = (more: Partial<GuideEntity>, guided = true) => stateInWords(entity(ruler, more), guided, layered);
    expect(said({})).toBe('acts on all layers');
    expect(said({ reach: ['b'] })).toBe('acts on Heron');
    expect(said({ reach: ['b', 'gone'] })).toBe('acts on Heron');
    expect(said({ reach: ['b', 'inks'] })).toBe('acts on 2 layers');
    expect(said({ reach: ['gone'] })).toBe('acts on no layer: what it reached is gone');
    expect(said({ acting: false, locked: true })).toBe('asleep · locked');
    expect(said({ reach: ['inks', 'b'] }, false)).toBe('waits: all is free');
  });
});

describe('tags', () => {
  const shown = (guides: readonly GuideEntity[], isEditing = true) => ({
    ...{
      guides,
      isEditing,
      guided: true,
      layerId: undefined,
      inHand: undefined,
      bearer: undefined,
      bearing: undefined,
      page: page.size,
      ways: [],
    },
  });
  const board = { width: 800, height: 600 };

  it('stay on the board, say how far off their guide lies, and do not cover each other', () => {
    const rays = entity({ kind: 'rays', x: 5_000, y: 100 });
    const tags = tagsOf(shown([rays, entity(ruler), entity({ ...ruler, angle: 1 })]), [1, 0, 0, 1, 0, 0], board);
    expect(tags[0].words).toBe('Rays · 4,200 px off');
    for (const { x, y, width } of tags) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x + width).toBeLessThanOrEqual(board.width);
      expect(y + TAG_HEIGHT).toBeLessThanOrEqual(board.height);
    }
    expect(Math.abs(tags[1].y - tags[2].y)).toBeGreaterThanOrEqual(TAG_HEIGHT);
  });

  it('lie at the edges of the board, with a line to their guides, and are initials where one inks on a phone', () => {
    const phone = { width: 390, height: 600 };
    const left = entity({ ...ruler, x: 150, y: 200 }, { name: 'Quay edge' });
    const right = entity({ ...ruler, x: 300, y: 200 }, { id: 'right', name: 'Mast' });
    const [a, b] = tagsOf(shown([left, right], false), [1, 0, 0, 1, 0, 0], phone);
    expect([a.words, b.words]).toEqual(['Qe', 'M']);
    expect(a.x + a.width).toBeLessThan(60);
    expect(b.x).toBeGreaterThan(390 - 60);
    expect([a.anchor, b.anchor]).toEqual([
      { x: 150, y: 200 },
      { x: 300, y: 200 },
    ]);
    expect(tagsOf(shown([left]), [1, 0, 0, 1, 0, 0], phone)[0].words).toBe('Quay edge');
  });

  it('of guides that sleep are small while one inks, and those of unseen guides are gone', () => {
    const asleep = entity(ruler, { acting: false, name: 'Quay edge' });
    expect(tagsOf(shown([asleep], false), [1, 0, 0, 1, 0, 0], board)[0].words).toBe('Qe');
    expect(tagsOf(shown([asleep]), [1, 0, 0, 1, 0, 0], board)[0].words).toBe('Quay edge · asleep');
    expect(tagsOf(shown([entity(ruler, { seen: false })]), [1, 0, 0, 1, 0, 0], board)).toEqual([]);
  });
});
