import { heardAgain, leakFindings, mendedAll, MENDING_WORDS, PRESS_SETTINGS, silenced } from '@true-nib/core/audit';
import { ofKind, sheetOf, type Edit, type Entity } from '@true-nib/core/page';
import {
  isInHand,
  still,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { goTo, nearestPlace } from '../../hand';
import { sayError } from '../../look';
import { ringedPlaces } from '../../render';
import { newId } from '../../session';
import { LEAKS } from '../blacks';
import { FontsAtHand } from './fontsAtHand';
import { NOTHING_FOUND, usePress, usePressDesk, type Found } from './pressStore';

/** ms after an edit until the page is looked at again. */
const REST_MS = 500;

/** What is wrong with the page before it is printed: looked for while the tool is in hand, shown, mended or silenced at a touch. */
export class PressCheck implements PageKeep {
  private isHeld = false;
  /** Counts the looks at the page: an older one gives way. */
  private round = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private fonts: FontsAtHand;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.fonts = new FontsAtHand(board.session);
    this.stops = [
      board.session.onEdits(() => this.isHeld && this.checkSoon()),
      usePressDesk.subscribe(() => this.isHeld && this.checkSoon()),
      usePress.subscribe(() => this.isHeld && this.show()),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    clearTimeout(this.timer);
    this.round++;
    usePress.setState(NOTHING_FOUND);
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, 'press');
    if (isHeld === this.isHeld) return;
    this.isHeld = isHeld;
    // What was missing may have come since.
    if (isHeld) this.fonts = new FontsAtHand(this.board.session);
    if (isHeld) void this.check();
    else this.board.picture.setSketch(undefined);
  }

  /** A touch on a mark takes what was found there in hand. */
  begin({ at }: Press): Gesture {
    const placed = placedOf(usePress.getState().findings);
    const near = nearestPlace(this.board, placed, at);
    usePress.setState({ inHand: near === undefined ? undefined : placed[near].id });
    return still;
  }

  /** Takes a finding in hand and shows its place from near. */
  goTo({ id, at }: Found): void {
    usePress.setState({ inHand: id });
    if (at) goTo(this.board, at);
  }

  /** Goes to the next finding, from the last to the first. */
  next(): void {
    const { findings, inHand } = usePress.getState();
    const at = findings.findIndex(({ id }) => id === inHand);
    const next = findings[(at + 1) % findings.length] as Found | undefined;
    if (next) this.goTo(next);
  }

  /** Mends findings of one kind, as one deed; those that nothing mends are left. */
  mend(findings: readonly Found[]): void {
    const { board } = this;
    const mendable = findings.filter(({ mending }) => mending);
    const mendings = mendable.flatMap(({ mending }) => mending ?? []);
    try {
      if (mendings.length > 0) {
        const words = MENDING_WORDS[mendings[0].as];
        const label = mendings.length === 1 ? words : `${words}: ${mendings.length} places`;
        if (this.commit(label, mendedAll(board.session.page, mendings))) this.unlist(mendable);
      }
      const leaks = findings.flatMap(({ leak }) => leak ?? []);
      const closed = new Set(leaks.length > 0 ? LEAKS.bridge(board, leaks) : []);
      this.unlist(findings.filter(({ leak }) => leak && closed.has(leak)));
    } catch (error) {
      sayError(error);
    }
  }

  /** The artist knows of them: they are told no more. */
  silence(findings: readonly Found[]): void {
    const label = findings.length === 1 ? 'Silence a finding' : `Silence ${findings.length} findings`;
    if (
      this.commit(
        label,
        findings.flatMap((finding) => silenced(finding, newId())),
      )
    )
      this.unlist(findings);
  }

  hearAll(): void {
    this.commit('Hear all findings again', heardAgain(this.board.session.page));
  }

  private commit(label: string, edits: readonly Edit[]): boolean {
    return this.board.session.commit(label, edits);
  }

  /** Takes findings from the list at once; the page is looked at again soon. */
  private unlist(gone: readonly Found[]): void {
    const ids = new Set(gone.map(({ id }) => id));
    const { findings, inHand } = usePress.getState();
    const at = findings.findIndex(({ id }) => id === inHand);
    const left = findings.filter(({ id }) => !ids.has(id));
    const next = inHand !== undefined && ids.has(inHand) ? left.at(Math.min(at, left.length - 1))?.id : inHand;
    usePress.setState({ findings: left, inHand: next });
  }

  private checkSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.check(), REST_MS);
  }

  private async check(): Promise<void> {
    const { board } = this;
    const round = ++this.round;
    const isWanted = () => round === this.round && this.isHeld;
    const isFirst = usePress.getState().findings.length === 0;
    let isWhole = false;
    usePress.setState({ status: 'looking' });
    try {
      const { page } = board.session;
      const { withLeaks, ...desk } = usePressDesk.getState();
      const fonts = await this.fonts.named(ofKind(page, 'lettering'));
      const besides: readonly Entity[] = [sheetOf(page), ...ofKind(page, 'silence')];
      const found = await board.picture.inks.beside.pressCheck(
        besides,
        { ...PRESS_SETTINGS, ...desk, fonts },
        (some) => {
          // At first they come as they are found; later the list changes at once.
          if (isWanted() && isFirst && !isWhole) this.list([...usePress.getState().findings, ...some], 'looking');
        },
      );
      // What is told by the way may come after the answer.
      isWhole = true;
      if (!found || !isWanted()) return;
      this.list(found, withLeaks ? 'looking' : 'ready');
      if (!withLeaks) return;
      const leaks = (await LEAKS.now(board)) ?? [];
      if (isWanted()) this.list([...found, ...leakFindings(page, leaks, desk.scale)], 'ready');
    } catch (error) {
      if (isWanted()) usePress.setState({ status: 'idle' });
      sayError(error);
    }
  }

  private list(findings: readonly Found[], status: 'looking' | 'ready'): void {
    const { inHand } = usePress.getState();
    const isThere = findings.some(({ id }) => id === inHand);
    usePress.setState({ findings, status, ...(status === 'ready' && !isThere && { inHand: undefined }) });
  }

  private show(): void {
    const { findings, inHand } = usePress.getState();
    const placed = placedOf(findings);
    const k = placed.findIndex(({ id }) => id === inHand);
    this.board.picture.setSketch(placed.length > 0 ? ringedPlaces(placed, k < 0 ? undefined : k) : undefined);
  }
}

/** The findings that have a place, as they are ringed. */
const placedOf = (findings: readonly Found[]) =>
  findings.flatMap(({ id, at, leak }) => (at ? [{ id, ...at, ends: leak?.ends }] : []));

export const pressSlot: PageSlot<PressCheck> = { open: (board) => new PressCheck(board) };
