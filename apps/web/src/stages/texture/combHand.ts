import type { CombField, CombSettings } from '@true-nib/core/texture';
import { onPlane, planeHomography } from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { boxMiddle, boxOfPoints, distance, type Point } from '@true-nib/core/math';
import { polylineSpine } from '@true-nib/core/shapes';
import type { Board, PageSlot } from '../../board';
import { actingFrame, fieldInHand, useDepth } from '../../guiding';
import { nibFor, useRack } from '../../nibs';
import { zoomOf, type TextureAsked } from '../../render';
import { LoopHand, type Filled, type LoopDrag } from './loopHand';
import { setDrag, setTexture, useTexture, type CombChoice, type CombDrag } from './textureStore';

/** CSS px that a drag is long at least before it gives a direction or a spacing. */
const LEAST_DRAG = 10;
/** Rows that a drag across them spans. */
const SPANNED = 8;
/** Page px that rows may be wide, and lie apart. */
export const COMB_WEIGHT = { least: 0.5, most: 200 } as const;
export const COMB_SPACING = { least: 1, most: 1_000 } as const;

/** The further sets of rows: their turns, radians, and the shares of the tone from which they are there. */
export const SETS: Readonly<Record<CombChoice['sets'], NonNullable<CombSettings['across']>>> = {
  one: [],
  square: [{ turn: Math.PI / 2, from: 0.25 }],
  slant: [{ turn: (50 * Math.PI) / 180, from: 0.25 }],
  three: [
    { turn: Math.PI / 2, from: 0.2 },
    { turn: Math.PI / 4, from: 0.35 },
  ],
};

/** What a choice comes to with a nib. Without a way for its tone a comb is even. */
export function combSettings(choice: CombChoice, nib: CombSettings['nib'], ramp: Filled['ramp']): CombSettings {
  const { sets, toned, weight, spacing, stray, missing, short, taperIn, taperOut, light, dark } = choice;
  const across = SETS[sets];
  return {
    nib: { ...nib, size: weight, taperIn, taperOut },
    spacing,
    ...{ stray: stray / 100, missing: missing / 100, short: short / 100 },
    across: toned === 'even' || !ramp ? across.map(({ turn }) => ({ turn, from: 0 })) : across,
    ...(toned !== 'even' &&
      ramp && { tone: { ramp: { shape: 'straight', ...ramp }, light: light / 100, dark: dark / 100, by: toned } }),
  };
}

/** Fills loops with rows. */
class CombHand extends LoopHand {
  constructor(board: Board) {
    super(board, 'comb', (count) => (count === 1 ? 'Comb a row' : `Comb ${count} rows`));
    this.listenTo([
      useTexture.subscribe(({ comb }, before) => comb !== before.comb && this.changed()),
      useRack.subscribe(() => this.changed()),
    ]);
  }

  protected override start(...[rings, target]: Parameters<LoopHand['start']>): void {
    setDrag('way');
    super.start(rings, target);
  }

  protected asked(filled: Filled): TextureAsked | string {
    const { comb } = useTexture.getState();
    const { board } = this;
    const found = this.field(filled, comb);
    if (typeof found === 'string') return found;
    const { field, guideId } = found;
    const settings: CombSettings = {
      ...combSettings(comb, nibFor(board.session.page), filled.ramp),
      ...(guideId !== undefined && { guideId }),
    };
    return { deed: 'comb', bounds: filled.rings, field, settings, seed: filled.seed };
  }

  private field(
    { rings }: Filled,
    { along, angle }: CombChoice,
  ): { readonly field: CombField; readonly guideId?: string } | string {
    const { board } = this;
    const middle = middleOf(rings);
    switch (along) {
      case 'way':
        return { field: { kind: 'rails', ...middle, angle } };
      case 'edge':
        return { field: { kind: 'echo', course: polylineSpine(rings[0], true) } };
      case 'guide': {
        const guide = fieldInHand(board);
        if (!guide) return 'There is no field to comb along: lay down Rails, Ripples, Rays or an Echo.';
        return { field: guide.shape, guideId: guide.id };
      }
      case 'plane': {
        const map = this.plane(middle);
        return typeof map === 'string' ? map : { field: { kind: 'plane', map, angle } };
      }
    }
  }

  /** The map of the plane in hand to the page; why there is none, in a sentence. */
  private plane(middle: Point) {
    const { session, desk } = this.board;
    const frame = actingFrame(session.page, desk().layerId);
    if (!frame) return 'There is no perspective to comb in: lay down a frame under Guides, in Depth.';
    try {
      return planeHomography(frame.shape, useDepth.getState().plane, middle, session.page.size);
    } catch (error) {
      if (error instanceof PageError) return error.message;
      throw error;
    }
  }

  protected settingsNow(): () => void {
    const { comb, drag } = useTexture.getState();
    return () => {
      setTexture('comb', comb);
      setDrag(drag);
    };
  }

  protected drag(): LoopDrag {
    const { drag } = useTexture.getState();
    const filled = this.filled;
    if (!filled) return { move: () => undefined, end: () => undefined };
    const least = LEAST_DRAG / zoomOf(this.board.picture.view);
    return {
      move: (from, to) => {
        if (drag === 'move') return this.fill(movedBy(filled, to.x - from.x, to.y - from.y));
        if (distance(from, to) < least) return;
        if (drag === 'tone') return this.tone(filled, from, to);
        if (drag === 'way') return this.turn(filled, from, to);
        setTexture('comb', { spacing: clampSpacing(distance(from, to) / SPANNED) });
      },
      end: () => setDrag(NEXT[drag]),
    };
  }

  private tone(filled: Filled, from: Point, to: Point): void {
    this.filled = { ...filled, ramp: { from, to } };
    if (useTexture.getState().comb.toned === 'even') setTexture('comb', { toned: 'weight' });
    else this.fill(this.filled);
  }

  private turn(filled: Filled, from: Point, to: Point): void {
    const { comb } = useTexture.getState();
    if (comb.along !== 'plane') {
      if (comb.along !== 'way') setTexture('comb', { along: 'way' });
      return setTexture('comb', { angle: Math.atan2(to.y - from.y, to.x - from.x) });
    }
    const map = this.plane(middleOf(filled.rings));
    if (typeof map === 'string') return;
    const [a, b] = [onPlane(map, from), onPlane(map, to)];
    if (a && b) setTexture('comb', { angle: Math.atan2(b.y - a.y, b.x - a.x) });
  }
}

/** What the next drag is for, after one: rows get their direction first, then their spacing. */
const NEXT: Readonly<Record<CombDrag, CombDrag>> = { way: 'gap', gap: 'move', tone: 'move', move: 'move' };

const clampSpacing = (spacing: number): number =>
  Math.round(10 * Math.min(COMB_SPACING.most, Math.max(COMB_SPACING.least, spacing))) / 10;

/** What fills a loop, moved with it. */
export function movedBy({ rings, seed, ramp }: Filled, dx: number, dy: number): Filled {
  const moved = ({ x, y }: Point) => ({ x: x + dx, y: y + dy });
  return {
    rings: rings.map((ring) => ring.map(moved)),
    seed,
    ...(ramp && { ramp: { from: moved(ramp.from), to: moved(ramp.to) } }),
  };
}

const middleOf = (rings: Filled['rings']): Point => boxMiddle(boxOfPoints(rings.flat()));

export const combSlot: PageSlot<CombHand> = { open: (board) => new CombHand(board) };
