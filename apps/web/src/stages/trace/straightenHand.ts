import { apply, boxCorners, growBox, invert, type Point } from '@true-nib/core/math';
import { find, type Corners, type Hue, type PictureEntity, type Scan } from '@true-nib/core/page';
import { fittedPlacement, placementMatrix } from '@true-nib/core/tools';
import { flatSheet, turnedSheet } from '@true-nib/core/trace';
import PQueue from 'p-queue';
import {
  isInHand,
  refuse,
  useDesk,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { FINGER } from '../../hand';
import { strokeBoth, zoomOf, type Sketch } from '../../render';
import { roughOf } from './roughOf';
import { setTrace, useTrace } from './traceStore';

/** Lays the sheet in a photo flat: its corners are found, dragged, and kept with the rough. */
export class Straighten implements PageKeep {
  private isHeld = false;
  private readonly stops: readonly (() => void)[];
  /** The rough as it was taken, while it is shown so. */
  private shown: PictureEntity | undefined;
  /** The corner that was touched last. */
  private held = 0;
  /** Changes that wait for their pictures. */
  private readonly steps = new PQueue({ concurrency: 1 });

  constructor(private readonly board: Board) {
    this.stops = [useTrace.subscribe((now, before) => this.isHeld && now.corners !== before.corners && this.show())];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.isHeld = false;
  }

  follow(desk: Desk, before: Desk | undefined): void {
    const isHeld = isInHand(desk, 'straighten');
    if (this.isHeld === isHeld && desk.roughId === before?.roughId) return;
    if (this.isHeld) this.putAway();
    this.isHeld = isHeld;
    // One that is flat stays so until its corners are asked for.
    if (isHeld && !this.rough?.scan?.corners) void this.findSheet();
  }

  /** Escape: the corners are let go of. */
  letGo(): boolean {
    if (!this.isHeld || !this.shown) return false;
    this.putAway();
    return true;
  }

  /** Enter: the sheet is made flat. */
  settle(): boolean {
    if (!this.isHeld || !useTrace.getState().corners) return false;
    void this.flatten();
    return true;
  }

  /** The rough that it works on. */
  get rough(): PictureEntity | undefined {
    return roughOf(this.board.session.page, useDesk.getState().roughId);
  }

  /** Finds the sheet; the corners of one that is flat already are shown as they are, on the picture as it was taken. */
  async findSheet(): Promise<void> {
    const { rough } = this;
    if (!rough) return;
    this.take(rough);
    if (rough.scan?.corners) setTrace({ corners: rough.scan.corners });
    else await this.find(rough);
  }

  /** Drags the corner that is nearest. */
  drag({ at }: Press): Gesture | undefined {
    const { shown, board } = this;
    const { corners } = useTrace.getState();
    if (!shown || !corners) return undefined;
    if (find(board.session.page, 'layer', shown.layerId)?.locked)
      return refuse(board.notice, 'The rough is locked. Unlock it to straighten it.');
    const map = placementMatrix(shown.placement, shown);
    const back = invert(map);
    const reach = (1.6 * FINGER) / zoomOf(board.picture.view);
    const far = corners.map((corner) => {
      const on = apply(map, corner);
      return Math.hypot(on.x - at.x, on.y - at.y);
    });
    const k = far.indexOf(Math.min(...far));
    if (far[k] > reach) return undefined;
    this.held = k;
    const start = corners;
    const grip = apply(back, at);
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to) return;
        const now = apply(back, to);
        setTrace({ corners: movedCorner(start, k, now.x - grip.x, now.y - grip.y) });
      },
      end: () => undefined,
      cancel: () => setTrace({ corners: start }),
    };
  }

  /** Arrows: move the corner that was touched last, the upper left one at first. */
  nudge(dx: number, dy: number): boolean {
    const { shown, held, isHeld } = this;
    const { corners } = useTrace.getState();
    if (!isHeld || !shown || !corners) return false;
    const back = invert(placementMatrix(shown.placement, shown));
    const [from, to] = [apply(back, { x: 0, y: 0 }), apply(back, { x: dx, y: dy })];
    setTrace({ corners: movedCorner(corners, held, to.x - from.x, to.y - from.y) });
    return true;
  }

  /** Makes the sheet between the corners flat. */
  async flatten(): Promise<void> {
    const { rough, board } = this;
    const { corners } = useTrace.getState();
    if (!rough || !corners) return;
    try {
      const sheet = flatSheet(corners, scanOf(rough).taken);
      await this.keep('Straighten the rough', (now) => ({ scan: { ...scanOf(now), corners }, size: sheet }));
      board.notice(
        sheet.name ? `Flat: a sheet of ${sheet.name === 'Letter' ? 'Letter' : 'an A-size'}.` : 'The sheet is flat.',
      );
    } catch (error) {
      board.notice(error instanceof Error ? error.message : 'The sheet could not be made flat.');
    }
  }

  /** Shows the picture as it was taken again. */
  asTaken(): Promise<void> {
    return this.keep('Show the rough as it was taken', (rough) => {
      const { corners: _flat, ...scan } = scanOf(rough);
      return { scan, size: scan.taken };
    });
  }

  /** Turns the sheet by quarters to the right. */
  turn(quarters: 1 | -1): Promise<void> {
    return this.keep(quarters > 0 ? 'Turn the rough to the right' : 'Turn the rough to the left', (rough) => {
      const scan = scanOf(rough);
      const corners = turnedSheet(scan.corners ?? wholeOf(scan.taken), quarters);
      return { scan: { ...scan, corners }, size: { width: rough.height, height: rough.width } };
    });
  }

  /** Evens the light out, or leaves it as it was. */
  even(evened: boolean): Promise<void> {
    const label = evened ? 'Even the light' : 'Leave the light as it was';
    return this.keep(label, (rough) => ({ scan: { ...scanOf(rough), evened }, size: rough }));
  }

  /** Drops a colour, or keeps it. */
  drop(hue: Hue, isDropped: boolean): Promise<void> {
    return this.keep(isDropped ? `Drop ${hue}` : `Keep ${hue}`, (rough) => {
      const scan = scanOf(rough);
      const others = scan.drop.filter((one) => one !== hue);
      return { scan: { ...scan, drop: isDropped ? [...others, hue] : others }, size: rough };
    });
  }

  private async find(rough: PictureEntity): Promise<void> {
    const { board } = this;
    setTrace({ isFinding: true });
    try {
      const found = await board.picture.pictures.sheet(rough);
      if (!this.isHeld || this.rough?.id !== rough.id) return;
      const { width, height } = scanOf(rough).taken;
      // In from the edge, where they can be taken hold of.
      const inset = boxCorners(
        growBox({ minX: 0, minY: 0, maxX: width, maxY: height }, -0.08 * Math.min(width, height)),
      );
      setTrace({ corners: found ?? inset });
      if (!found)
        board.notice('No sheet of paper was found. Drag the four corners onto it, or leave the picture as it is.');
    } catch (error) {
      board.notice(error instanceof Error ? error.message : 'The picture could not be read.');
    } finally {
      setTrace({ isFinding: false });
    }
  }

  /** Shows a rough as it was taken, without changing it. */
  private take(rough: PictureEntity): void {
    const { board } = this;
    const scan = scanOf(rough);
    if (!rough.scan?.corners) {
      this.shown = rough;
      return;
    }
    const { corners: _flat, ...bare } = scan;
    const placement = fittedPlacement(scan.taken, board.session.page.size);
    this.shown = { ...rough, ...scan.taken, scan: bare, placement };
    board.picture.preview([{ before: rough, after: this.shown }]);
  }

  private putAway(): void {
    const { board, shown } = this;
    this.shown = undefined;
    setTrace({ corners: undefined });
    board.picture.setSketch(undefined);
    if (shown) board.picture.letBe([{ before: shown, after: null }]);
  }

  /**
   * Changes the rough once it can be shown so, that nothing blinks; one after the other, each from what the one before has
   * left.
   */
  private keep(label: string, made: (rough: PictureEntity) => Kept): Promise<void> {
    const { board } = this;
    return this.steps.add(async () => {
      const { rough } = this;
      if (!rough) return;
      if (find(board.session.page, 'layer', rough.layerId)?.locked)
        return board.notice('The rough is locked. Unlock it to change it.');
      const { scan, size } = made(rough);
      const { width, height } = size;
      const isSameSize = width === rough.width && height === rough.height;
      const placement = isSameSize ? rough.placement : fittedPlacement({ width, height }, board.session.page.size);
      const { scan: _before, ...bare } = rough;
      // A scan that changes nothing is none.
      const isAny = scan.corners !== undefined || scan.evened || scan.drop.length > 0;
      const after: PictureEntity = { ...bare, ...(isAny && { scan }), width, height, placement };
      await board.picture.pictures.whenReady(after);
      if (this.rough !== rough) return board.notice('The rough changed meanwhile. Try once more.');
      this.putAway();
      board.session.commit(label, [{ before: rough, after }]);
    });
  }

  private show(): void {
    const { shown, board } = this;
    const { corners } = useTrace.getState();
    board.picture.setSketch(
      shown && corners
        ? cornerSketch(corners.map((corner) => apply(placementMatrix(shown.placement, shown), corner)))
        : undefined,
    );
  }
}

/** A scan as it is to be, and how large the rough is with it. */
interface Kept {
  readonly scan: Scan;
  readonly size: { readonly width: number; readonly height: number };
}

/** Corners of which one is moved, px of the picture. */
function movedCorner(corners: Corners, k: number, dx: number, dy: number): Corners {
  const at = (j: 0 | 1 | 2 | 3) => (j === k ? { x: corners[j].x + dx, y: corners[j].y + dy } : corners[j]);
  return [at(0), at(1), at(2), at(3)];
}

const wholeOf = ({ width, height }: Scan['taken']): Corners =>
  boxCorners({ minX: 0, minY: 0, maxX: width, maxY: height });

/** What is made of a rough: nothing yet, where it has no scan. */
const scanOf = ({ scan, width, height }: PictureEntity): Scan =>
  scan ?? { taken: { width, height }, evened: false, drop: [] };

/** The sheet between its corners, with a handle on each and its upper edge marked. */
const cornerSketch =
  (corners: readonly Point[]): Sketch =>
  (context, map, ratio, colours) => {
    const at = corners.map((corner) => apply(map, corner));
    context.setTransform(1, 0, 0, 1, 0, 0);
    strokeBoth(context, ratio, () => {
      context.moveTo(at[3].x, at[3].y);
      for (const { x, y } of at) context.lineTo(x, y);
    });
    // The upper edge of the sheet, as it is read.
    context.strokeStyle = colours.seal;
    context.lineWidth = 3 * ratio;
    context.beginPath();
    context.moveTo(at[0].x, at[0].y);
    context.lineTo(at[1].x, at[1].y);
    context.stroke();
    for (const { x, y } of at) {
      context.beginPath();
      context.arc(x, y, 9 * ratio, 0, 2 * Math.PI);
      context.fillStyle = '#ffffff';
      context.fill();
      context.lineWidth = 2.5 * ratio;
      context.strokeStyle = colours.seal;
      context.stroke();
    }
  };

export const straightenSlot: PageSlot<Straighten> = { open: (board) => new Straighten(board) };
