import {
  heardAgain,
  leakFinding,
  mended,
  mendedAll,
  MENDING_WORDS,
  PRESS_SETTINGS,
  silenced,
  type Finding,
} from '@true-nib/core/audit';
import { distance } from '@true-nib/core/math';
import { find, ofKind, type Edit, type Entity } from '@true-nib/core/page';
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
import { FINGER, goTo } from '../../hand';
import { sayError } from '../../look';
import { ringedPlaces, zoomOf } from '../../render';
import { newId } from '../../session';
import { LEAKS } from '../blacks';
import { FontsAtHand } from './fontsAtHand';
import { canMend, NOTHING_FOUND, usePress, usePressDesk, type Found } from './pressStore';

/** ms after an edit until the page is looked at again. */
const REST_MS = 500;

/** What is wrong with the page before it is printed: looked for while the tool is in hand, shown, mended or silenced at a touch. */
export class PressCheck implements PageKeep {
  private isHeld = false;
  /** Counts the looks at the page: an older one gives way. */
  private round = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly fonts: FontsAtHand;
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
    if (isHeld) void this.check();
    else this.board.picture.setSketch(undefined);
  }

  /** A touch on a mark takes what was found there in hand. */
  begin({ at }: Press): Gesture {
    const reach = FINGER / zoomOf(this.board.picture.view);
    const near = usePress
      .getState()
      .findings.flatMap((finding) => (finding.at ? [{ id: finding.id, far: distance(finding.at, at) }] : []))
      .filter(({ far }) => far <= reach)
      .sort((one, other) => one.far - other.far);
    usePress.setState({ inHand: near[0]?.id });
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

  /** Mends findings, as one deed; those that nothing mends are left. */
  mend(findings: readonly Found[]): void {
    const { session } = this.board;
    try {
      const mendings = findings.flatMap(({ mending }) => mending ?? []);
      const [first] = mendings;
      if (mendings.length === 1) this.commit(MENDING_WORDS[first.as], mended(session.page, first));
      else if (first)
        this.commit(`${MENDING_WORDS[first.as]}: ${mendings.length} places`, mendedAll(session.page, mendings));
      const leaks = findings.flatMap(({ leak }) => leak ?? []);
      if (leaks.length > 0) LEAKS.bridge(this.board, leaks);
      this.unlist(findings.filter(canMend));
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
      const sheet = find(page, 'sheet', 'sheet');
      const silences = ofKind(page, 'silence');
      const besides: readonly Entity[] = [...(sheet ? [sheet] : []), ...silences];
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
      const hushed = new Set(silences.map(({ about }) => about));
      const leaks = (await LEAKS.now(board)) ?? [];
      const leaking = leaks
        .map((leak): Found => ({ ...leakFinding(page, leak, desk.scale), leak }))
        .filter(({ id }) => !hushed.has(id));
      if (isWanted()) this.list([...found, ...leaking], 'ready');
    } catch (error) {
      if (isWanted()) usePress.setState({ status: 'idle' });
      sayError(error);
    }
  }

  private list(findings: readonly (Finding | Found)[], status: 'looking' | 'ready'): void {
    const { inHand } = usePress.getState();
    const isThere = findings.some(({ id }) => id === inHand);
    usePress.setState({ findings, status, ...(status === 'ready' && !isThere && { inHand: undefined }) });
  }

  private show(): void {
    const { findings, inHand } = usePress.getState();
    const placed = findings.flatMap(({ id, at, leak }) => (at ? [{ id, ...at, ends: leak?.ends }] : []));
    const k = placed.findIndex(({ id }) => id === inHand);
    this.board.picture.setSketch(placed.length > 0 ? ringedPlaces(placed, k < 0 ? undefined : k) : undefined);
  }
}

export const pressSlot: PageSlot<PressCheck> = { open: (board) => new PressCheck(board) };
