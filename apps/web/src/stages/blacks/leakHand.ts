import { laidAs } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, distance, growBox, type Point } from '@true-nib/core/math';
import { nearestLine } from '@true-nib/core/mend';
import { ofKind, orderBetween, type Edit, type StopEntity } from '@true-nib/core/page';
import { bridgeOver, type Leak } from '@true-nib/core/regions';
import {
  begunSlot,
  inPanel,
  isInHand,
  still,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
} from '../../board';
import { goTo, linesNear, nearestPlace } from '../../hand';
import { ringedPlaces } from '../../render';
import { newId } from '../../session';
import { useBlacks } from './blackStore';
import { useLeaks } from './leakStore';
import { pourSlot } from './pourHand';

/** ms after an edit until the page is looked at again. */
const REST_MS = 700;

/** Where colour would leak: shown while the tool is in hand, each closed at a touch. */
export class LeakCheck implements PageKeep {
  private isHeld = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.stops = [
      board.session.onEdits(() => this.isHeld && this.checkSoon()),
      useBlacks.subscribe((now, before) => {
        if (this.isHeld && (now.gap !== before.gap || now.boundedBy !== before.boundedBy)) void this.check();
      }),
      useLeaks.subscribe(() => this.isHeld && this.show()),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    clearTimeout(this.timer);
    useLeaks.setState({ leaks: [], inHand: undefined });
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'leaks');
    if (isHeld === this.isHeld) return;
    this.isHeld = isHeld;
    if (isHeld) void this.check();
    else this.board.picture.setSketch(undefined);
  }

  /** A touch on a mark takes that leak in hand. */
  begin(at: Point): Gesture {
    useLeaks.setState({ inHand: nearestPlace(this.board, useLeaks.getState().leaks, at) });
    return still;
  }

  /** Takes a leak in hand and shows it from near. */
  goTo(index: number): void {
    const leak = useLeaks.getState().leaks[index];
    if (!leak) return;
    useLeaks.setState({ inHand: index });
    goTo(this.board, leak);
  }

  /** Closes the leak in hand by a line in the nib and the weight of those beside it. */
  bridge(): void {
    const leak = this.inHand;
    if (!leak) return;
    const bridged = bridgeEdit(this.board, leak);
    if (typeof bridged === 'string') return this.board.notice(bridged);
    this.done(BRIDGE, bridged);
  }

  /** Says of the leak in hand that colour stops there without ink, or that it is meant. */
  say(as: StopEntity['as']): void {
    const leak = this.inHand;
    if (!leak) return;
    const [from, to] = leak.ends ?? [leak, leak];
    const place = ({ x, y }: Point) => ({ x, y });
    const after: StopEntity = { kind: 'stop', id: newId(), as, from: place(from), to: place(to) };
    this.done(as === 'stop' ? 'Stop a leak' : 'Leave a gap open', { before: null, after });
  }

  /** Takes back all that was said of gaps: stops are gone, and those that were meant leak again. */
  forgetSaid(): void {
    const { session, notice } = this.board;
    const edits = ofKind(session.page, 'stop').map((before): Edit => ({ before, after: null }));
    if (edits.length === 0) return notice('Nothing was said of any gap yet.');
    session.commit(edits.length === 1 ? 'Forget a stop' : `Forget ${edits.length} stops`, edits);
  }

  private get inHand(): Leak | undefined {
    const { leaks, inHand } = useLeaks.getState();
    const leak = inHand === undefined ? undefined : leaks[inHand];
    if (!leak) this.board.notice('Touch a leak first, on the page or in the list.');
    return leak;
  }

  private done(label: string, edit: Edit): void {
    const { inHand, leaks } = useLeaks.getState();
    if (!this.board.session.commit(label, [edit])) return;
    // It goes from the list at once; the page is looked at again soon.
    useLeaks.setState({ leaks: leaks.filter((_, k) => k !== inHand), inHand: undefined });
  }

  private checkSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.check(), REST_MS);
  }

  private async check(): Promise<void> {
    const found = await leaksNow(this.board);
    if (!found || !this.isHeld) return;
    const { leaks, inHand } = useLeaks.getState();
    const held = inHand === undefined ? undefined : leaks[inHand];
    const still = held ? found.findIndex((leak) => distance(leak, held) < 1) : -1;
    useLeaks.setState({ leaks: found, inHand: still < 0 ? undefined : still });
  }

  private show(): void {
    const { leaks, inHand } = useLeaks.getState();
    this.board.picture.setSketch(leaks.length > 0 ? ringedPlaces(leaks, inHand) : undefined);
  }
}

const BRIDGE = 'Bridge a leak';

/** Where colour would leak as the page is now; nothing where that cannot be told, or was asked for anew meanwhile. */
async function leaksNow(board: Board): Promise<readonly Leak[] | undefined> {
  const pour = board.of(pourSlot);
  const settings = pour.settings();
  if (typeof settings === 'string' || !(await pour.look())) return undefined;
  return (await board.picture.inks.beside.service.leaks(settings))?.leaks;
}

/** A line over a leak in the nib and the weight of those beside it; why there is none, in a sentence. */
function bridgeEdit(board: Board, leak: Leak): Edit | string {
  const [from, to] = leak.ends ?? [leak, leak];
  const settings = board.of(pourSlot).settings();
  if (typeof settings === 'string') return settings;
  const beside = [from, to].flatMap((end) => lineAt(board, settings.layerIds, end) ?? []);
  const bridge = bridgeOver([from, to], beside);
  if (!bridge) return 'There is no line beside this gap to go by: put a stop there.';
  const { layerId } = beside[0].line;
  const order = orderBetween(board.picture.inks.index.topOrder(layerId), undefined);
  const after = laidAs(bridge, { id: newId(), layerId, order, ...inPanel(board.of(begunSlot).panelAt(leak)) });
  return { before: null, after };
}

function lineAt(board: Board, layerIds: readonly EntityId[], at: Point) {
  const lines = linesNear(board, layerIds, growBox(boxOfPoints([at]), 2)).filter(({ kept }) => !kept.fills);
  const near = nearestLine(lines, ({ shown }) => shown, at, 2);
  return near && { line: near.line.kept, width: near.width };
}

/** What another room may ask about leaks. */
export const LEAKS = {
  now: leaksNow,
  /** Closes leaks by lines like those beside them, as one deed. Answers which: where there is no line to go by, it is said. */
  bridge(board: Board, leaks: readonly Leak[]): readonly Leak[] {
    const edits: Edit[] = [];
    const reasons: string[] = [];
    const closed = leaks.filter((leak) => {
      const bridged = bridgeEdit(board, leak);
      if (typeof bridged === 'string') reasons.push(bridged);
      else edits.push(bridged);
      return typeof bridged !== 'string';
    });
    if (reasons.length > 0) board.notice(reasons[0]);
    return board.session.commit(closed.length > 1 ? `Bridge ${closed.length} leaks` : BRIDGE, edits) ? closed : [];
  },
} as const;

export const leakSlot: PageSlot<LeakCheck> = { open: (board) => new LeakCheck(board) };
