import type { EntityId } from '@true-nib/core/kind';
import { boxOfRings, isInBox, mapBox, type Point } from '@true-nib/core/math';
import { editedId, type Edit } from '@true-nib/core/page';
import { isInPiece } from '@true-nib/core/regions';
import { leftEdits } from '@true-nib/core/tools';
import {
  isInHand,
  refuse,
  targetInHand,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
} from '../../board';
import { FINGER, goTo, loopGesture } from '../../hand';
import { ringed, traceRings, type ShownPiece, type Sketch } from '../../render';
import { newId } from '../../session';
import { washingSlot } from '../../wash';
import { useBlacks } from './blackStore';
import { NO_PIECES, usePieces, type ListedSpeck } from './pieceStore';

/** CSS px² that a loop goes round at least. */
const LEAST_LOOP = 60;
/** ms after an edit until the ink is looked at again. */
const REST_MS = 150;
/** CSS px per page px that a speck is shown at. */
const CLOSE = 3;
/** Device px of a piece that is shown. */
const LEAST_SEEN = 0.7;
/** Specks that are marked on the page at once. */
const MOST_MARKS = 400;

/** Pieces are shown in these, no two neighbours alike, all of them to be told from ink. */
const HUES = ['#3d93c4', '#e08a3c', '#5fae3f', '#c766ae', '#d9b521', '#3bb09a', '#8f74d0'] as const;

/** Takes overlapping ink apart: pieces in a loop go at a touch, and specks of the layer from a list. */
export class PieceHand implements PageKeep {
  private isHeld = false;
  private loop: readonly Point[] | undefined;
  private on: EntityId | undefined;
  /** The size under which specks were looked for. */
  private listedUnder = 0;
  private hovered: number | undefined;
  private taken = new Set<number>();
  private asked = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.stops = [
      board.session.onEdits((_page, edits) => this.isHeld && this.touches(edits) && this.changed()),
      usePieces.subscribe(() => this.isHeld && this.show()),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    clearTimeout(this.timer);
    usePieces.setState(NO_PIECES);
  }

  follow(desk: Desk, before: Desk | undefined): void {
    const isHeld = isInHand(desk, 'pieces');
    if (this.isHeld && (!isHeld || desk.layerId !== before?.layerId)) this.forget();
    this.isHeld = isHeld;
  }

  letGo(): boolean {
    const { pieces, specks } = usePieces.getState();
    this.forget();
    return pieces.length > 0 || specks !== undefined;
  }

  hovers(at: Point | undefined): void {
    if (!this.isHeld) return;
    const hovered = at && this.pieceAt(at);
    if (hovered === this.hovered) return;
    this.hovered = hovered;
    this.show();
  }

  begin(at: Point): Gesture {
    const { board } = this;
    const target = targetInHand(board);
    if (typeof target === 'string') return refuse(board.notice, target);
    if (target.layer.medium === 'wash')
      return refuse(board.notice, 'Pixels make no pieces: drop their specks, or take an Ink layer in hand.');
    return this.pieceAt(at) === undefined ? this.beginLoop(target.layer.id) : this.beginTaking();
  }

  /** All pieces under the size that is set. */
  takeCrumbs(): void {
    const { crumb } = useBlacks.getState();
    usePieces.getState().pieces.forEach(({ area }, k) => area < crumb && this.taken.add(k));
    if (this.taken.size === 0) return this.board.notice('No piece is that small.');
    void this.takeOff();
  }

  /** Lists the specks of the layer in hand. */
  async findSpecks(): Promise<void> {
    const { board } = this;
    const target = targetInHand(board);
    if (typeof target === 'string') return board.notice(target);
    const { id, medium } = target.layer;
    usePieces.setState({ isLooking: true });
    try {
      if (medium === 'wash') await board.of(washingSlot).settled();
      const { crumb } = useBlacks.getState();
      const specks = await board.picture.inks.beside.specks(id, crumb, medium === 'wash');
      if (!specks) return;
      this.on = id;
      this.listedUnder = crumb;
      usePieces.setState({ specks, inHand: undefined });
      if (specks.length === 0) board.notice(`${target.layer.name} has no speck that small.`);
    } catch (error) {
      board.notice(error instanceof Error ? error.message : 'The specks could not be found.');
    } finally {
      usePieces.setState({ isLooking: false });
    }
  }

  /** Goes to a speck of the list. */
  goTo(index: number): void {
    const speck = usePieces.getState().specks?.[index];
    if (!speck) return;
    usePieces.setState({ inHand: index });
    goTo(this.board, speck, CLOSE);
  }

  /** Takes all listed specks off their layer. */
  async dropSpecks(): Promise<void> {
    const { board, on } = this;
    const { specks } = usePieces.getState();
    if (!specks || on === undefined) return;
    const label = specks.length === 1 ? 'Drop a speck' : `Drop ${specks.length} specks`;
    const rings = specks.flatMap((speck) => speck.rings ?? []);
    const isDone =
      rings.length > 0
        ? await this.withoutInk(on, rings, label)
        : await board.of(washingSlot).do(label, on, { deed: 'drop-specks', most: this.listedUnder });
    if (isDone) usePieces.setState({ specks: [], inHand: undefined });
  }

  private beginLoop(layerId: EntityId): Gesture {
    return loopGesture(this.board, (loop, area) => {
      if (area < LEAST_LOOP) {
        if (!this.letGo()) this.board.notice('Draw a loop round ink that overlaps.');
        return;
      }
      this.loop = loop;
      this.on = layerId;
      void this.look(true);
    });
  }

  /** A touch takes a piece; a drag all that it goes over. */
  private beginTaking(): Gesture {
    return {
      move: (samples) => {
        const before = this.taken.size;
        for (const at of samples) {
          const piece = this.pieceAt(at);
          if (piece !== undefined) this.taken.add(piece);
        }
        if (this.taken.size !== before) this.show();
      },
      end: () => void this.takeOff(),
      cancel: () => {
        this.taken.clear();
        this.show();
      },
    };
  }

  private async takeOff(): Promise<void> {
    const { on } = this;
    const taken = new Set(this.taken);
    const { pieces } = usePieces.getState();
    const rings = [...taken].flatMap((k) => pieces[k]?.rings ?? []);
    if (rings.length === 0 || on === undefined) return;
    const label = taken.size === 1 ? 'Take a piece off' : `Take ${taken.size} pieces off`;
    const isDone = await this.withoutInk(on, rings, label);
    // They are gone from the map at once; the others are found anew.
    if (isDone) usePieces.setState({ pieces: pieces.filter((_, k) => !taken.has(k)) });
    this.taken = new Set();
    this.hovered = undefined;
    this.show();
  }

  private withoutInk(layerId: EntityId, rings: readonly Float64Array[], label: string): Promise<boolean> {
    const { picture, session, notice } = this.board;
    const work = async (): Promise<boolean> => {
      const { page } = session;
      const left = await picture.inks.beside.withoutInk(layerId, rings, boxOfRings(rings));
      if (session.page !== page) {
        notice('The page changed meanwhile: nothing was taken off. Try once more.');
        return false;
      }
      return left.length > 0 && session.commit(label, leftEdits(page, left, newId));
    };
    const done = work();
    session.waitFor(done);
    return done;
  }

  /** Whether edits change what lies on the layer that is looked at. */
  private touches(edits: readonly Edit[]): boolean {
    return edits.some((edit) => {
      const entity = edit.after ?? edit.before;
      return editedId(edit) === this.on || (entity && 'layerId' in entity && entity.layerId === this.on);
    });
  }

  /** Pieces are found anew; a list of specks is good no more. */
  private changed(): void {
    if (usePieces.getState().specks) usePieces.setState({ specks: undefined, inHand: undefined });
    clearTimeout(this.timer);
    if (this.loop) this.timer = setTimeout(() => void this.look(false), REST_MS);
  }

  private async look(isFirst: boolean): Promise<void> {
    const { loop, on, board } = this;
    if (!loop || on === undefined) return;
    const own = ++this.asked;
    usePieces.setState({ isLooking: true });
    try {
      const pieces = await board.picture.inks.beside.inkPieces(on, loop);
      if (own !== this.asked) return;
      this.taken.clear();
      this.hovered = undefined;
      usePieces.setState({ pieces });
      if (isFirst && pieces.length === 0) board.notice('There is no ink of this layer in the loop.');
    } finally {
      if (own === this.asked) usePieces.setState({ isLooking: false });
    }
  }

  private pieceAt(at: Point): number | undefined {
    const found = usePieces.getState().pieces.findIndex((piece) => isInBox(piece.box, at) && isInPiece(piece, at));
    return found < 0 ? undefined : found;
  }

  private forget(): void {
    this.asked++;
    this.loop = undefined;
    this.hovered = undefined;
    this.taken.clear();
    clearTimeout(this.timer);
    usePieces.setState(NO_PIECES);
    this.board.picture.setSketch(undefined);
  }

  private show(): void {
    const { pieces, specks = [], inHand } = usePieces.getState();
    const { taken, hovered } = this;
    const isAny = pieces.length > 0 || specks.length > 0;
    this.board.picture.setSketch(isAny ? pieceSketch({ pieces, taken, hovered, specks, inHand }) : undefined);
  }
}

interface Seen {
  readonly pieces: readonly ShownPiece[];
  readonly taken: ReadonlySet<number>;
  readonly hovered: number | undefined;
  readonly specks: readonly ListedSpeck[];
  readonly inHand: number | undefined;
}

/** Pieces in colours over their ink, those that are being taken off as paper, and rings round specks. */
const pieceSketch =
  ({ pieces, taken, hovered, specks, inHand }: Seen): Sketch =>
  (context, map, ratio, colours) => {
    const { width, height } = context.canvas;
    context.setTransform(...map);
    for (const [k, { rings, box, colour }] of pieces.entries()) {
      // What is out of sight, or too small to be seen, is let be.
      const seen = mapBox(map, box);
      if (seen.maxX < 0 || seen.maxY < 0 || seen.minX > width || seen.minY > height) continue;
      if (seen.maxX - seen.minX < LEAST_SEEN && seen.maxY - seen.minY < LEAST_SEEN) continue;
      context.beginPath();
      traceRings(context, rings);
      context.fillStyle = taken.has(k) ? '#ffffff' : HUES[colour % HUES.length];
      context.fill();
    }
    context.lineWidth = (2 * ratio) / Math.hypot(map[0], map[1]);
    context.strokeStyle = colours.seal;
    for (const k of hovered === undefined ? taken : [...taken, hovered]) {
      context.beginPath();
      traceRings(context, pieces[k]?.rings ?? []);
      context.stroke();
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    for (const [k, speck] of specks.slice(0, MOST_MARKS).entries()) {
      const least = (k === inHand ? FINGER : 9) * ratio;
      ringed(context, { map, ratio }, speck, Math.max(least, Math.sqrt(speck.area) * Math.hypot(map[0], map[1])));
    }
  };

export const pieceSlot: PageSlot<PieceHand> = { open: (board) => new PieceHand(board) };
