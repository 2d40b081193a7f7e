import { apply, then, invert, type Matrix, type Point } from '@true-nib/core/math';
import { find, type Said } from '@true-nib/core/page';
import type { Place } from '@true-nib/core/trace';
import { isInHand, still, type Board, type Desk, type Gesture, type PageKeep, type PageSlot } from '../../board';
import { FINGER, goTo } from '../../hand';
import { strokeBoth, zoomOf, type Sketch } from '../../render';
import { tracingSlot } from './tracingDesk';
import { openPlaces, placeName, setTrace, useTrace } from './traceStore';

/** What is put right is called so in the history. */
const DEEDS: Readonly<Record<Place['kind'], string>> = {
  junction: 'Put a junction right',
  black: 'Put a black right',
  corner: 'Put a corner right',
  tip: 'Put a tip right',
  gap: 'Put a gap right',
};

/** CSS px per page px that a place is shown at. */
const CLOSE = 2;
/** ms after an edit until the difference is looked at again. */
const REST_MS = 400;
/** Ink that is missing, and ink that is too much: told apart by those who see few hues as well. */
const HUES = ['#1f6fb2', '#e07b00'] as const;

/** Puts doubtful places of a tracing right, and holds it against the paper. */
export class PutRight implements PageKeep {
  private isHeld = false;
  private compared: { readonly bitmap: ImageBitmap; readonly map: Matrix } | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.stops = [
      useTrace.subscribe((now, before) => {
        if (!this.isHeld) return;
        this.show();
        if (now.isComparing !== before.isComparing) void this.compare();
        if (now.between !== before.between) this.fade();
      }),
      board.session.onEdits(() => {
        if (!this.isHeld || !useTrace.getState().isComparing) return;
        clearTimeout(this.timer);
        this.timer = setTimeout(() => void this.compare(), REST_MS);
      }),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.isHeld = false;
    clearTimeout(this.timer);
    this.compared?.bitmap.close();
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'put-right');
    if (isHeld === this.isHeld) return;
    this.isHeld = isHeld;
    if (isHeld) {
      void this.board.of(tracingSlot).look();
      this.show();
      void this.compare();
    } else this.putAway();
  }

  /** Escape: lets the place in hand go. */
  letGo(): boolean {
    if (!this.isHeld) return false;
    if (this.board.of(tracingSlot).stop()) return true;
    if (useTrace.getState().inHand === undefined) return false;
    setTrace({ inHand: undefined });
    return true;
  }

  /** Enter: the next way of the place in hand. */
  settle(): boolean {
    if (!this.isHeld || useTrace.getState().inHand === undefined) return false;
    void this.another();
    return true;
  }

  /** Arrows: from place to place, and from way to way. */
  nudge(dx: number, dy: number): boolean {
    if (!this.isHeld || useTrace.getState().places.length === 0) return false;
    if (dx !== 0) this.step(dx > 0 ? 1 : -1);
    else void this.another(dy > 0 ? 1 : -1);
    return true;
  }

  /** A touch takes the next way of the place there, or splits the line. */
  begin(at: Point): Gesture {
    const { touch, places } = useTrace.getState();
    if (touch === 'split') {
      void this.split(at);
      return still;
    }
    const reach = FINGER / zoomOf(this.board.picture.view);
    const near = places
      .map((place, k) => ({ k, place, far: Math.hypot(place.x - at.x, place.y - at.y) }))
      .filter(
        ({ far, place }) =>
          far <= Math.max(reach, place.kind === 'black' ? place.radius : 0) && place.choices.length > 1,
      );
    // What is in doubt comes before what only could be otherwise.
    const [best] = near.sort(
      (one, two) => Number(two.place.isUnsure) - Number(one.place.isUnsure) || one.far - two.far,
    );
    setTrace({ inHand: best?.k });
    if (best) void this.another();
    return still;
  }

  /** Goes to the next doubtful place, or the one before; those that were looked at come no more. */
  step(by: 1 | -1): void {
    const state = useTrace.getState();
    const { places, inHand, seen } = state;
    const held = inHand === undefined ? undefined : places[inHand];
    const looked = new Set(seen);
    if (held) looked.add(placeName(held));
    const open = openPlaces({ places, seen: looked });
    setTrace({ seen: looked });
    if (open.length === 0) {
      setTrace({ inHand: undefined });
      return this.board.notice('No place is in doubt any more.');
    }
    const from = held ? places.indexOf(held) : -1;
    const indices = open.map((place) => places.indexOf(place));
    const next =
      by > 0
        ? (indices.find((k) => k > from) ?? indices[0])
        : (indices.findLast((k) => k < from) ?? indices[indices.length - 1]);
    this.goTo(next);
  }

  /** Takes a place in hand and shows it from near. */
  goTo(index: number): void {
    const place = useTrace.getState().places[index];
    if (!place) return;
    setTrace({ inHand: index });
    goTo(this.board, place, CLOSE);
  }

  /** The place in hand the next way round, or the one before. */
  async another(by: 1 | -1 = 1): Promise<void> {
    const { places, inHand } = useTrace.getState();
    const place = inHand === undefined ? undefined : places[inHand];
    if (!place) return this.board.notice('Touch a place first, or step to one.');
    const { choices, choice } = place;
    await this.choose((choice + by + choices.length) % choices.length);
  }

  /** The place in hand in one of its ways. */
  async choose(choice: number): Promise<void> {
    const { places, inHand, seen } = useTrace.getState();
    const place = inHand === undefined ? undefined : places[inHand];
    const word = place?.choices[choice];
    if (!place || !word) return;
    setTrace({ seen: new Set([...seen, placeName(place)]) });
    await this.board.of(tracingSlot).say(word, DEEDS[place.kind]);
  }

  private async split(at: Point): Promise<void> {
    const { board } = this;
    const desk = board.of(tracingSlot);
    const record = desk.layerInHand()?.traced;
    if (!record) return board.notice('There is no tracing to put right.');
    const on = apply(invert(record.map), at);
    const word: Said = { ...on, as: 'split' };
    await desk.say(word, 'Split a traced line');
  }

  private async compare(): Promise<void> {
    const { isComparing } = useTrace.getState();
    if (!this.isHeld || !isComparing) {
      this.compared?.bitmap.close();
      this.compared = undefined;
      this.show();
      return;
    }
    try {
      const found = await this.board.of(tracingSlot).compare(HUES);
      if (!this.isHeld || !useTrace.getState().isComparing) return found?.bitmap.close();
      this.compared?.bitmap.close();
      this.compared = found && { bitmap: found.bitmap, map: found.map };
      setTrace({ compared: found && { missing: found.missing, tooMuch: found.tooMuch } });
      this.show();
    } catch (error) {
      this.board.notice(error instanceof Error ? error.message : 'The difference could not be shown.');
    }
  }

  /** Lets paper and lines go over into each other. */
  private fade(): void {
    const { board } = this;
    const { between } = useTrace.getState();
    const layer = board.of(tracingSlot).layerInHand();
    const { page } = board.session;
    const from = layer?.traced?.from ?? '';
    // A rough lies on a layer; a Wash layer is one.
    const paper = find(page, 'layer', find(page, 'picture', from)?.layerId ?? from);
    if (!layer) return;
    const shown = [layer, ...(paper ? [paper] : [])];
    board.picture.letBe(shown.map((before) => ({ before, after: null })));
    if (between === undefined) return;
    const share = between / 100;
    board.picture.preview([
      { before: layer, after: { ...layer, opacity: share } },
      ...(paper ? [{ before: paper, after: { ...paper, hidden: false, opacity: 1 - share } }] : []),
    ]);
  }

  private putAway(): void {
    clearTimeout(this.timer);
    this.compared?.bitmap.close();
    this.compared = undefined;
    if (useTrace.getState().between !== undefined) {
      setTrace({ between: undefined });
      this.fade();
    }
    this.board.picture.setSketch(undefined);
  }

  private show(): void {
    const { places, inHand, seen } = useTrace.getState();
    const { compared } = this;
    const isAny = places.length > 0 || compared !== undefined;
    this.board.picture.setSketch(isAny ? placesSketch({ places, inHand, seen, compared }) : undefined);
  }
}

interface Shown {
  readonly places: readonly Place[];
  readonly inHand: number | undefined;
  readonly seen: ReadonlySet<string>;
  readonly compared: { readonly bitmap: ImageBitmap; readonly map: Matrix } | undefined;
}

/** Marks that are drawn at once. */
const MOST_MARKS = 600;

/** Doubtful places, each kind by a mark of its own shape: a ring, a square, an angle, a diamond, two bars. */
const placesSketch =
  ({ places, inHand, seen, compared }: Shown): Sketch =>
  (context, map, ratio, colours) => {
    const { width, height } = context.canvas;
    if (compared) {
      context.setTransform(...then(compared.map, map));
      context.drawImage(compared.bitmap, 0, 0);
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    let count = 0;
    for (const [k, place] of places.entries()) {
      const isHeld = k === inHand;
      if (!isHeld && (!place.isUnsure || count > MOST_MARKS)) continue;
      const at = apply(map, place);
      if (at.x < -20 || at.y < -20 || at.x > width + 20 || at.y > height + 20) continue;
      count++;
      const isSeen = seen.has(placeName(place));
      const size = (isHeld ? 15 : isSeen ? 5 : 8) * ratio;
      context.globalAlpha = isSeen && !isHeld ? 0.5 : 1;
      if (isHeld) {
        context.fillStyle = colours.seal;
        context.globalAlpha = 0.18;
        context.beginPath();
        context.arc(at.x, at.y, size * 1.3, 0, 2 * Math.PI);
        context.fill();
        context.globalAlpha = 1;
      }
      strokeBoth(context, ratio, () => MARKS[place.kind](context, at, size));
      context.globalAlpha = 1;
    }
  };

type Mark = (context: CanvasRenderingContext2D, at: Point, size: number) => void;

const MARKS: Readonly<Record<Place['kind'], Mark>> = {
  junction: (context, { x, y }, size) => {
    context.moveTo(x + size, y);
    context.arc(x, y, size, 0, 2 * Math.PI);
  },
  black: (context, { x, y }, size) => context.rect(x - 0.85 * size, y - 0.85 * size, 1.7 * size, 1.7 * size),
  corner: (context, { x, y }, size) => {
    context.moveTo(x - size, y + 0.8 * size);
    context.lineTo(x, y - 0.9 * size);
    context.lineTo(x + size, y + 0.8 * size);
  },
  tip: (context, { x, y }, size) => {
    context.moveTo(x, y - size);
    context.lineTo(x + 0.8 * size, y);
    context.lineTo(x, y + size);
    context.lineTo(x - 0.8 * size, y);
    context.closePath();
  },
  gap: (context, { x, y }, size) => {
    for (const side of [-1, 1]) {
      context.moveTo(x + side * 0.3 * size, y - size);
      context.lineTo(x + side * 0.3 * size, y + size);
    }
  },
};

export const rightSlot: PageSlot<PutRight> = { open: (board) => new PutRight(board) };
