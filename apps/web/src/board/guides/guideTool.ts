import { cornerNode, flattenSpine, removeNode, smoothNode } from '@true-nib/core/curve';
import { actsOn, isField, moveGuide, shiftedShape, tetheredEdits } from '@true-nib/core/guides';
import { apply, distance, type Point } from '@true-nib/core/math';
import {
  find,
  PageError,
  type Edit,
  type EntityId,
  type GuideEntity,
  type GuideShape,
  type PenSample,
} from '@true-nib/core/page';
import { sayAt } from '../../look/notices';
import { drawGuides, tagsOf, TAG_HEIGHT, type GuideTag, type ShownGuides } from '../../render/guidePicture';
import { drawKnot, strokeBoth } from '../../render/overlay';
import { zoomOf } from '../../render/view';
import { useDesk } from '../desk';
import { drawnLayer, layerInHand, refuse, type Board, type Gesture } from '../inkHand';
import { nibFor } from '../nibs/rackStore';
import { asEntities } from '../select/clipboard';
import type { Modifiers } from '../select/selectHand';
import type { Selection } from '../select/selection';
import { seedNow } from '../strokeHand';
import { withCopies } from './bearing';
import { aimedAt, draggedGuide, gripAt, guideGrips, isOnGuide, withNode, type GripPlace } from './grips';
import { setGuides, useGuides } from './guideStore';
import { lengthInWords } from './inWords';
import { guidesOf, laidShape, LAYING_IN_WORDS, newGuide } from './layGuide';
import { templateById } from './templateStore';

/** CSS px that a hand may miss a grip by: a finger's. */
const REACH = 20;
const SLOP = 4;
/** Lines that one rake may lay down, copies included. */
const MOST_RAKED = 20_000;
const noKeys = (): Modifiers => ({ shiftKey: false, altKey: false });
const still: Gesture = { move: () => undefined, end: () => undefined, cancel: () => undefined };

/** Lays guides down, moves them by their grips, puts them to sleep by their tags, and rakes along them. */
export class GuideTool {
  private chosen: number | undefined;
  /** The shape of a guide while it is dragged, or before it is laid down. */
  private held: { readonly id: EntityId | undefined; readonly shape: GuideShape } | undefined;
  private tags: readonly GuideTag[] = [];
  private readonly stops: (() => void)[];

  constructor(private readonly board: Board & { readonly selection: Selection }) {
    const show = () => this.show();
    this.stops = [
      board.session.onEvents({ edited: (_page, edits) => edits.some(isGuideEdit) && show(), notice: () => undefined }),
      useGuides.subscribe(show),
      useDesk.subscribe((desk, before) => {
        if (desk.stage !== before.stage || desk.tool !== before.tool || desk.layerId !== before.layerId) show();
      }),
    ];
    show();
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
  }

  private get inHand(): GuideEntity | undefined {
    const { guideId } = useGuides.getState();
    return guideId === undefined ? undefined : find(this.board.session.page, 'guide', guideId);
  }

  private get perCss(): number {
    return 1 / zoomOf(this.board.picture.view);
  }

  private get isEditing(): boolean {
    const { stage, tool } = useDesk.getState();
    return stage === 'guides' && tool === 'guide';
  }

  /**
   * A touch on a tag, wherever one is in the work, puts its guide to sleep or wakes it; what goes on as a drag was meant for the
   * page under it, and is begun there by `otherwise`. `at` in CSS px of the board.
   */
  beginTag(at: Point, otherwise: () => Gesture | undefined): Gesture | undefined {
    const tag = this.tags.find(
      ({ x, y, width }) => at.x >= x && at.x <= x + width && at.y >= y - 4 && at.y <= y + TAG_HEIGHT + 4,
    );
    if (!tag) return undefined;
    const way: PenSample[] = [];
    let drag: Gesture | undefined;
    return {
      move: (samples) => {
        if (drag) return drag.move(samples);
        way.push(...samples);
        if (!way.some((sample) => distance(sample, way[0]) > 1.5 * SLOP * this.perCss)) return;
        const { stage } = useDesk.getState();
        const guide = find(this.board.session.page, 'guide', tag.id);
        // Far points have nothing but their tag on the board: it moves them.
        const isMoved = stage === 'guides' && guide && !guide.locked;
        if (isMoved) setGuides({ guideId: guide.id, laying: undefined });
        drag = isMoved ? this.beginDrag(guide, undefined, way[0], noKeys) : (otherwise() ?? still);
        drag.move(way);
      },
      corner: () => drag?.corner?.(),
      lifted: () => drag?.lifted?.(),
      cancel: () => drag?.cancel(),
      end: () => {
        if (drag) return drag.end();
        const guide = find(this.board.session.page, 'guide', tag.id);
        if (!guide) return;
        if (useDesk.getState().stage === 'guides') setGuides({ guideId: guide.id });
        this.tell(guide, `${guide.acting ? 'Sleep' : 'Wake'}: ${guide.name}`, { acting: !guide.acting });
      },
    };
  }

  /** Moves an edge that acts, where a hand lies on it, whatever tool is in hand. */
  beginSlide(at: Point): Gesture | undefined {
    const layerId = layerInHand(this.board.session.page, useDesk.getState().layerId)?.layer.id;
    const guide = [...guidesOf(this.board.session.page)]
      .reverse()
      .find(
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
      return { ...still, end: () => this.keep(inHand, aimedAt(shape, at), 'Aim the straightedge') };
    }
    if (laying) return this.beginLaying(at);
    const reach = REACH * this.perCss;
    const grip = inHand && gripAt(guideGrips(inHand.shape, this.perCss, this.chosen), at, reach);
    if (inHand && grip) {
      if (inHand.locked) return refuse(this.board.notice, `${inHand.name} is locked.`);
      this.chosen = 'node' in grip.grip ? grip.grip.node : undefined;
      this.show();
      return this.beginDrag(inHand, grip, at, modifiers);
    }
    const guide = [...guidesOf(this.board.session.page)]
      .reverse()
      .find((one) => one.seen && isOnGuide(one.shape, at, reach));
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
    const way: Point[] = [at];
    if (!laying) return still;
    const shape = () => laidShape(laying, way, session.page, templateById(templateId), this.perCss);
    return {
      move: (samples) => {
        way.push(...samples);
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
        const guide = newGuide(session.page, laid);
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
    let shape: GuideShape | undefined;
    let shown: readonly Edit[] = [];
    const preview = (edits: readonly Edit[]) => {
      // What was shown last is taken back in the same go, so that each look starts from the page.
      picture.preview([...inverse(shown), ...edits]);
      shown = edits;
    };
    return {
      move: (samples) => {
        const to = samples[samples.length - 1];
        if (!to || (!shape && distance(from, to) < SLOP * this.perCss)) return;
        const { shiftKey, altKey } = modifiers();
        shape = draggedGuide(
          guide.shape,
          grip?.grip ?? { part: 'move' },
          grip ? grip.at : from,
          grip ? offset(to, from, grip.at) : to,
          shiftKey,
          altKey,
        );
        this.held = { id: guide.id, shape };
        preview(tetheredEdits(this.board.session.page, guide, shape));
        const words = lengthInWords(shape, this.board.session.page.size.ppi);
        if (words) sayAt(words, picture.inWindow(to));
        this.show();
      },
      end: () => {
        preview([]);
        this.held = undefined;
        if (shape) this.keep(guide, shape, `Move ${guide.name}`);
        this.show();
      },
      cancel: () => {
        preview([]);
        this.held = undefined;
        this.show();
      },
    };
  }

  /** Gives a guide another shape, with all that is tethered to it. */
  keep(guide: GuideEntity, shape: GuideShape, label: string): void {
    const { session, notice } = this.board;
    try {
      const { edits } = moveGuide(session.page, guide.id, shape, label);
      session.commit(label, edits);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      notice(error.message);
    }
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

  /** Shows another shape of the guide in hand, until it is kept. */
  preview(guide: GuideEntity, shape: GuideShape | undefined): void {
    this.held = shape && { id: guide.id, shape };
    this.show();
  }

  tell(guide: GuideEntity, label: string, change: Partial<GuideEntity>): void {
    this.board.session.commit(label, [{ before: guide, after: { ...guide, ...change } }]);
  }

  /** Moves the guide in hand by page px. Answers whether there was one to move. */
  nudge(dx: number, dy: number): boolean {
    const { inHand } = this;
    if (!this.isEditing || !inHand) return false;
    this.keep(inHand, shiftedShape(inHand.shape, dx, dy), `Move ${inHand.name}`);
    return true;
  }

  /** Lets go of what is laid down next, or of the guide in hand. Answers whether there was any. */
  letGo(): boolean {
    const { laying, isAiming } = useGuides.getState();
    const had = this.isEditing && (laying !== undefined || isAiming || this.inHand !== undefined);
    if (had) setGuides(laying || isAiming ? { laying: undefined, isAiming: false } : { guideId: undefined });
    return had;
  }

  /** A loop on the board that is filled with lines along a field. */
  beginRake(): Gesture {
    const { session, picture, notice } = this.board;
    const target = drawnLayer(session.page, useDesk.getState().layerId);
    if (typeof target === 'string') return refuse(notice, target);
    if (target.layer.medium !== 'ink') return refuse(notice, 'The rake draws lines: take an Ink layer in hand.');
    const field = this.rakedField();
    if (!field) return refuse(notice, 'The rake goes along a field: lay down Rails, Ripples, Rays or an Echo first.');
    const loop: Point[] = [];
    return {
      move: (samples) => {
        loop.push(...samples);
        picture.setArea(loop);
      },
      end: () => {
        picture.setArea(undefined);
        void this.raked(field, loop, target);
      },
      cancel: () => picture.setArea(undefined),
    };
  }

  /** The field that is raked along: the one in hand, or the first that acts here. */
  rakedField(): GuideEntity | undefined {
    const { inHand } = this;
    if (inHand && isField(inHand.shape)) return inHand;
    const layerId = layerInHand(this.board.session.page, useDesk.getState().layerId)?.layer.id;
    return guidesOf(this.board.session.page).find((guide) => isField(guide.shape) && actsOn(guide, layerId));
  }

  private async raked(
    { id, shape, name }: GuideEntity,
    loop: readonly Point[],
    { layer, edits }: Exclude<ReturnType<typeof drawnLayer>, string>,
  ): Promise<void> {
    const { session, picture, notice } = this.board;
    if (!isField(shape)) return;
    const { spacing, jitter, ragged, calm } = useGuides.getState().rake;
    const settings = {
      nib: nibFor(session.page),
      guideId: id,
      ...{ spacing, jitter: jitter / 100, ragged: ragged / 100 },
      ...(shape.kind === 'rays' && this.middleOf(loop, calm / 100)),
    };
    try {
      const strokes = await picture.inks.raked(shape, loop, settings, seedNow());
      if (strokes.length === 0) return notice(`No line of ${name} lies in this loop. Draw a larger one.`);
      const all = withCopies(session.page, layer.id, strokes);
      if (all.length > MOST_RAKED)
        return notice(`With all copies this would be ${all.length} lines. Make the spacing wider or the loop smaller.`);
      const added = asEntities(all, layer.id, picture.inks.index.topOrder(layer.id)).map((after): Edit => ({
        before: null,
        after,
      }));
      session.commit(`Rake ${all.length} lines`, [...edits, ...added], edits.length > 0 ? [] : [layer.id]);
    } catch (error) {
      notice(error instanceof Error ? error.message : 'This could not be raked.');
    }
  }

  /** The loop that stays free of focus lines: the selected line where there is one, else the loop itself made smaller. */
  private middleOf(loop: readonly Point[], share: number): { readonly middle?: readonly Point[] } {
    const [line] = this.board.selection.strokes;
    if (line) {
      const flat = flattenSpine(line.spine, 0.5);
      return { middle: Array.from({ length: flat.length / 3 }, (_, k) => ({ x: flat[3 * k], y: flat[3 * k + 1] })) };
    }
    return share > 0 ? { middle: shrunk(loop, share) } : {};
  }

  /** Paints the guides, and the grips of the one in hand. */
  show(): void {
    const { picture } = this.board;
    const state = useGuides.getState();
    const { page } = this.board.session;
    const guides = guidesOf(page).map((guide) =>
      this.held?.id === guide.id ? { ...guide, shape: this.held.shape } : guide,
    );
    if (this.held && this.held.id === undefined) guides.push(newGuide(page, this.held.shape));
    const shown: ShownGuides = {
      ...{ guides, guided: state.guided && !state.isFree, inHand: this.isEditing ? state.guideId : undefined },
      ...{ layerId: layerInHand(page, useDesk.getState().layerId)?.layer.id, bearer: state.bearer },
      isEditing: useDesk.getState().stage === 'guides',
    };
    const inHand = this.isEditing ? guides.find(({ id }) => id === state.guideId) : undefined;
    picture.setGuides((context, map, ratio, colours) => {
      this.tags = tagsOf(shown, picture.view, picture.free);
      drawGuides(context, shown, map, ratio, this.tags);
      if (!inHand) return;
      const on = (p: Point) => apply(map, p);
      const grips = guideGrips(inHand.shape, this.perCss, this.chosen);
      for (const { grip, at } of grips) {
        const arm = armOf(inHand.shape, grip, this.chosen, grips);
        if (arm)
          strokeBoth(context, ratio, () => {
            context.moveTo(on(arm).x, on(arm).y);
            context.lineTo(on(at).x, on(at).y);
          });
      }
      for (const { grip, at, look } of grips)
        drawKnot(
          context,
          on(at),
          look,
          'node' in grip && grip.node === this.chosen && grip.part === 'node',
          ratio,
          colours,
        );
    });
  }
}

/** Where the line to a grip begins. */
function armOf(
  shape: GuideShape,
  grip: GripPlace['grip'],
  chosen: number | undefined,
  grips: readonly GripPlace[],
): Point | undefined {
  if (grip.part === 'turn' || grip.part === 'ratio')
    return shape.kind === 'template' ? shape.place : 'x' in shape ? shape : undefined;
  if (grip.part !== 'handle') return undefined;
  return grips.find((one) => one.grip.part === 'node' && one.grip.node === chosen)?.at;
}

const isGuideEdit = ({ before, after }: Edit): boolean => before?.kind === 'guide' || after?.kind === 'guide';
const inverse = (edits: readonly Edit[]): Edit[] =>
  edits.map(({ before, after }) => ({ before: after, after: before })).reverse();
const offset = (to: Point, from: Point, grip: Point): Point => ({
  x: to.x - from.x + grip.x,
  y: to.y - from.y + grip.y,
});

/** A loop made smaller about its middle. */
function shrunk(loop: readonly Point[], share: number): Point[] {
  const x = loop.reduce((sum, p) => sum + p.x, 0) / loop.length;
  const y = loop.reduce((sum, p) => sum + p.y, 0) / loop.length;
  return loop.map((p) => ({ x: x + (p.x - x) * share, y: y + (p.y - y) * share }));
}
