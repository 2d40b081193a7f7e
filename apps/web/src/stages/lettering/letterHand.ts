import { pulled, sizedBody, type BalloonEntity } from '@true-nib/core/balloon';
import {
  addLetters,
  letteringIn,
  letteringOn,
  moveLetters,
  newBalloon,
  panelsOn,
  readingOrder,
} from '@true-nib/core/comic';
import type { EntityId } from '@true-nib/core/kind';
import { runsFrom, type LetteringEntity, type LetterStyle } from '@true-nib/core/lettering';
import { INK_BLACK } from '@true-nib/core/nib';
import { distance, projectiveOf, translation, type Point } from '@true-nib/core/math';
import {
  applyChange,
  draftChange,
  find,
  mergeEdits,
  mmToPx,
  ptToPx,
  sheetOf,
  type Edit,
  type Page,
} from '@true-nib/core/page';
import type { TextChange } from '@true-nib/core/typeset';
import {
  begunSlot,
  isInHand,
  still,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { zoomOf } from '../../render';
import { newId } from '../../session';
import { facesOf, shippedFaces, typesetter, type Faces, type Typesetter } from './faces';
import { GRIP_DEEDS, gripAt, letterAt, ownerOf, textAt, type Grip } from './letterGrips';
import { letterSketch } from './letterPicture';
import { setLetters, useLetters } from './letterStore';

/** CSS px that a hand may miss a grip by, and under which a drag was a touch. */
const REACH = 16;
const SLOP = 4;
/** ms without a letter after which what was typed is kept. */
const PAUSE_MS = 900;
/** What a new balloon says until something is typed. */
const FIRST_WORDS = '…';

/** The tools for lettering, by their ids. */
export const LETTER_TOOLS = ['balloon', 'letters'] as const;

/** Letters a page by hand: balloons and texts are laid down, moved, sized, given tails and typed into. */
export class LetterHand implements PageKeep {
  private isHeld = false;
  private readonly stops: readonly (() => void)[];
  /** What is typed and not kept yet: the edits that show it. */
  private typed: readonly Edit[] = [];
  private setter: Typesetter | undefined;
  private pause: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly board: Board) {
    // The picture takes edits over in the same breath.
    const soon = () => void requestAnimationFrame(() => this.show());
    this.stops = [board.session.onEdits(soon), useLetters.subscribe(soon)];
  }

  dispose(): void {
    clearTimeout(this.pause);
    this.stops.forEach((stop) => stop());
  }

  follow(desk: Desk): void {
    const wasHeld = this.isHeld;
    this.isHeld = LETTER_TOOLS.some((tool) => isInHand(desk, tool));
    if (this.isHeld) {
      if (!wasHeld) void this.ready().catch((error: unknown) => this.say(error));
      this.show();
    } else if (wasHeld) {
      this.settle();
      setLetters({ chosen: [], isNew: false, trouble: undefined });
      this.board.picture.setSketch(undefined);
    }
  }

  leave(): void {
    this.settle();
  }

  letGo(): boolean {
    const had = this.isHeld && useLetters.getState().chosen.length > 0;
    this.settle();
    if (had) setLetters({ chosen: [], isNew: false, trouble: undefined });
    return had;
  }

  /** Keeps what was typed. Answers whether there was anything. */
  settle(): boolean {
    clearTimeout(this.pause);
    const edits = this.typed;
    this.typed = [];
    if (edits.length === 0) return false;
    const isKept = this.board.session.commit('Letter', edits);
    if (!isKept) this.board.picture.letBe(edits);
    return isKept;
  }

  /** What was typed is a step like any other: it is kept, and then taken back. */
  takeBack(): boolean {
    this.settle();
    return false;
  }

  nudge(dx: number, dy: number): boolean {
    const { chosen } = useLetters.getState();
    if (!this.isHeld || chosen.length === 0) return false;
    this.settle();
    const { session } = this.board;
    return session.commit(GRIP_DEEDS.inside, moveLetters(session.page, chosen, projectiveOf(translation(dx, dy))));
  }

  /** What sets type, and the font of the next text. */
  private async ready(): Promise<{ readonly setter: Typesetter; readonly faces: Faces }> {
    this.setter = await typesetter();
    const { family, own } = useLetters.getState();
    if (family !== 'own' || !own) return { setter: this.setter, faces: await shippedFaces(this.board.session, family) };
    const refs = { plain: own };
    return { setter: this.setter, faces: { refs, fonts: await facesOf(this.board.session, refs) } };
  }

  private say(error: unknown): void {
    this.board.notice(error instanceof Error ? error.message : 'This could not be lettered.');
  }

  // Gestures.

  begin(press: Press, makes: 'balloon' | 'text'): Gesture {
    const { page } = this.board.session;
    const { at } = press;
    this.settle();
    const { chosen } = useLetters.getState();
    const grip = gripAt(page, chosen, at, REACH / zoomOf(this.board.picture.view));
    const found = grip ? undefined : letterAt(page, at);
    if (found !== undefined && press.modifiers().shiftKey) {
      setLetters({ chosen: chosen.includes(found) ? chosen.filter((id) => id !== found) : [...chosen, found] });
      return still;
    }
    if (found !== undefined) this.choose(found, textAt(page, at), chosen);
    const held: Grip | undefined = grip ?? (found === undefined ? undefined : { part: 'inside', id: found });
    return held ? this.drag(at, held) : this.lay(at, makes, this.board.of(begunSlot).panelId);
  }

  private drag(from: Point, grip: Grip): Gesture {
    const { picture, session, notice } = this.board;
    const { page } = session;
    const slop = SLOP / zoomOf(picture.view);
    let edits: readonly Edit[] = [];
    let isDragged = false;
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to || (!isDragged && distance(from, to) < slop)) return;
        isDragged = true;
        try {
          const next = this.dragged(page, grip, from, to);
          picture.letBe(edits, next);
          edits = next;
        } catch (error) {
          notice(error instanceof Error ? error.message : 'This cannot be.');
        }
        this.show();
      },
      end: () => {
        if (edits.length > 0 && !session.commit(GRIP_DEEDS[grip.part], edits)) picture.letBe(edits);
        this.show();
      },
      cancel: () => {
        picture.letBe(edits);
        this.show();
      },
    };
  }

  private dragged(page: Page, grip: Grip, from: Point, to: Point): readonly Edit[] {
    if (grip.part === 'inside') {
      const { chosen } = useLetters.getState();
      return moveLetters(
        page,
        chosen.includes(grip.id) ? chosen : [grip.id],
        projectiveOf(translation(to.x - from.x, to.y - from.y)),
      );
    }
    const { balloon } = grip;
    if (grip.part === 'edge') return this.sized(page, balloon, grip.body, to);
    const old = balloon.tails[grip.tail];
    const body = balloon.bodies[old.body];
    const tails = balloon.tails.map((tail, k) => (k === grip.tail ? pulled(tail, body, grip.part, to) : tail));
    return [{ before: balloon, after: { ...balloon, tails } }];
  }

  /** A body of another size: its text goes by it from now on. */
  private sized(page: Page, balloon: BalloonEntity, index: number, to: Point): readonly Edit[] {
    const larger = sizedBody(balloon.bodies[index], to);
    const after: BalloonEntity = { ...balloon, bodies: balloon.bodies.map((one, k) => (k === index ? larger : one)) };
    const edits: Edit[] = [{ before: balloon, after }];
    const text = letteringIn(page, balloon.id).find(({ fit }) => fit.as === 'balloon' && fit.body === index);
    if (!text || text.fit.as !== 'balloon' || !this.setter) return edits;
    const shown: Page = { ...page, entities: page.entities.with(after) };
    const fonts = fontsKnown.get(text.style.fonts.plain.sha256);
    if (!fonts) return edits;
    const { edits: letters, setting } = this.setter.relettered(
      shown,
      text.id,
      { fit: { ...text.fit, by: 'letters' } },
      fonts,
    );
    this.tell(setting);
    return [...edits, ...letters];
  }

  /** A touch on bare paper lays a balloon or a text down there. */
  private lay(at: Point, makes: 'balloon' | 'text', panelId: EntityId | undefined): Gesture {
    const { chosen } = useLetters.getState();
    let last: Point = at;
    return {
      move: (samples) => void (last = samples.at(-1) ?? last),
      end: () => {
        if (distance(at, last) > SLOP / zoomOf(this.board.picture.view)) return;
        if (chosen.length > 0) return setLetters({ chosen: [], isNew: false, trouble: undefined });
        this.board.session.waitFor(this.layAt(at, makes, panelId));
      },
      cancel: () => undefined,
    };
  }

  private async layAt(at: Point, makes: 'balloon' | 'text', panelId: EntityId | undefined): Promise<void> {
    try {
      const { setter, faces } = await this.ready();
      const { session } = this.board;
      const { page } = session;
      const style = this.styleFor(page, faces);
      const runs = [{ text: FIRST_WORDS }];
      const { shape, air, tail } = useLetters.getState();
      const laid = setter.textInBody({ runs, style }, faces.fonts, { shape, air: mmToPx(air, page.size.ppi), at });
      const made =
        makes === 'text'
          ? { texts: [setter.freeText({ runs, style }, faces.fonts, at).text] }
          : { balloon: newBalloon(laid.body, tail, page.size.ppi), texts: [laid.text] };
      fontsKnown.set(faces.refs.plain.sha256, faces.fonts);
      const known = new Set(letteringOn(page).map(({ id }) => id));
      session.attempt((now) =>
        addLetters(
          now,
          [{ ...made, ...(panelId !== undefined && { panelId }) }],
          makes === 'text' ? 'Text' : 'Balloon',
          newId,
        ),
      );
      const text = letteringOn(session.page).find(({ id }) => !known.has(id));
      if (text) setLetters({ chosen: [ownerOf(text)], isNew: true, trouble: undefined });
    } catch (error) {
      this.say(error);
    }
  }

  /** How the next text is set. */
  styleFor({ size: { ppi } }: Page, { refs }: Faces): LetterStyle {
    const { size, leading, tracking, align, capitals } = useLetters.getState();
    return {
      fonts: refs,
      ...{ size: ptToPx(size, ppi), leading: leading / 100, tracking: tracking / 100, align, capitals },
      color: INK_BLACK,
    };
  }

  // What is chosen.

  /** The text that is typed into: the chosen one, or that of the chosen balloon. */
  get text(): LetteringEntity | undefined {
    const { page } = this.board.session;
    const { chosen, textId } = useLetters.getState();
    const [id] = chosen;
    if (id === undefined) return undefined;
    const inside = letteringIn(page, id);
    return find(page, 'lettering', id) ?? inside.find((text) => text.id === textId) ?? inside[0];
  }

  /** Chooses a balloon or a text, and of a balloon with several texts the one that was touched. What is chosen already stays so. */
  private choose(id: EntityId, textId: EntityId | undefined, chosen: readonly EntityId[]): void {
    if (chosen.includes(id) && (textId === undefined || textId === useLetters.getState().textId)) return;
    setLetters({ chosen: chosen.includes(id) ? chosen : [id], textId, isNew: false, trouble: undefined });
    const { text } = this;
    if (text) void this.read(text).catch((error: unknown) => this.say(error));
  }

  private async read({ style }: LetteringEntity) {
    this.setter = await typesetter();
    const fonts = await facesOf(this.board.session, style.fonts);
    fontsKnown.set(style.fonts.plain.sha256, fonts);
    return { setter: this.setter, fonts };
  }

  /** Shows what is typed, which is kept once something else is begun. */
  async type(typed: string): Promise<void> {
    const { text, board } = this;
    if (!text) return;
    try {
      const { setter, fonts } = await this.read(text);
      const { edits, setting } = setter.relettered(board.session.page, text.id, { runs: runsFrom(typed) }, fonts);
      board.picture.letBe(this.typed, edits);
      this.typed = edits;
      clearTimeout(this.pause);
      this.pause = setTimeout(() => this.settle(), PAUSE_MS);
      this.tell(setting);
      this.show();
    } catch (error) {
      this.say(error);
    }
  }

  /** Sets the chosen text otherwise; its balloon too, where another one is given. */
  async change(label: string, change: (text: LetteringEntity) => TextChange, balloon?: BalloonEntity): Promise<void> {
    this.settle();
    const { text, board } = this;
    if (!text) return;
    try {
      const { setter } = await this.read(text);
      const wanted = change(text);
      const fonts = await facesOf(board.session, (wanted.style ?? text.style).fonts);
      const { page } = board.session;
      const before = balloon && find(page, 'balloon', balloon.id);
      const first: readonly Edit[] = balloon && before ? [{ before, after: balloon }] : [];
      const now = applyChange(page, draftChange(label, first));
      const { edits, setting } = setter.relettered(now, text.id, wanted, fonts);
      this.tell(setting);
      board.session.commit(label, mergeEdits([...first, ...edits]));
    } catch (error) {
      this.say(error);
    }
  }

  /** Lays a script down as balloons in the panels of the page. */
  async layScript(script: string): Promise<boolean> {
    try {
      const { setter, faces } = await this.ready();
      const loud = await shippedFaces(this.board.session, 'bangers');
      const { session } = this.board;
      const lines = setter.readScript(script);
      const panels = readingOrder(panelsOn(session.page), sheetOf(session.page).reads);
      const letters = setter.scriptToBalloons(session.page, panels, lines, {
        ...{ style: this.styleFor(session.page, faces), fonts: faces.fonts },
        ...{ soundStyle: this.styleFor(session.page, loud), soundFonts: loud.fonts },
      });
      return session.attempt((page) => addLetters(page, letters, `${letters.length} balloons`, newId));
    } catch (error) {
      this.say(error);
      return false;
    }
  }

  private tell({ overflows, missing }: { readonly overflows: boolean; readonly missing: readonly string[] }): void {
    const lacking = missing
      .slice(0, 8)
      .map((one) => `${one} (U+${(one.codePointAt(0) ?? 0).toString(16).toUpperCase()})`);
    const trouble = overflows
      ? 'This does not fit: make the balloon larger, or the letters smaller.'
      : lacking.length > 0
        ? `The font has no letter for ${lacking.join(', ')}.`
        : undefined;
    if (useLetters.getState().trouble !== trouble) setLetters({ trouble });
  }

  private show(): void {
    if (!this.isHeld) return;
    const { picture } = this.board;
    const { chosen, trouble } = useLetters.getState();
    picture.setSketch(letterSketch(picture.shownPage, chosen, trouble !== undefined));
  }
}

/** Fonts by the SHA-256 of the plain one: while a hand drags, nothing is waited for. */
const fontsKnown = new Map<string, Faces['fonts']>();

export const letterSlot: PageSlot<LetterHand> = { open: (board) => new LetterHand(board) };
