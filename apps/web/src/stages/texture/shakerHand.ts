import type { Dots } from '@true-nib/core/dots';
import { isDotsThing, type Thing } from '@true-nib/core/drawn';
import { boxOfPoints, boxOfRings, growBox, type Point } from '@true-nib/core/math';
import { PAPER_WHITE, type Nib } from '@true-nib/core/nib';
import { dotLines, Shaker, type DotTone, type ShakerSettings } from '@true-nib/core/texture';
import { seedNow } from '../../base';
import type { Board, Gesture, PageSlot, Press } from '../../board';
import { thingsWithCopies } from '../../guiding';
import { dotsOf, layDown, type LineTarget } from '../../hand';
import { nibFor, useRack } from '../../nibs';
import type { TextureAsked } from '../../render';
import { movedBy } from './combHand';
import { LoopHand, type Filled, type LoopDrag } from './loopHand';
import { setDrag, setTexture, useTexture, type ShakerChoice } from './textureStore';

/** Dots of one thing while they fall: what is done is not painted anew with every move. */
const TOGETHER = 600;

/** What dots are made of: the ink in hand, paper white, or nothing. */
const dotFill = ({ fill }: Pick<ShakerChoice, 'fill'>, { color }: Nib): Dots['fill'] =>
  fill === 'nick' ? { as: 'nothing' } : { as: 'colour', color: fill === 'paper' ? PAPER_WHITE : color };

const inWords = (count: number): string => `Strew ${count.toLocaleString('en-GB')} dots`;

/** Strews dots: under the pen, or into a loop. */
class ShakerHand extends LoopHand {
  constructor(board: Board) {
    super(board, 'shaker', inWords);
    this.listenTo([
      useTexture.subscribe(({ shaker }, before) => shaker !== before.shaker && this.changed()),
      useRack.subscribe(() => this.changed()),
    ]);
  }

  protected override turned(things: readonly Thing[]): readonly Thing[] {
    const nib = nibFor(this.board.session.page);
    if (!useTexture.getState().shaker.asLines) return things;
    return things.flatMap((thing) => (isDotsThing(thing) ? dotLines(thing.dots, nib) : [thing]));
  }

  protected override start(...[rings, target]: Parameters<LoopHand['start']>): void {
    setDrag('tone');
    super.start(rings, target);
  }

  protected asked({ rings, seed, ramp }: Filled): TextureAsked {
    const { shaker } = useTexture.getState();
    const { size, uneven } = shaker;
    return {
      deed: 'stipple',
      bounds: rings,
      tone: toneOf(shaker, rings, ramp),
      settings: { size, uneven: uneven / 100 },
      fill: dotFill(shaker, nibFor(this.board.session.page)),
      seed,
    };
  }

  protected settingsNow(): () => void {
    const { shaker, drag } = useTexture.getState();
    return () => {
      setTexture('shaker', shaker);
      setDrag(drag);
    };
  }

  protected drag(): LoopDrag {
    const { drag } = useTexture.getState();
    const { filled } = this;
    return {
      move: (from, to) => {
        if (!filled) return;
        if (drag === 'move') return this.fill(movedBy(filled, to.x - from.x, to.y - from.y));
        this.filled = { ...filled, ramp: { from, to } };
        const { tone } = useTexture.getState().shaker;
        if (tone === 'even' || tone === 'inward') setTexture('shaker', { tone: 'straight' });
        else this.fill(this.filled);
      },
      end: () => setDrag('move'),
    };
  }

  protected override beginOtherwise(press: Press, target: LineTarget): Gesture | undefined {
    return useTexture.getState().shaker.by === 'pen' ? this.shake(press, target) : undefined;
  }

  /** Dots fall about the pen for as long as it is down. */
  private shake({ at }: Press, target: LineTarget): Gesture {
    const { picture, session } = this.board;
    const { shaker } = useTexture.getState();
    const nib = nibFor(session.page);
    const fill = dotFill(shaker, nib);
    const settings: ShakerSettings = {
      ...{ size: shaker.size, uneven: shaker.uneven / 100, radius: shaker.radius, share: shaker.dark / 100 },
    };
    const { id } = target.layer;
    const near = growBox(boxOfPoints([at]), 40 * shaker.radius);
    const there = dotsOf(picture.drawnOn(id, near)).flatMap(({ dots }) => [...dots]);
    const falling = new Shaker(settings, seedNow(), there);
    const done: Dots[] = [];
    const things = (): Dots[] => {
      let rest = falling.fallenAfter(done.length * TOGETHER);
      for (; rest.length > 3 * TOGETHER; rest = rest.slice(3 * TOGETHER))
        done.push({ dots: rest.slice(0, 3 * TOGETHER), fill });
      return rest.length > 0 ? [...done, { dots: rest, fill }] : done;
    };
    const show = () => picture.showThings(thingsWithCopies(session.page, id, things()), id);
    return {
      move: (samples) => {
        for (const { x, y, pressure } of samples) falling.shake({ x, y }, pressure);
        show();
      },
      end: () => {
        const dots = falling.fallenAfter(0);
        if (dots.length === 0) return picture.endLive();
        const all: readonly Thing[] = shaker.asLines ? dotLines(dots, nib) : [{ dots, fill }];
        layDown(this.board, target, inWords(dots.length / 3), all);
      },
      cancel: () => picture.endLive(),
    };
  }
}

/** The tone that is asked for: along the way that was drawn, or across the loop where none was. */
function toneOf(
  { tone, light, dark }: ShakerChoice,
  rings: readonly (readonly Point[])[],
  ramp: Filled['ramp'],
): DotTone {
  const [near, far] = [light / 100, dark / 100];
  if (tone === 'even') return { share: far };
  const { minX, minY, maxX, maxY } = boxOfRings(rings.map((ring) => ring.flatMap(({ x, y }) => [x, y])));
  if (tone === 'inward') return { share: far, inward: { share: near, over: Math.min(maxX - minX, maxY - minY) / 3 } };
  const middle = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  const own =
    tone === 'round'
      ? { from: middle, to: { x: maxX, y: middle.y } }
      : { from: { x: middle.x, y: minY }, to: { x: middle.x, y: maxY } };
  return { share: near, ramp: { shape: tone, ...(ramp ?? own), share: far } };
}

export const shakerSlot: PageSlot<ShakerHand> = { open: (board) => new ShakerHand(board) };
