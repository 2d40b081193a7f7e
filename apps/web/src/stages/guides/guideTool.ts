import {
  begunSlot,
  type Board,
  type Gesture,
  inPanel,
  type Modifiers,
  nodeInHand,
  type PageKeep,
  type PageSlot,
  type Press,
  refuse,
  still,
  useDesk,
} from '../../board';
import { cornerNode, removeNode, smoothNode } from '@true-nib/core/curve';
import {
  actsOn,
  aimedAt,
  draggedGuide,
  guideGripAt,
  guideGrips,
  isField,
  isOnGuide,
  shiftedShape,
  withNode,
  type Aim,
  type GripLook,
  type GripPlace,
  type GuideEntity,
  type GuideShape,
} from '@true-nib/core/guides';
import { hangingEdits, tetheredEdits } from '@true-nib/core/tethers';
import { distance, type Point } from '@true-nib/core/math';
import { find, type Edit } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { PenSample } from '@true-nib/core/hand';
import { say, sayAt } from '../../look';
import { type WayMark, type Ghosts, zoomOf } from '../../render';
import {
  setDepth,
  useDepth,
  frameInHand,
  seenOn,
  areMany,
  GuideMoves,
  MANY_DRAGGED,
  ManyTethered,
  guideInHand,
  setGuides,
  useGuides,
  lengthInWords,
  guidesOf,
  laidShape,
  LAYING_IN_WORDS,
  newGuide,
  isGuideEdit,
  templateById,
} from '../../guiding';
import { GuideView } from './guideView';

/** CSS px that a hand may miss a grip by: a finger's. */
const REACH = 20;
const SLOP = 4;
const noKeys = (): Modifiers => ({ shiftKey: false, altKey: false });

/** Lays guides down, moves them by their grips, puts them to sleep by their tags, and rakes along them. */
export class GuideTool implements PageKeep {
  private chosen: number | undefined;
  /** The shape of a guide while it is dragged, or before it is laid down. */
  private held: { readonly id: EntityId | undefined; readonly shape: GuideShape } | undefined;
  private readonly view: GuideView;
  private previewed: readonly Edit[] = [];
  /** Where many tethered lines would go. */
  private ghosts: Ghosts | undefined;
  private readonly many = new ManyTethered();
  readonly moves: GuideMoves;
  private readonly stops: (() => void)[];

  constructor(private readonly board: Board) {
    this.moves = new GuideMoves(board);
    this.view = new GuideView(board);
    const show = () => this.show();
    this.stops = [
      board.session.onEdits((_page, edits) => edits.some(isGuideEdit) && show()),
      useGuides.subscribe(show),
      useDepth.subscribe(show),
      useDesk.subscribe((desk, before) => {
        if (desk.stage !== before.stage || desk.tool !== before.tool || desk.layerId !== before.layerId) show();
      }),
    ];
    show();
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
  }

  /** Tags come before any tool; while edges are slid nothing else is done. */
  seize(press: Press, otherwise: () => Gesture | undefined): Gesture | undefined {
    const begin = () => (useGuides.getState().isSliding ? this.beginSlide(press.at) : otherwise());
    return this.beginTag(press.place, begin) ?? begin();
  }

  hold({ place, at }: Press): Gesture | undefined {
    return this.beginTag(place, () => undefined) ?? this.beginSlide(at);
  }

  leave(): void {
    this.moves.finish();
  }

  hide(): void {
    this.moves.finish();
  }

  private get inHand(): GuideEntity | undefined {
    return guideInHand(this.board.session.page);
  }

  private get perCss(): number {
    return 1 / zoomOf(this.board.picture.view);
  }

  private get gripLook(): GripLook {
    return { perCss: this.perCss, chosen: this.chosen, seen: seenOn(this.board) };
  }

  private show(): void {
    const { held, previewed, ghosts, isEditing, gripLook } = this;
    this.view.show({ held, previewed, ghosts, isEditing, gripLook });
  }

  private get isEditing(): boolean {
    const { stage, tool } = this.board.desk();
    return stage === 'guides' && (tool === 'guide' || (tool === 'depth' && useDepth.getState().deed === 'frame'));
  }

  /**
   * A touch on a tag, wherever one is in the work, puts its guide to sleep or wakes it; what goes on as a drag was meant for the
   * page under it, and is begun there by `otherwise`. `at` in CSS px of the board.
   */
  beginTag(at: Point, otherwise: () => Gesture | undefined): Gesture | undefined {
    const mark = this.view.markAt(at);
    if (mark) return this.beginMark(mark);
    const tag = this.view.tagAt(at);
    if (!tag) return undefined;
    const course: PenSample[] = [];
    let drag: Gesture | undefined;
    return {
      move: (samples) => {
        if (drag) return drag.move(samples);
        course.push(...samples);
        if (!course.some((sample) => distance(sample, course[0]) > 1.5 * SLOP * this.perCss)) return;
        const { stage } = this.board.desk();
        const guide = find(this.board.session.page, 'guide', tag.id);
        // Far points have nothing but their tag on the board: it moves them.
        const isMoved = stage === 'guides' && guide && !guide.locked;
        if (isMoved) setGuides({ guideId: guide.id, laying: undefined });
        drag = isMoved ? this.beginDrag(guide, undefined, course[0], noKeys) : (otherwise() ?? still);
        drag.move(course);
      },
      corner: () => drag?.corner?.(),
      lifted: () => drag?.lifted?.(),
      cancel: () => drag?.cancel(),
      end: () => {
        if (drag) return drag.end();
        const guide = find(this.board.session.page, 'guide', tag.id);
        if (!guide) return;
        if (this.board.desk().stage === 'guides') setGuides({ guideId: guide.id });
        this.tell(guide, `${guide.acting ? 'Sleep' : 'Wake'}: ${guide.name}`, { acting: !guide.acting });
      },
    };
  }

  /** A touch on the letter of a direction: lines take this one only, or all again. */
  private beginMark({ way }: WayMark): Gesture {
    const { limit } = useDepth.getState();
    return { ...still, end: () => setDepth({ limit: limit === `way:${way}` ? 'all' : `way:${way}` }) };
  }

  /** Moves an edge that acts, where a hand lies on it, whatever tool is in hand. */
  beginSlide(at: Point): Gesture | undefined {
    const layerId = nodeInHand(this.board)?.layer.id;
    const guide = guidesOf(this.board.session.page).findLast(
      (one) =>
        one.seen &&
        actsOn(one, layerId) &&
        !one.locked &&
        !isField(one.shape) &&
        isOnGuide(one.shape, at, REACH * this.perCss),
    );
    return guide && this.beginDrag(guide, undefined, at, noKeys);
  }

  /** A press on the board while guides are worked on. */
  begin(at: Point, modifiers: () => Modifiers): Gesture {
    const { laying, isAiming } = useGuides.getState();
    const { inHand } = this;
    if (isAiming && inHand?.shape.kind === 'straightedge') {
      setGuides({ isAiming: false });
      const { shape } = inHand;
      const aim = this.aimAt(at);
      return { ...still, end: () => this.keep(inHand, aimedAt({ ...shape, aim }, aim.point), 'Aim the straightedge') };
    }
    if (laying) return this.beginLaying(at);
    const reach = REACH * this.perCss;
    const grip = inHand && guideGripAt(guideGrips(inHand.shape, this.gripLook), at, reach);
    if (inHand && grip) {
      if (inHand.locked) return refuse(this.board.notice, `${inHand.name} is locked.`);
      this.chosen = 'node' in grip.grip ? grip.grip.node : undefined;
      this.show();
      return this.beginDrag(inHand, grip, at, modifiers);
    }
    const guide = guidesOf(this.board.session.page).findLast((one) => one.seen && isOnGuide(one.shape, at, reach));
    this.chosen = undefined;
    const wasInHand = guide !== undefined && guide.id === inHand?.id;
    setGuides({ guideId: guide?.id });
    if (!guide || guide.locked) return still;
    const drag = this.beginDrag(guide, undefined, at, modifiers);
    if (!wasInHand || !('course' in guide.shape)) return drag;
    // A touch on the curve in hand adds a point.
    let isDrag = false;
    return {
      ...drag,
      move: (samples) => {
        isDrag ||= samples.some((sample) => distance(sample, at) > SLOP * this.perCss);
        if (isDrag) drag.move(samples);
      },
      end: () => (isDrag ? drag.end() : this.keep(guide, withNode(guide.shape, at), 'Add a point to the guide')),
    };
  }

  private beginLaying(at: Point): Gesture {
    const { laying, templateId } = useGuides.getState();
    const { session, notice } = this.board;
    const course: Point[] = [at];
    if (!laying) return still;
    const shape = () => laidShape(laying, course, session.page, templateById(templateId), this.perCss);
    return {
      move: (samples) => {
        course.push(...samples);
        const laid = shape();
        this.held = laid && { id: undefined, shape: laid };
        this.show();
      },
      end: () => {
        this.held = undefined;
        const laid = shape();
        if (!laid) {
          notice(LAYING_IN_WORDS[laying]);
          return this.show();
        }
        const guide = { ...newGuide(session.page, laid), ...inPanel(this.board.of(begunSlot).panelId) };
        setGuides({ laying: undefined, guideId: guide.id });
        session.commit(`Lay down ${guide.name}`, [{ before: null, after: guide }]);
      },
      cancel: () => {
        this.held = undefined;
        this.show();
      },
    };
  }

  private beginDrag(guide: GuideEntity, grip: GripPlace | undefined, from: Point, modifiers: () => Modifiers): Gesture {
    const { picture } = this.board;
    const seen = seenOn(this.board);
    const { page } = this.board.session;
    let shape: GuideShape | undefined;
    /** A drag that leads to nothing possible leaves what was there before it. */
    const dragged = (...to: Parameters<typeof draggedGuide>): GuideShape => {
      try {
        return draggedGuide(...to);
      } catch (error) {
        if (!(error instanceof PageError)) throw error;
        this.board.notice(error.message);
        return shape ?? guide.shape;
      }
    };
    return {
      move: (samples) => {
        const to = samples[samples.length - 1];
        if (!to || (!shape && distance(from, to) < SLOP * this.perCss)) return;
        const { shiftKey, altKey } = modifiers();
        const { keepsHorizon } = useDepth.getState();
        shape = dragged(guide.shape, {
          grip: grip?.grip ?? { part: 'move' },
          ...(grip ? { from: grip.at, to: offset(to, from, grip.at) } : { from, to }),
          ...{ isExact: shiftKey, isBroken: altKey, isLevel: keepsHorizon, seen },
        });
        this.preview(guide, shape);
        const words = lengthInWords(shape, page.size.ppi);
        if (words) sayAt(words, picture.inWindow(to));
      },
      end: () => shape && this.keep(guide, shape, `Move ${guide.name}`),
      cancel: () => this.preview(guide, undefined),
    };
  }

  /** Gives a guide another shape, with all that is tethered to it; a look at that goes before. */
  keep(guide: GuideEntity, shape: GuideShape, label: string): void {
    const move = { id: guide.id, shape, label };
    if (areMany(this.board.session.page, guide)) {
      this.preview(guide, shape);
      // It may be moved on meanwhile, which is kept in its turn.
      return this.moves.keepInTime(move, () => this.held?.shape === shape && this.preview(guide, undefined));
    }
    this.preview(guide, undefined);
    this.moves.keepAtOnce(move);
  }

  /** Takes back a move whose lines are still being carried. Answers whether there was one. */
  takeBack(): boolean {
    const given = this.moves.giveUpLast();
    const guide = given && find(this.board.session.page, 'guide', given.last.id);
    if (guide) this.preview(guide, given.before?.shape);
    if (given) say('The move is taken back.');
    return given !== undefined;
  }

  /** Does something to the chosen point of the curve in hand. */
  changePoint(what: 'smooth' | 'corner' | 'remove'): void {
    const { inHand, chosen } = this;
    const { notice } = this.board;
    if (!inHand || !('course' in inHand.shape) || chosen === undefined)
      return notice('Touch a point of the curve first.');
    const { course } = inHand.shape;
    try {
      const changed = { smooth: smoothNode, corner: cornerNode, remove: removeNode }[what](course, chosen);
      if (what === 'remove') this.chosen = undefined;
      this.keep(inHand, { ...inHand.shape, course: changed }, `Change a point of ${inHand.name}`);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      notice(error.message);
    }
  }

  /**
   * Shows a guide in another shape with all that is tethered to it, until that is kept; as it is again for nothing. More than
   * `most` lines are shown by their courses alone.
   */
  preview(guide: GuideEntity, shape: GuideShape | undefined, most = MANY_DRAGGED): void {
    const { page } = this.board.session;
    const { following } = useDepth.getState();
    const lines = shape && this.many.of(page, guide, most);
    const follow = lines ? hangingEdits : tetheredEdits;
    this.ghosts = lines && { lines, shape, following };
    this.previewEdits(shape ? follow(page, guide, shape, following) : []);
    this.held = shape && { id: guide.id, shape };
    this.show();
  }

  /** Shows edits that are not kept; what was shown last is taken back in the same go, so that each look starts from the page. */
  private previewEdits(edits: readonly Edit[]): void {
    this.board.picture.letBe(this.previewed, edits);
    this.previewed = edits;
  }

  tell(guide: GuideEntity, label: string, change: Partial<GuideEntity>): void {
    this.board.session.commit(label, [{ before: guide, after: { ...guide, ...change } }]);
  }

  /** Moves the guide in hand by page px. Answers whether there was one to move. */
  nudge(dx: number, dy: number): boolean {
    const { inHand } = this;
    if (!this.isEditing || !inHand) return false;
    // From where it is about to be, while its lines are still being carried there.
    const { shape } = this.held?.id === inHand.id ? this.held : inHand;
    this.keep(inHand, shiftedShape(shape, dx, dy), `Move ${inHand.name}`);
    return true;
  }

  /** Lets go of what is laid down next, or of the guide in hand. Answers whether there was any. */
  letGo(): boolean {
    const { laying, isAiming } = useGuides.getState();
    const had = this.isEditing && (laying !== undefined || isAiming || this.inHand !== undefined);
    if (had) setGuides(laying || isAiming ? { laying: undefined, isAiming: false } : { guideId: undefined });
    return had;
  }

  /** What a touch aims a straightedge at: the point of a frame whose letter or place is touched, or the place itself. */
  private aimAt(at: Point): Aim {
    const frame = frameInHand(this.board.session.page);
    const reach = 2 * REACH * this.perCss;
    const grip = frame && guideGripAt(guideGrips(frame.shape, { ...this.gripLook, chosen: undefined }), at, reach);
    const own = grip?.grip.part === 'frame' ? grip.grip.grip : undefined;
    if (frame && own?.part === 'point') return { point: frame.shape.points[own.way], frame: frame.id, way: own.way };
    return { point: [at.x, at.y, 1] };
  }
}

/** The guides on the open page, as a hand moves them. */
export const guideSlot: PageSlot<GuideTool> = { open: (board) => new GuideTool(board) };

/** Where a grip goes when the hand that holds it, a little beside it, goes from one place to another. */
const offset = (to: Point, from: Point, grip: Point): Point => ({
  x: to.x - from.x + grip.x,
  y: to.y - from.y + grip.y,
});
