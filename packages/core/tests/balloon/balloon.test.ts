import fc from 'fast-check';
import paper from 'paper';
import {
  awayFromBody,
  balloonRings,
  bodyRing,
  pulled,
  sizedBody,
  tailGrips,
  tailRings,
  tailRoot,
  type Balloon,
  type BalloonEntity,
  type Body,
  type Tail,
} from '../../src/balloon';
import {
  addLetters,
  balloonsOn,
  copyLetters,
  joinBalloons,
  letteringIn,
  letteringOn,
  moveLetters,
  partBalloon,
  removeLetters,
  tailTo,
} from '../../src/comic';
import { gapTo, mapped, markBox, marksOf } from '../../src/drawn';
import { pageToSvg } from '../../src/formats';
import type { LetterStyle } from '../../src/lettering';
import {
  apply,
  areaOfRings,
  chain,
  identity,
  isInRing,
  projectiveOf,
  rotation,
  translation,
  windingOf,
  type Point,
} from '../../src/math';
import { applyChange, checkEntity, invertChange, newPage, refsOf, type Page } from '../../src/page';
import { freeText, readScript, relettered, scriptToBalloons, textInBody, type ReadFonts } from '../../src/typeset';
import { pack, unpackEntity } from '../../src/wire';
import { COMIC, fontNamed } from '../typeset/fonts';

// Source of areas: paper.js.
paper.setup([10, 10]);

const body = (more: Partial<Body> = {}): Body => ({
  ...{ shape: 'oval', width: 300, height: 200, place: identity },
  ...more,
});
const tail = (more: Partial<Tail> = {}): Tail => ({
  ...{ kind: 'pointed', body: 0, root: Math.PI / 2, width: 40, tip: { x: 0, y: 220 }, bend: 0 },
  ...more,
});
const border = { name: 'Balloon', size: 6, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };
const balloon = (more: Partial<Balloon> = {}): BalloonEntity => ({
  ...{ kind: 'balloon', id: 'balloon', layerId: 'letters', order: 'a0' },
  ...{ bodies: [body()], tails: [], border, ground: '#ffffff' },
  ...more,
});
const isIn = (rings: readonly Float64Array[], at: Point) =>
  rings.reduce((winding, ring) => winding + windingOf(ring, at), 0) !== 0;
const path = (ring: ArrayLike<number>): paper.Path => {
  const made = new paper.Path(Array.from({ length: ring.length / 2 }, (_, k) => [ring[2 * k], ring[2 * k + 1]]));
  made.closed = true;
  return made;
};

const fonts: ReadFonts = { plain: fontNamed(COMIC) };
const style: LetterStyle = {
  fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
  ...{ size: 30, leading: 1.12, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};
const ids = () => {
  let count = 0;
  return () => `id-${++count}`;
};
const blank = newPage({ width: 2000, height: 2800, ppi: 300 });

/** A page with a balloon that says something at each of some places. */
function speaking(...places: readonly (readonly [x: number, y: number, text: string])[]): Page {
  const all = places.map(([x, y, text]) => {
    const laid = textInBody({ runs: [{ text }], style }, fonts, { shape: 'oval', air: 15, at: { x, y } });
    return {
      balloon: {
        bodies: [laid.body],
        tails: [tailTo({ bodies: [laid.body] }, { x, y: y + 300 })],
        border,
        ground: '#ffffff',
      },
      texts: [laid.text],
    };
  });
  return applyChange(blank, addLetters(blank, all, 'Balloons', ids()));
}

describe('the outline of a balloon', () => {
  it('is that of an ellipse for an oval, and as wide and high as it says for all shapes', () => {
    expect(areaOfRings(balloonRings(balloon(), 0.01))).toBeCloseTo((Math.PI * 300 * 200) / 4, -1);
    for (const shape of ['oval', 'box', 'rounded', 'cloud', 'burst'] as const) {
      const ring = bodyRing(body({ shape }), 0.05);
      const [xs, ys] = [0, 1].map((axis) => ring.filter((_v, k) => k % 2 === axis));
      // Bumps and spikes reach about as far: none is cut to the frame.
      expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(300 * 0.84);
      expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(300 * 1.08);
      expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(200 * 1.12);
    }
  });

  it('goes round bodies and tails as one, as another library unites them', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.integer({ min: 180, max: 420 }),
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        (root, far, bend) => {
          const tip = { x: far * Math.cos(root), y: far * Math.sin(root) };
          const bodies = [body(), body({ shape: 'rounded', place: translation(190, 90) })];
          const whole = balloon({ bodies, tails: [tail({ root, tip, bend })] });
          const parts = [
            ...bodies.map((one) => path(balloonRings({ bodies: [one], tails: [] }, 0.1)[0])),
            ...(isInRing(bodyRing(bodies[0], 0.1), tip)
              ? []
              : [path(tailRings(bodies[0], tail({ root, tip, bend }), 0.1)[0])]),
          ];
          const united = parts.reduce<paper.PathItem>((all, one) => all.unite(one), parts[0]);
          const area = 'area' in united ? Math.abs(Number(united.area)) : NaN;
          expect(Math.abs(areaOfRings(balloonRings(whole, 0.1)) - area)).toBeLessThan(area * 0.004);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('reaches to the tip of a tail, and has none where the tip lies within', () => {
    const out = balloonRings(balloon({ tails: [tail()] }), 0.1);
    expect(isIn(out, { x: 0, y: 205 })).toBe(true);
    expect(isIn(out, { x: 0, y: 225 })).toBe(false);
    const within = balloonRings(balloon({ tails: [tail({ tip: { x: 0, y: 60 } })] }), 0.1);
    expect(areaOfRings(within)).toBeCloseTo(areaOfRings(balloonRings(balloon(), 0.1)), 3);
  });

  it('has bubbles for a thought, each smaller, and a neck where two bodies are joined by one', () => {
    const thought = balloonRings(balloon({ tails: [tail({ kind: 'bubbles', tip: { x: 0, y: 320 } })] }), 0.1);
    const sizes = thought.map((ring) => areaOfRings([ring])).sort((a, b) => b - a);
    expect(sizes.length).toBe(4);
    expect(sizes[2]).toBeLessThan(sizes[1]);
    const bodies = [body(), body({ place: translation(500, 0) })];
    expect(isIn(balloonRings(balloon({ bodies }), 0.1), { x: 250, y: 0 })).toBe(false);
    const bridges = [{ between: [0, 1], width: 40 }] as const;
    expect(isIn(balloonRings(balloon({ bodies, bridges }), 0.1), { x: 250, y: 0 })).toBe(true);
  });
});

describe('a balloon in the hand', () => {
  const placed = body({ place: chain(rotation(0.3), translation(500, 400)) });

  it('has the grip of a bent tail on the tail, and bends to where that is pulled', () => {
    for (const bend of [-0.6, 0, 0.4]) {
      const bent = tail({ bend, tip: { x: 560, y: 900 } });
      expect(isIn(tailRings(placed, bent, 0.1), tailGrips(placed, bent).bend)).toBe(true);
      const away = pulled(bent, placed, 'bend', tailGrips(placed, tail({ ...bent, bend: 0.25 })).bend);
      expect(away.bend).toBeCloseTo(0.25, 9);
    }
    expect(pulled(tail(), placed, 'bend', { x: 90_000, y: 400 }).bend).toBe(1.5);
  });

  it('takes its tail to where its tip or its root is pulled', () => {
    expect(pulled(tail(), placed, 'tip', { x: 7, y: 8 })).toEqual(tail({ tip: { x: 7, y: 8 } }));
    const at = tailRoot(placed, tail({ root: 2 }));
    expect(pulled(tail(), placed, 'root', at).root).toBeCloseTo(2, 3);
    expect(awayFromBody(placed, at)).toBeLessThan(0.5);
    // Its middle is as far from its outline as half its height, its shorter side.
    expect(awayFromBody(placed, { x: 500, y: 400 })).toBeCloseTo(100, 0);
  });

  it('grows as far as its outline is pulled, about its middle: one way by a side, both ways near a corner', () => {
    const pulledTo = (x: number, y: number) => sizedBody(placed, apply(placed.place, { x, y }));
    expect(pulledTo(200, 0).place).toBe(placed.place);
    const sizes = [pulledTo(200, 0), pulledTo(0, -70), pulledTo(-120, 90)].map(({ width, height }) => [width, height]);
    expect(sizes.map((size) => size.map(Math.round))).toEqual([
      [400, 200],
      [300, 140],
      [240, 180],
    ]);
  });
});

describe('a balloon', () => {
  it('passes the gate, and names what is wrong', () => {
    const whole = balloon({ tails: [tail()], bridges: [] });
    expect(unpackEntity(pack(whole))).toEqual(whole);
    expect(() => checkEntity({ ...whole, bodies: [] })).toThrow(/a body at least/);
    expect(() => checkEntity({ ...whole, tails: [tail({ body: 3 })] })).toThrow(/body/);
    expect(() => checkEntity({ ...whole, bodies: [{ ...body(), shape: 'own' }] })).toThrow(/closed course/);
    expect(() => checkEntity({ ...whole, bodies: [{ ...body(), width: 0 }] })).toThrow(/width/);
  });

  it('lies as a ground and a border, is touched anywhere, and turns with a map', () => {
    expect(marksOf(balloon()).map(({ color }) => color)).toEqual(['#ffffff', '#14161a']);
    expect(gapTo(balloon(), { x: 10, y: 10 }, { x: 10, y: 10 }, 5)).toBe(0);
    const { ground: _none, ...bare } = balloon();
    expect(gapTo(bare, { x: 10, y: 10 }, { x: 10, y: 10 }, 5)).toBe(Infinity);
    const [turned] = mapped([balloon({ tails: [tail()] })], projectiveOf(rotation(Math.PI / 2)), { scaleWidth: false });
    expect(turned.tails[0].tip.x).toBeCloseTo(-220, 6);
    const { minX, maxX } = markBox(turned);
    expect(maxX - minX).toBeGreaterThan(300);
  });
});

describe('lettering', () => {
  it('keeps its fonts and knows its balloon; a copy knows the copy', () => {
    const page = speaking([500, 500, 'Last boat tonight.']);
    const [text] = letteringOn(page);
    expect(refsOf(text)).toMatchObject({
      blobs: [{ sha256: 'ab'.repeat(32), as: 'font' }],
      knows: [balloonsOn(page)[0].id],
    });
    expect(unpackEntity(pack(text))).toEqual(text);
    expect(() => checkEntity({ ...text, set: { ...text.set, glyphs: ['M0 0<script>'] } })).toThrow(/damaged/);
    expect(() =>
      checkEntity({ ...text, set: { ...text.set, places: Float64Array.of(999, 1, 0, 0, 1, 0, 0) } }),
    ).toThrow(/no outline/);
    expect(pageToSvg(page)).toContain('<title>Lettering</title>');
  });

  it('makes its balloon fit when it is typed anew, and pushes the tip of a tail out of it', () => {
    const page = speaking([500, 500, 'No.']);
    const [text] = letteringOn(page);
    const [before] = balloonsOn(page);
    const low = {
      ...before,
      tails: [{ ...before.tails[0], tip: { x: 500, y: 500 + before.bodies[0].height / 2 + 8 } }],
    };
    const shown = { ...page, entities: page.entities.with(low) };
    const { edits, setting } = relettered(
      shown,
      text.id,
      { runs: [{ text: 'No, never, not for all the lamps of the quay in one night.' }] },
      fonts,
    );
    const after = edits.flatMap(({ after: one }) => (one?.kind === 'balloon' ? [one] : []))[0];
    expect(setting.overflows).toBe(false);
    expect(after.bodies[0].height).toBeGreaterThan(before.bodies[0].height);
    expect(after.tails[0].tip.y).toBeGreaterThan(500 + after.bodies[0].height / 2);
    // Where the text goes by the balloon, that stays, and what does not fit is said.
    const fit = { ...text.fit, by: 'letters' } as typeof text.fit;
    const tight = relettered(page, text.id, { fit, runs: [{ text: 'Not for all the lamps of the quay.' }] }, fonts);
    expect(tight.setting.overflows).toBe(true);
    expect(tight.edits).toHaveLength(1);
  });

  it('goes along with its balloon, is joined and parted with it, and goes with it; undo puts all back', () => {
    const page = speaking([500, 500, 'And if we are seen?'], [700, 620, 'Then we were never here.']);
    const [a, b] = balloonsOn(page);
    const moved = moveLetters(page, [a.id], projectiveOf(translation(30, 40)));
    expect(moved.map(({ after }) => after?.kind)).toEqual(['balloon', 'lettering']);
    const joining = joinBalloons(page, [a.id, b.id], false);
    const joined = applyChange(page, joining);
    expect(balloonsOn(joined).map(({ bodies, tails }) => [bodies.length, tails.length])).toEqual([[2, 2]]);
    expect(letteringIn(joined, a.id).map(({ fit }) => fit.as === 'balloon' && fit.body)).toEqual([0, 1]);
    const parted = applyChange(joined, partBalloon(joined, a.id, ids2()));
    expect(balloonsOn(parted)).toHaveLength(2);
    expect(letteringOn(parted).map(({ fit }) => fit.as === 'balloon' && fit.body)).toEqual([0, 0]);
    expect([...applyChange(joined, invertChange(joining)).entities]).toEqual([...page.entities]);
    const removed = applyChange(page, removeLetters(page, [a.id]));
    expect([balloonsOn(removed).length, letteringOn(removed).length]).toEqual([1, 1]);
    expect(() => joinBalloons(page, [a.id], false)).toThrow(/two balloons/);
    const copied = applyChange(page, copyLetters(page, [a.id], { x: 50, y: 60 }, ids2()));
    const [, , copy] = balloonsOn(copied);
    expect(letteringIn(copied, copy.id).map(({ set }) => set)).toEqual([letteringIn(page, a.id)[0].set]);
    expect(copy.bodies[0].place[4]).toBeCloseTo(a.bodies[0].place[4] + 50, 9);
  });

  it('stands free, with a second colour round it', () => {
    const { text } = freeText(
      { runs: [{ text: 'Klonk' }], style: { ...style, outline: { color: '#ffffff', width: 6 } } },
      fonts,
      { x: 300, y: 300 },
    );
    const entity = { kind: 'lettering', id: 't', layerId: 'letters', order: 'a0', ...text } as const;
    expect(marksOf(entity).map(({ color }) => color)).toEqual(['#ffffff', '#14161a']);
    const [round, letters] = marksOf(entity).map((mark) => areaOfRings(mark.rings(0.1)));
    expect(round).toBeGreaterThan(letters * 1.3);
  });
});

const ids2 = () => {
  let count = 0;
  return () => `part-${++count}`;
};

describe('a script', () => {
  const script = `PAGE 3

PANEL 1
Wide: the quay at low tide.
CAPTION: Low water, a quarter to nine.
FERRYMAN: Last boat
tonight.
PANEL 2
HERON (thinks): He says that every night.
SFX: Klonk!`;

  it('is read by its panels, who speaks and how', () => {
    expect(readScript(script)).toEqual([
      { panel: 1, as: 'caption', who: '', text: 'Low water, a quarter to nine.' },
      { panel: 1, as: 'speech', who: 'FERRYMAN', text: 'Last boat tonight.' },
      { panel: 2, as: 'thought', who: 'HERON', text: 'He says that every night.' },
      { panel: 2, as: 'sound', who: '', text: 'Klonk!' },
    ]);
  });

  it('is refused where it is empty or a book', () => {
    expect(() => readScript('The quay at low tide.')).toThrow(/Nothing is said/);
    expect(() => readScript('')).toThrow(/Nothing is said/);
    expect(() => readScript('A: b\n'.repeat(500_000))).toThrow(/200,000 letters/);
    expect(() => readScript('FERRYMAN: boat\n'.repeat(500))).toThrow(/one page at a time/);
  });

  it('becomes balloons, captions and sounds, one below the other', () => {
    const how = { style, fonts, soundStyle: style, soundFonts: fonts };
    const made = scriptToBalloons(blank, [], readScript(script), how);
    expect(made.map(({ balloon: one }) => one?.bodies[0].shape)).toEqual(['box', 'oval', 'cloud', undefined]);
    const tops = made.flatMap(({ balloon: one }) => (one ? [one.bodies[0].place[5]] : []));
    expect([...tops].sort((a, b) => a - b)).toEqual(tops);
  });
});
