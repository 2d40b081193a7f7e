import {
  areaWithin,
  checkTone,
  TONE_LIMITS,
  flatRing,
  isInArea,
  type AreaEntity,
  type Ramp,
  type ToneFill,
} from '@true-nib/core/area';
import type { Spine } from '@true-nib/core/curve';
import { dotsFrom } from '@true-nib/core/drawn';
import { PageError } from '@true-nib/core/gate';
import type { PenSample } from '@true-nib/core/hand';
import {
  boxMiddle,
  boxOfPoints,
  boxOfRings,
  distance,
  ringArea,
  withinRings,
  type Box,
  type Point,
} from '@true-nib/core/math';
import { find } from '@true-nib/core/page';
import {
  isInHand,
  refuse,
  targetInHand,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { areasOf, layDown, type LineTarget } from '../../hand';
import { nibFor, nibInHand, useRack } from '../../nibs';
import { strokeBoth, zoomOf } from '../../render';
import { LoopWay } from '../blacks';
import { areaAt, loopsOf, outlineAt, outlineOfSelected } from './bounds';
import { setTexture, useTexture, type ToneChoice } from './textureStore';
import { traceLine } from './trace';
import { useToneInHand } from './toneInHand';

/** CSS px that a hand goes at least before it drags, and CSS px² that a loop goes round at least. */
const TAP = 6;
const LEAST_LOOP = 60;
/** CSS px that an outline may stray from the hand's, and between places of it. */
const STRAY = 0.04;
const STEP = 6;
const DEGREE = Math.PI / 180;

/** Lays screens of dots and lines into areas, and goes on with the one in hand. */
class ToneHand implements PageKeep {
  private isHeld = false;
  /** The area in hand as it is kept, while it is shown otherwise. */
  private kept: AreaEntity | undefined;
  private readonly stop: () => void;
  private isTaking = false;

  constructor(private readonly board: Board) {
    const stops = [
      useTexture.subscribe(({ tone }, before) => tone !== before.tone && !this.isTaking && this.preview()),
      useRack.subscribe((now, before) => {
        const [nib, last] = [nibInHand(now), nibInHand(before)];
        // Another nib in hand is no other colour for what lies on the page.
        if (nib.id === last.id && nib.nib.color !== last.nib.color) this.recolour();
      }),
      board.session.onEdits(() => useToneInHand.getState().id !== undefined && !this.inHand && this.take(undefined)),
    ];
    this.stop = () => stops.forEach((one) => one());
  }

  dispose(): void {
    this.stop();
    useToneInHand.setState({ id: undefined });
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'tone');
    if (this.isHeld && !isHeld) {
      this.keep();
      this.take(undefined);
    }
    this.isHeld = isHeld;
  }

  leave(): void {
    this.keep();
  }

  letGo(): boolean {
    const had = this.inHand !== undefined;
    if (this.kept) this.board.picture.letBe([{ before: this.kept, after: this.inHand ?? null }]);
    this.kept = undefined;
    this.take(undefined);
    return had;
  }

  /** The toned area in hand, as it is shown. */
  get inHand(): AreaEntity | undefined {
    const { id } = useToneInHand.getState();
    const area = id === undefined ? undefined : find(this.board.picture.shownPage, 'area', id);
    return area?.fill.as === 'tone' ? area : undefined;
  }

  /** Gives the tone in hand the colour in hand. */
  private recolour(): void {
    const { inHand, board } = this;
    const { color } = nibFor(board.session.page);
    if (inHand?.fill.as !== 'tone' || inHand.fill.color === color) return;
    this.showFill({ ...inHand.fill, color });
    this.keep();
  }

  /** Makes part of the page what is shown. */
  keep(): void {
    const { kept, inHand, board } = this;
    this.kept = undefined;
    if (kept && inHand && kept !== inHand) board.session.commit('Tone', [{ before: kept, after: inHand }]);
  }

  begin(press: Press): Gesture {
    const { board, inHand } = this;
    const target = targetInHand(board);
    if (typeof target === 'string') return refuse(board.notice, target);
    if (target.layer.medium !== 'ink') return refuse(board.notice, 'A tone is laid on an Ink layer: take one in hand.');
    if (inHand && isInArea(inHand, press.at)) return this.beginDrag(inHand, press.at);
    return this.beginLoop(press, target);
  }

  /** Tones the outline of what is selected. */
  toneSelected(): void {
    const target = targetInHand(this.board);
    if (typeof target === 'string') return this.board.notice(target);
    const rings = outlineOfSelected(this.board);
    if (rings.length === 0) return this.board.notice('What is selected goes round nothing.');
    this.lay(rings, target);
  }

  /** A drag in the tone in hand moves its screen, turns it, or draws the way of its share. */
  private beginDrag(area: AreaEntity, from: Point): Gesture {
    const { board } = this;
    const { fill } = area;
    if (fill.as !== 'tone') return refuse(board.notice, 'This area has no tone.');
    const { drag } = useTexture.getState().tone;
    const { x, y } = middleOf(area.rings);
    const begun = Math.atan2(from.y - y, from.x - x);
    const least = TAP / zoomOf(board.picture.view);
    const changed = (to: Point): ToneFill => {
      if (drag === 'move') return { ...fill, at: { x: fill.at.x + to.x - from.x, y: fill.at.y + to.y - from.y } };
      if (drag === 'turn') return { ...fill, angle: wrapped(fill.angle + Math.atan2(to.y - y, to.x - x) - begun) };
      const far = useTexture.getState().tone.far / 100;
      const shape = fill.ramp?.shape ?? 'straight';
      return { ...fill, ramp: { shape, from: { x: from.x, y: from.y }, to: { x: to.x, y: to.y }, share: far } };
    };
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (to && distance(from, to) > least) this.showFill(changed(to));
      },
      end: () => {
        this.keep();
        this.take(useToneInHand.getState().id);
      },
      cancel: () => void this.letGo(),
    };
  }

  private beginLoop(press: Press, target: LineTarget): Gesture {
    const { picture, notice } = this.board;
    const perCss = 1 / zoomOf(picture.view);
    const way = new LoopWay();
    const clear = () => picture.setArea(undefined);
    return {
      move: (samples: readonly PenSample[]) => {
        for (const sample of samples) way.add(sample, press.modifiers().shiftKey);
        picture.setArea(way.points);
      },
      end: () => {
        clear();
        const { minX, minY, maxX, maxY } = boxOfPoints([press.at, ...way.points]);
        if (Math.max(maxX - minX, maxY - minY) < TAP * perCss) return void this.toneAt(press.at, target);
        const area = Math.abs(ringArea(way.points.flatMap(({ x, y }) => [x, y])));
        if (way.points.length < 3 || area < LEAST_LOOP * perCss ** 2)
          return notice('Draw a loop: what it goes round is toned.');
        this.lay([way.fitted(STRAY * perCss, STEP * perCss)], target);
      },
      cancel: clear,
    };
  }

  /** Takes a tone in hand, tones an area, or lays one in the region that is touched. */
  private async toneAt(at: Point, target: LineTarget): Promise<void> {
    const { board } = this;
    const area = areaAt(board, target.layer.id, at);
    if (area?.fill.as === 'tone') return this.take(area.id);
    if (area) {
      const fill = this.fillFor(area.rings);
      if (!fill || !board.session.commit('Tone', [{ before: area, after: { ...area, fill } }])) return;
      return this.take(area.id);
    }
    const rings = await outlineAt(board, target.layer.id, at);
    if (!this.isHeld) return;
    if (!rings) return board.notice('A line takes no tone: touch a black or a region, or draw a loop.');
    this.lay(rings, target);
  }

  private lay(courses: readonly Spine[], target: LineTarget): void {
    const { board } = this;
    const fill = this.fillFor(courses);
    if (!fill) return;
    const area = areaWithin(courses, fill);
    const isOver = this.isOverTone(area.rings, target);
    layDown(board, target, 'Tone', [area]);
    const laid = areasOf(board.picture.drawnOn(target.layer.id, boxOfPoints(loopsOf(area.rings).flat())));
    this.take(laid.find(({ rings }) => rings === area.rings)?.id);
    if (isOver) board.notice('Two tones lie over each other here: their screens make a pattern of their own.');
  }

  private isOverTone(rings: readonly Spine[], { layer }: LineTarget): boolean {
    const flat = rings.map((ring) => flatRing(ring));
    return areasOf(this.board.picture.drawnOn(layer.id, boxOfRings(flat)))
      .filter(({ fill }) => fill.as === 'tone')
      .some(
        (area) =>
          withinRings(
            area.rings.map((ring) => flatRing(ring)),
            flat,
          ).length > 0,
      );
  }

  /** The tone that is set for an outline; nothing where it would have too many dots, which is said. */
  private fillFor(rings: readonly Spine[], before?: ToneFill): ToneFill | undefined {
    const { session, notice } = this.board;
    const { color } = before ?? nibFor(session.page);
    const fill = toneFill(useTexture.getState().tone, { ppi: session.card.ppi, color, rings, before });
    try {
      checkTone(fill, { rings });
      return fill;
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      notice(error.message);
      return undefined;
    }
  }

  /** Takes a toned area in hand, and its settings with it. */
  private take(id: string | undefined): void {
    this.isTaking = true;
    useToneInHand.setState({ id });
    const { inHand, board } = this;
    if (inHand?.fill.as === 'tone') setTexture('tone', choiceOf(inHand.fill, board.session.card.ppi));
    this.isTaking = false;
    this.show();
  }

  private preview(): void {
    const { inHand } = this;
    if (inHand?.fill.as !== 'tone') return;
    const fill = this.fillFor(inHand.rings, inHand.fill);
    if (fill) this.showFill(fill);
  }

  private showFill(fill: ToneFill): void {
    const { inHand, board } = this;
    if (!inHand) return;
    this.kept ??= find(board.session.page, 'area', inHand.id);
    board.picture.preview([{ before: inHand, after: { ...inHand, fill } }]);
    this.show();
  }

  /** The outline of the tone in hand, and the way of its share. */
  private show(): void {
    const { inHand, board } = this;
    if (!inHand) return board.picture.setSketch(undefined);
    const { rings, fill } = inHand;
    const loops = loopsOf(rings);
    board.picture.setSketch((context, map, ratio) => {
      const outline = () => loops.forEach((loop) => traceLine(context, map, [...loop, loop[0]]));
      strokeBoth(context, ratio, outline, true);
      const ramp = fill.as === 'tone' ? fill.ramp : undefined;
      if (ramp) strokeBoth(context, ratio, () => traceLine(context, map, [ramp.from, ramp.to]));
    });
  }
}

interface ToneOf {
  readonly ppi: number;
  readonly color: string;
  readonly rings: readonly Spine[];
  /** The tone that it had. */
  readonly before?: ToneFill | undefined;
}

/** A choice as the tone of an outline; its screen and the way of its share stay where they were. */
export function toneFill(choice: ToneChoice, { ppi, color, rings, before }: ToneOf): ToneFill {
  const { screen, lpi, angle, share, far, ramp } = choice;
  const shape: Ramp['shape'] = ramp === 'none' ? 'straight' : ramp;
  const way = before?.ramp ?? wayAcross(rings, shape);
  return {
    as: 'tone',
    color,
    screen,
    period: Math.max(TONE_LIMITS.period.least, ppi / lpi),
    angle: angle * DEGREE,
    at: before?.at ?? middleOf(rings),
    share: share / 100,
    ...(ramp !== 'none' && { ramp: { shape, from: way.from, to: way.to, share: far / 100 } }),
  };
}

/** A tone as it is chosen in settings. */
const choiceOf = ({ screen, period, angle, share, ramp }: ToneFill, ppi: number): Partial<ToneChoice> => ({
  screen,
  lpi: Math.round((10 * ppi) / period) / 10,
  angle: Math.round(angle / DEGREE),
  share: Math.round(100 * share),
  ramp: ramp?.shape ?? 'none',
  ...(ramp && { far: Math.round(100 * ramp.share) }),
});

/** A way over an outline: from its top to its foot, or from its middle outwards. */
export function wayAcross(rings: readonly Spine[], shape: Ramp['shape']): { readonly from: Point; readonly to: Point } {
  const { minX, minY, maxX, maxY } = boxOf(rings);
  const x = (minX + maxX) / 2;
  return shape === 'straight'
    ? { from: { x, y: minY }, to: { x, y: maxY } }
    : { from: { x, y: (minY + maxY) / 2 }, to: { x: maxX, y: maxY } };
}

const boxOf = (rings: readonly Spine[]): Box => boxOfRings(rings.map((ring) => flatRing(ring)));

const middleOf = (rings: readonly Spine[]): Point => boxMiddle(boxOf(rings));

/** The same angle, −π..π. */
const wrapped = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

/** Whether the dots of a tone are seen as such at a zoom, device px per page px, or as the grey of their share. */
export const showsDots = (choice: ToneChoice, ppi: number, scale: number): boolean =>
  scale >= dotsFrom({ period: ppi / choice.lpi });

export const toneSlot: PageSlot<ToneHand> = { open: (board) => new ToneHand(board) };
