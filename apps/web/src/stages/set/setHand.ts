import { distance, dot, minus, scaled, sum, turnedBy, type Point, type Vector } from '@true-nib/core/math';
import type { PenSample } from '@true-nib/core/hand';
import { find } from '@true-nib/core/page';
import { blocksOf, layBlock } from '@true-nib/core/staging';
import {
  ahead,
  alongLine,
  meetsPlane,
  placeMap,
  placedOn,
  rowOf,
  scaleAt,
  SHAPES,
  sizeOf,
  sizedBySide,
  snapAlong,
  turnedBlock,
  type BlockEntity,
  type BlockPlace,
  type BlockShape,
  type CameraEntity,
  type Eye,
  type Side,
  type SnappedTo,
} from '@true-nib/core/set';
import {
  isInHand,
  refuse,
  still,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
  type Press,
} from '../../board';
import { sayAt } from '../../look';
import { zoomOf } from '../../render';
import { newId } from '../../session';
import { beginCamera } from './cameraHand';
import { changeChosen, chooseBlocks, needSet } from './deeds';
import { cameraInHand, chosenOn } from './inHand';
import { gripsOf, setSketch } from './setPicture';
import { setSets, useSets } from './setStore';
import { SET_TOOLS, SetView } from './setView';

/** CSS px that a hand may miss a grip by, under which a drag was a touch, and within which blocks snap. */
const REACH = 18;
const SLOP = 5;
const SNAP = 10;
/** m that a block is wide at least where its base is dragged, and that places are rounded to where it snaps. */
const LEAST = 0.05;
const GRAIN = 0.05;

const SNAPPED: Readonly<Record<SnappedTo, string>> = {
  side: 'Flush',
  middle: 'On the middle',
  equal: 'Equally far',
};

const X: Vector = [1, 0, 0];
const Y: Vector = [0, 1, 0];
const UP: Vector = [0, 0, 1];
const FLOOR: Vector = [0, 0, 0];

/** Builds sets by hand, and turns the cameras that look at them. */
export class SetHand implements PageKeep {
  readonly view: SetView;
  private isHeld = false;
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.view = new SetView(board);
    const soon = () => void requestAnimationFrame(() => this.show());
    // Whatever is chosen may be another camera.
    const shown = () => {
      this.view.show();
      soon();
    };
    this.stops = [board.session.onEdits(soon), useSets.subscribe(shown)];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.view.dispose();
  }

  follow(desk: Desk): void {
    const wasHeld = this.isHeld;
    this.isHeld = SET_TOOLS.some((tool) => isInHand(desk, tool));
    this.view.show();
    if (this.isHeld) this.show();
    else if (wasHeld) {
      setSets({ chosen: [], laying: undefined, made: undefined });
      this.board.picture.setSketch(undefined);
    }
  }

  letGo(): boolean {
    const { chosen, laying, made } = useSets.getState();
    const had = this.isHeld && (chosen.length > 0 || laying !== undefined || made !== undefined);
    if (had) setSets(laying || made ? { laying: undefined, made: undefined } : { chosen: [] });
    return had;
  }

  nudge(dx: number, dy: number): boolean {
    const { page } = this.board.session;
    const camera = cameraInHand(page);
    if (!this.isHeld || !camera || chosenOn(page).length === 0) return false;
    const { axes } = camera.look;
    // Along the axis of the floor that runs most to the right, and the other one for up and down.
    const isAcross = Math.abs(axes.right[0]) >= Math.abs(axes.left[0]);
    const [across, away]: readonly Vector[] = isAcross ? [X, Y] : [Y, X];
    const sign = Math.sign(isAcross ? axes.right[0] : axes.left[0]) || 1;
    const into = Math.sign(isAcross ? axes.left[2] : axes.right[2]) || 1;
    const by = sum(scaled(across, sign * dx * GRAIN), scaled(away, -into * dy * GRAIN));
    return changeChosen(this.board, 'Move blocks', (block) => ({ ...block, at: sum(block.at, by) }));
  }

  beginCamera(press: Press): Gesture | undefined {
    return beginCamera(this.board, this.view, press);
  }

  begin({ at, modifiers }: Press): Gesture | undefined {
    const { laying, made } = useSets.getState();
    const shape = made ?? (laying && SHAPES[laying].fresh);
    if (shape) return this.beginLaying(shape, at);
    const { page } = this.board.session;
    const camera = cameraInHand(page);
    if (!camera) return refuse(this.board.notice, 'Choose a block, then touch where it is to stand.');
    const chosen = chosenOn(page);
    const [block] = chosen;
    if (chosen.length === 1 && !block.locked) {
      const reach = REACH / zoomOf(this.board.picture.view);
      const grip = gripsOf(block, camera).find(({ seen }) => distance(seen, at) < reach);
      if (grip?.part === 'side') return this.beginSide(camera, block, grip.side, at);
      if (grip?.part === 'knob') return this.beginTurn(camera, block, at);
    }
    const touched = this.view.touching(camera).at(at);
    if (!touched) {
      if (chosen.length > 0) setSets({ chosen: [] });
      return undefined;
    }
    if (modifiers().shiftKey) {
      const ids = chosen.map(({ id }) => id);
      chooseBlocks(
        page,
        ids.includes(touched.block) ? ids.filter((id) => id !== touched.block) : [...ids, touched.block],
      );
      return still;
    }
    if (!chosen.some(({ id }) => id === touched.block)) chooseBlocks(page, [touched.block]);
    return this.beginMove(camera, touched.at, at);
  }

  // Laying.

  /** A touch lays a block as it comes, a drag lays it as large as its base. */
  private beginLaying(shape: BlockShape, from: Point): Gesture {
    const { board } = this;
    const ids = needSet(board);
    const camera = ids && find(board.session.page, 'camera', ids.cameraId);
    if (!camera) return still;
    const touched = this.view.touching(camera).at(from);
    const normal = touched?.normal ?? UP;
    const start = touched?.at ?? meetsPlane(camera, from, FLOOR, UP);
    if (!start) return refuse(board.notice, 'Touch the floor below the horizon, or a block.');
    const id = newId();
    let made: { readonly shape: BlockShape; readonly place: BlockPlace } = {
      shape,
      place: placedOn(grained(start), normal),
    };
    let isDragged = false;
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to || (!isDragged && distance(from, to) < SLOP / zoomOf(board.picture.view))) return;
        const end = meetsPlane(camera, to, start, normal);
        if (!end) return;
        isDragged = true;
        made = dragged(shape, grained(start), grained(end), normal);
        this.view.hold({ blocks: [asBlock(camera.setId, id, made.shape, made.place)] });
      },
      end: () => {
        this.view.hold({});
        if (board.session.attempt((page) => layBlock(page, camera.setId, id, made.shape, made.place)))
          setSets({ chosen: [id], laying: undefined, made: undefined });
      },
      cancel: () => this.view.hold({}),
    };
  }

  // Blocks that stand.

  private beginSide(camera: CameraEntity, block: BlockEntity, side: Side, from: Point): Gesture {
    return this.drag(from, 'Size the block', (to) => {
      const by = alongLine(camera, side.at, side.out, from, to);
      const pulled = sizedBySide(block, side, by);
      const snap = this.snap(camera, pulled, side.out, 'far');
      const isAlong = snap && sizedBySide(block, side, by + snap.by);
      return {
        blocks: [isAlong || sizedBySide(block, side, roundedBy(block, side, by))],
        said: snap && SNAPPED[snap.to],
      };
    });
  }

  private beginTurn(camera: CameraEntity, block: BlockEntity, from: Point): Gesture {
    const up = turnedBy(placeMap(block), UP);
    const angle = (at: Point): number | undefined => {
      const place = meetsPlane(camera, at, block.at, up);
      if (!place) return undefined;
      const [x, y] = [turnedBy(placeMap(block), X), turnedBy(placeMap(block), Y)];
      const off = minus(place, block.at);
      return Math.atan2(dot(off, y), dot(off, x));
    };
    const start = angle(from);
    return this.drag(from, 'Turn the block', (to) => {
      const now = angle(to);
      if (start === undefined || now === undefined) return { blocks: [block] };
      const degrees = ((now - start) * 180) / Math.PI;
      const turned = useSets.getState().snaps ? Math.round(degrees / 5) * 5 : degrees;
      return { blocks: [turnedBlock(block, (turned * Math.PI) / 180)], said: `${Math.round(turned)}°` };
    });
  }

  private beginMove(camera: CameraEntity, grasped: Vector, from: Point): Gesture {
    const blocks = chosenOn(this.board.session.page).filter(({ locked }) => !locked);
    const [first] = blocks;
    if (!first) return still;
    const map = placeMap(first);
    const up = turnedBy(map, UP);
    const start = meetsPlane(camera, from, grasped, up);
    return this.drag(from, blocks.length === 1 ? 'Move the block' : 'Move blocks', (to) => {
      const end = meetsPlane(camera, to, grasped, up);
      if (!start || !end) return { blocks };
      let by = minus(end, start);
      let said: string | undefined;
      for (const way of [map.axes[0], map.axes[1]]) {
        const moved = { ...first, at: sum(first.at, by) };
        const snap = this.snap(camera, moved, way, 'both');
        const step = snap ? snap.by : useSets.getState().snaps ? toGrain(dot(moved.at, way)) : 0;
        if (snap) said = SNAPPED[snap.to];
        by = sum(by, scaled(way, step));
      }
      return { blocks: blocks.map((block) => ({ ...block, at: sum(block.at, by) })), said };
    });
  }

  private snap(camera: CameraEntity, block: BlockEntity, way: Vector, sides: 'both' | 'far') {
    if (!useSets.getState().snaps) return undefined;
    const { page } = this.board.session;
    const { chosen } = useSets.getState();
    const others = blocksOf(page, block.setId).filter(
      ({ id, hidden }) => !hidden && id !== block.id && !chosen.includes(id),
    );
    const reach = (SNAP / zoomOf(this.board.picture.view)) * scaleAt(camera, block.at);
    return snapAlong(block, others, way, reach, sides);
  }

  private drag(
    from: Point,
    label: string,
    make: (to: PenSample) => { readonly blocks: readonly BlockEntity[]; readonly said?: string | undefined },
  ): Gesture {
    const { board } = this;
    let blocks: readonly BlockEntity[] = [];
    let isDragged = false;
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to || (!isDragged && distance(from, to) < SLOP / zoomOf(board.picture.view))) return;
        isDragged = true;
        const made = make(to);
        blocks = made.blocks;
        if (made.said) sayAt(made.said, board.picture.inWindow(to));
        this.view.hold({ blocks });
        this.show(blocks);
      },
      end: () => {
        this.view.hold({});
        if (!isDragged) return this.show();
        const edits = blocks.flatMap((after) => {
          const before = find(board.session.page, 'block', after.id);
          return before ? [{ before, after }] : [];
        });
        board.session.commit(label, edits);
      },
      cancel: () => {
        this.view.hold({});
        this.show();
      },
    };
  }

  private show(held?: readonly BlockEntity[]): void {
    if (!this.isHeld) return;
    const { picture, session } = this.board;
    const camera = cameraInHand(session.page);
    const chosen = held ?? chosenOn(session.page);
    // Boxes and grips are for whoever builds; a camera is turned without them.
    if (!camera || this.board.desk().tool !== 'blocks') return picture.setSketch(undefined);
    const eye = this.view.eyeOf(camera);
    picture.setSketch(setSketch(chosen, eye, floorBefore(eye)));
  }
}

const toGrain = (value: number): number => Math.round(value / GRAIN) * GRAIN - value;

const grained = (place: Vector): Vector =>
  useSets.getState().snaps ? [place[0] + toGrain(place[0]), place[1] + toGrain(place[1]), place[2]] : place;

/** A length dragged by, so that the side comes to a round one. */
function roundedBy(block: BlockEntity, { axis }: Side, by: number): number {
  if (!useSets.getState().snaps) return by;
  const size = sizeOf(block.shape)[axis];
  return by + toGrain(size + by);
}

const asBlock = (setId: string, id: string, shape: BlockShape, place: BlockPlace): BlockEntity => ({
  ...{ kind: 'block', id, setId, order: 'a0', name: '', shape, ...place },
  ...{ hidden: false, locked: false, lines: 'all' },
});

/** A place on the floor that a camera looks at, for the grid: not farther than where metres can be told apart. */
function floorBefore(camera: Eye): Vector {
  const [x, y, z] = ahead(camera);
  const level = Math.hypot(x, y) || 1;
  const away = z < -0.05 ? Math.min(14, (-camera.eye[2] * level) / z) : 14;
  return [camera.eye[0] + (x / level) * away, camera.eye[1] + (y / level) * away, 0];
}

/** Shapes that go from end to end of a drag, as thick as they come. */
const ALONG: ReadonlySet<string> = new Set(['wall', 'fence']);

/** A shape with the base of a drag over a plane. */
function dragged(
  shape: BlockShape,
  from: Vector,
  to: Vector,
  normal: Vector,
): { readonly shape: BlockShape; readonly place: BlockPlace } {
  const place = placedOn(scaled(sum(from, to), 0.5), normal);
  const { axes } = placeMap(place);
  const way = minus(to, from);
  const [x, y] = [dot(way, axes[0]), dot(way, axes[1])];
  const [, depth, height] = sizeOf(shape);
  const row = rowOf(shape.kind);
  if (!ALONG.has(shape.kind)) {
    const size = [Math.max(LEAST, Math.abs(x)), Math.max(LEAST, Math.abs(y)), height] as const;
    return { shape: row.sized(shape, size), place };
  }
  const angle = useSets.getState().snaps ? Math.round(Math.atan2(y, x) / STEP) * STEP : Math.atan2(y, x);
  const long = Math.max(4 * LEAST, Math.hypot(x, y));
  const { turn } = turnedBlock(asBlock('', '', shape, place), angle);
  return { shape: row.sized(shape, [long, depth, height]), place: { at: place.at, turn } };
}

/** Walls go at multiples of 15°. */
const STEP = Math.PI / 12;

export const setSlot: PageSlot<SetHand> = { open: (board) => new SetHand(board) };
