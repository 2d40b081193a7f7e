import { slicesOf, type Slice } from '@true-nib/core/formats';
import { apply } from '@true-nib/core/math';
import type { Page } from '@true-nib/core/page';
import { isInHand, type Board, type Desk, type Gesture, type PageKeep, type PageSlot, type Press } from '../../board';
import { isPicture, scaleFor, useDeliverChoice } from '../../deliver';
import { FINGER } from '../../hand';
import { strokeBoth, zoomOf, type Sketch } from '../../render';
import { setPageDelivery, usePageDelivery } from './deliverStore';

/** The slices of the open page as they would be delivered, shown as lines across it that can be dragged. */
export class Slicing implements PageKeep {
  private isHeld = false;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    const show = () => this.show();
    this.stops = [useDeliverChoice.subscribe(show), usePageDelivery.subscribe(show), board.session.onPage(show)];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.isHeld = false;
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'deliver');
    if (this.isHeld === isHeld) return;
    this.isHeld = isHeld;
    if (isHeld) this.show();
    else this.board.picture.setSketch(undefined);
  }

  /** Drags the line that is nearest; one that is dragged off the page is let go of. */
  begin({ at }: Press): Gesture | undefined {
    const { page } = this.board.session;
    const slices = this.slices();
    const ends = slices.slice(0, -1).map(({ bottom }) => bottom);
    const reach = FINGER / zoomOf(this.board.picture.view);
    const nearest = [...ends].sort((a, b) => Math.abs(a - at.y) - Math.abs(b - at.y)).at(0);
    if (nearest === undefined || Math.abs(nearest - at.y) > reach) return undefined;
    const before = usePageDelivery.getState().cuts;
    // What lies above stays where it is; what lies beneath is cut anew.
    const kept = ends.filter((end) => end < nearest);
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to) return;
        const inside = to.x > 0 && to.x < page.size.width && to.y > 0 && to.y < page.size.height;
        setPageDelivery({ cuts: inside ? [...kept, Math.round(to.y)] : before.filter((cut) => cut < nearest) });
      },
      end: () => undefined,
      cancel: () => setPageDelivery({ cuts: before }),
    };
  }

  private slices(): readonly Slice[] {
    return slicesFor(this.board.session.page);
  }

  private show(): void {
    if (!this.isHeld) return;
    const { page } = this.board.session;
    const slices = this.slices();
    this.board.picture.setSketch(slices.length > 1 ? sliceSketch(slices, page.size.width) : undefined);
  }
}

/** The slices that a page would be delivered in; none where it is delivered whole, or where they cannot be made. */
export function slicesFor(page: Page): readonly Slice[] {
  const { choice } = useDeliverChoice.getState();
  if (!choice.isSliced || !isPicture(choice)) return [];
  try {
    return slicesOf(page, {
      ...{ scale: scaleFor(choice, page.size), highest: choice.highest },
      cuts: usePageDelivery.getState().cuts,
    });
  } catch {
    return [];
  }
}

/** A line across the page at the end of each slice; dashed where it cuts through something. */
const sliceSketch =
  (slices: readonly Slice[], width: number): Sketch =>
  (context, map, ratio, colours) => {
    for (const { bottom, hits } of slices.slice(0, -1)) {
      const [a, b] = [apply(map, { x: 0, y: bottom }), apply(map, { x: width, y: bottom })];
      strokeBoth(
        context,
        ratio,
        () => {
          context.moveTo(a.x, a.y);
          context.lineTo(b.x, b.y);
        },
        hits,
      );
      for (const { x, y } of [a, b]) {
        context.beginPath();
        context.arc(x, y, 6 * ratio, 0, 2 * Math.PI);
        context.fillStyle = hits ? '#ffffff' : colours.seal;
        context.fill();
        context.lineWidth = 2 * ratio;
        context.strokeStyle = colours.seal;
        context.stroke();
      }
    }
  };

export const slicingSlot: PageSlot<Slicing> = { open: (board) => new Slicing(board) };
