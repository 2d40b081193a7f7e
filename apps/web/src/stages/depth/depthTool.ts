import {
  begunSlot,
  type Board,
  type Gesture,
  inPanel,
  type Modifiers,
  type PageKeep,
  type PageSlot,
  refuse,
  still,
  takeTool,
  targetInHand,
  useDesk,
} from '../../board';
import { guideSlot, selectedLines, proportionsOf } from '../guides';
import { selectionSlot } from '../../select';
import {
  PLANE_WAYS,
  planeBox,
  planeRectangle,
  planeShapeBetween,
  type GuideShape,
  type PlaneShape,
} from '@true-nib/core/guides';
import { distance, type Point } from '@true-nib/core/math';
import { PageError } from '@true-nib/core/gate';
import type { PenSample } from '@true-nib/core/hand';
import type { Stroke } from '@true-nib/core/stroke';
import { TEMPLATES } from '@true-nib/core/templates';
import { sayAt } from '../../look';
import { zoomOf } from '../../render';
import {
  guideInHand,
  setGuides,
  useGuides,
  newGuide,
  templateById,
  withCopies,
  setDepth,
  useDepth,
  type HeldPicture,
  frameInHand,
  type FrameGuide,
} from '../../guiding';
import { nibFor } from '../../nibs';
import { layDown, outlineStrokes } from '../../hand';
import {
  bayStrokes,
  boxStrokes,
  edgeStroke,
  gridStroke,
  marchStrokes,
  stairStrokes,
  type DepthGround,
} from './depthStrokes';
import { layPicture } from './planePicture';

/** CSS px that a hand may miss a grid line by, and that a drag must go to be none of a touch. */
const REACH = 22;
const SLOP = 6;

/** Works in the depth of a frame: sights it, lays shapes on its planes, builds boxes and stairs, marches, mirrors. */
export class DepthTool implements PageKeep {
  /** The base of a box that waits for its height. */
  private base: readonly [Point, Point] | undefined;

  private readonly stops: (() => void)[];

  constructor(private readonly board: Board) {
    // A base that waits is let go of with the tool.
    const follow = () => {
      const isOurs = this.board.desk().tool === 'depth' && useDepth.getState().deed === 'box';
      if (this.base && !isOurs) this.forgetBase();
    };
    this.stops = [useDesk.subscribe(follow), useDepth.subscribe(follow)];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
  }

  private get perCss(): number {
    return 1 / zoomOf(this.board.picture.view);
  }

  /** A press on the board while one works in depth. */
  begin(at: Point, modifiers: () => Modifiers): Gesture {
    const { deed } = useDepth.getState();
    const { session, notice } = this.board;
    if (deed === 'frame') return this.board.of(guideSlot).begin(at, modifiers);
    if (deed === 'sight') return this.beginSighting(at);
    const frame = frameInHand(session.page);
    if (!frame) return refuse(notice, 'There is no frame on this page yet: make one, or sight it.');
    switch (deed) {
      case 'shape':
        return this.beginShape(frame, at);
      case 'fold':
        return this.beginFold(frame, at);
      case 'lines':
        return this.inkOnce(frame, 'Ink a grid line', (ground, p) => {
          const line = gridStroke(ground, p, REACH * this.perCss);
          if (!line)
            throw new PageError('No line of a grid lies here. Show a grid on this plane first, and touch one.');
          return [line];
        });
      case 'march':
        return this.beginMarch(frame);
      case 'bays':
        return this.inkDrag(frame, 'Divide into bays', (ground, a, b) =>
          bayStrokes(ground, a, b, modifiers().shiftKey),
        );
      case 'stairs':
        return this.inkDrag(frame, 'Stairs', stairStrokes);
      case 'box':
        return this.beginBox(frame);
    }
  }

  /** A pointer that hovers shows how high a box would be. */
  hovers(at: Point | undefined): void {
    const { base } = this;
    if (!at) return;
    const frame = base && frameInHand(this.board.session.page);
    if (frame) this.show(this.made((ground) => boxStrokes(ground, base, at), frame).strokes);
  }

  /** Lets go of what was begun. Answers whether there was any. */
  letGo(): boolean {
    if (!this.base) return this.takeBack();
    this.forgetBase();
    return true;
  }

  /** Takes the last sighted edge back. Answers whether there was one. */
  takeBack(): boolean {
    const { deed, edges } = useDepth.getState();
    if (this.board.desk().tool !== 'depth' || deed !== 'sight' || edges.length === 0) return false;
    setDepth({ edges: edges.slice(0, -1) });
    return true;
  }

  private forgetBase(): void {
    this.base = undefined;
    this.board.picture.endLive();
  }

  private beginSighting(from: Point): Gesture {
    const { edges, sightWay: way } = useDepth.getState();
    let to = from;
    const isEdge = () => distance(from, to) > SLOP * this.perCss;
    return {
      move: (samples) => {
        to = samples.at(-1) ?? to;
        if (isEdge()) setDepth({ edges: [...edges, { way, from: plain(from), to: plain(to) }] });
      },
      end: () => {
        if (isEdge()) return;
        setDepth({ edges });
        this.board.notice('This edge has no length: drag along it.');
      },
      cancel: () => setDepth({ edges }),
    };
  }

  /** A picture that is laid on the plane, as wide as the drag goes. */
  private beginPicture(frame: FrameGuide, held: HeldPicture, from: Point): Gesture {
    const { picture, session } = this.board;
    let to = from;
    const corners = () =>
      this.tried(() =>
        planeRectangle(frame.shape, session.page.size, useDepth.getState().plane, [from, to], held.ratio),
      );
    return {
      move: (samples) => {
        to = samples.at(-1) ?? to;
        if (distance(from, to) > SLOP * this.perCss) picture.setArea(corners());
      },
      end: () => {
        picture.setArea(undefined);
        const found = corners();
        if (!found) return;
        setDepth({ picture: undefined });
        void layPicture(this.board, held, found);
      },
      cancel: () => picture.setArea(undefined),
    };
  }

  private beginShape(frame: FrameGuide, from: Point): Gesture {
    const held = useDepth.getState().picture;
    if (held) return this.beginPicture(frame, held, from);
    const { session, notice, picture } = this.board;
    const { plane } = useDepth.getState();
    let to = from;
    const rings = templateById(useGuides.getState().templateId)?.rings ?? TEMPLATES[0].rings;
    const tried = (): PlaneShape | undefined => {
      const corner = distance(from, to) < 8 * this.perCss ? undefined : to;
      return this.tried(() =>
        planeShapeBetween(frame.shape, { frame: frame.id, plane, rings }, from, corner, session.page.size),
      );
    };
    return {
      move: (samples) => {
        to = samples.at(-1) ?? to;
        const laid = tried();
        if (!laid) return;
        this.show(outlineStrokes('laying', laid, nibFor(session.page)));
        const words = proportionsOf(laid);
        setDepth({ proportions: words });
        sayAt(words, picture.inWindow(to));
      },
      end: () => {
        picture.endLive();
        const laid = tried();
        if (!laid) return notice('Drag from corner to corner on the plane.');
        this.lay(laid, 'Lay on the plane');
      },
      cancel: () => picture.endLive(),
    };
  }

  private beginFold(frame: FrameGuide, at: Point): Gesture {
    const { plane } = useDepth.getState();
    return {
      ...still,
      end: () => {
        const [first, second] = PLANE_WAYS[plane];
        const { points } = frame.shape;
        this.lay(
          { kind: 'fold', ...plain(at), frame: frame.id, plane, across: points[first], along: points[second] },
          'Mirror in depth',
        );
      },
    };
  }

  /** Lays a guide down that hangs on a frame, and takes it in hand. */
  private lay(shape: GuideShape, label: string): void {
    const { session } = this.board;
    const guide = { ...newGuide(session.page, shape), ...inPanel(this.board.of(begunSlot).panelId) };
    session.commit(label, [{ before: null, after: guide }]);
    takeTool('guide');
    setGuides({ laying: undefined, guideId: guide.id });
  }

  private beginMarch(frame: FrameGuide): Gesture {
    const { session, notice } = this.board;
    const inHand = guideInHand(session.page);
    const lines: readonly Stroke[] =
      this.board.of(selectionSlot).strokes.length > 0
        ? selectedLines(this.board)
        : inHand?.shape.kind === 'plane'
          ? outlineStrokes(inHand.id, inHand.shape, nibFor(session.page))
          : [];
    if (lines.length === 0) return refuse(notice, 'Select the lines that are to march, or take a plane shape in hand.');
    return this.inkDrag(frame, 'March', (ground, a, b) => marchStrokes(ground, lines, a, b));
  }

  private beginBox(frame: FrameGuide): Gesture {
    if (this.base) {
      const base = this.base;
      const gesture = this.inkOnce(frame, 'Box', (ground, top) => boxStrokes(ground, base, top));
      return {
        ...gesture,
        end: () => {
          this.base = undefined;
          gesture.end();
        },
      };
    }
    const course: Point[] = [];
    const isBase = () => course.length > 1 && distance(course[0], course[course.length - 1]) > SLOP * this.perCss;
    return {
      move: (samples) => {
        course.push(...samples);
        if (isBase())
          this.show(this.made((ground) => baseStrokes(ground, course[0], course[course.length - 1]), frame).strokes);
      },
      end: () => {
        if (!isBase()) return this.forgetBase();
        this.base = [plain(course[0]), plain(course[course.length - 1])];
        this.board.notice('Now pull the height: touch or drag where the upper edge is to be.');
      },
      cancel: () => this.forgetBase(),
    };
  }

  /** Inks what the last place of a drag, or a touch, makes. */
  private inkOnce(frame: FrameGuide, label: string, make: (ground: DepthGround, at: Point) => Stroke[]): Gesture {
    return this.inkDrag(frame, label, (ground, _from, to) => make(ground, to), true);
  }

  /** Inks what a drag makes, shown while it goes on. */
  private inkDrag(
    frame: FrameGuide,
    label: string,
    make: (ground: DepthGround, from: Point, to: Point) => Stroke[],
    isTouch = false,
  ): Gesture {
    const { notice, picture } = this.board;
    const target = targetInHand(this.board);
    if (typeof target === 'string') return refuse(notice, target);
    const course: PenSample[] = [];
    const made = () => this.made((ground) => make(ground, plain(course[0]), plain(course[course.length - 1])), frame);
    const isLong = () =>
      isTouch || (course.length > 1 && distance(course[0], course[course.length - 1]) > SLOP * this.perCss);
    return {
      move: (samples) => {
        course.push(...samples);
        if (isLong()) this.show(made().strokes);
      },
      end: () => {
        if (course.length === 0 || !isLong()) return picture.endLive();
        const { strokes, trouble } = made();
        this.show(strokes);
        if (strokes.length > 0) return layDown(this.board, target, label, strokes);
        picture.endLive();
        notice(trouble ?? 'Nothing of this would be in sight.');
      },
      cancel: () => picture.endLive(),
    };
  }

  private made(
    make: (ground: DepthGround) => Stroke[],
    frame: FrameGuide,
  ): { readonly strokes: Stroke[]; readonly trouble?: string } {
    const { page } = this.board.session;
    try {
      return { strokes: make({ frame, size: page.size, nib: nibFor(page) }) };
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      return { strokes: [], trouble: error.message };
    }
  }

  private show(strokes: readonly Stroke[]): void {
    const { picture, session } = this.board;
    const target = targetInHand(this.board);
    if (typeof target === 'string') return;
    picture.showThings(withCopies(session.page, target.layer.id, strokes), target.layer.id);
  }

  private tried<T>(make: () => T): T | undefined {
    try {
      return make();
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      this.board.notice(error.message);
      return undefined;
    }
  }
}

const plain = ({ x, y }: Point): Point => ({ x, y });

/** The base of a box while it is dragged. */
function baseStrokes(ground: DepthGround, from: Point, to: Point): Stroke[] {
  const corners = planeBox(ground.frame.shape, 'floor', from, to);
  if (!corners) throw new PageError('The base reaches over the horizon. Keep it on the floor.');
  return corners.map((corner, k) => edgeStroke(ground, [corner, corners[(k + 1) % 4]]));
}

/** Work in depth on the open page. */
export const depthSlot: PageSlot<DepthTool> = { open: (board) => new DepthTool(board) };
