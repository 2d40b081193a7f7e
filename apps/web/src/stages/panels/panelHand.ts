import {
  bendBorder,
  cutPanel,
  joinPanels,
  moveBorder,
  moveCorner,
  movePanels,
  panelEdits,
  panelsOn,
  plainBorder,
  sideEnds,
  sidesAlong,
  snapBorder,
  snapPlace,
  stretchRoom,
  shapedRing,
  type PanelSide,
  type SnappedTo,
} from '@true-nib/core/comic';
import { nearestOnSpine, nodeAt, nodeCount, pointAt, segmentCount } from '@true-nib/core/curve';
import { framesOf } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, distance, projectiveOf, translation, type Point } from '@true-nib/core/math';
import { find, mergeEdits, sheetOf, type Edit, type Page } from '@true-nib/core/page';
import type { PanelEntity } from '@true-nib/core/panel';
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
import { zoomOf } from '../../render';
import { newId } from '../../session';
import { addPanel, borderOptions, chosenOn, gutterOn, reasonOf, snappingOn, touchInOrder } from './deeds';
import { panelSketch } from './panelPicture';
import { setPanels, usePanels } from './panelStore';

/** CSS px that a hand may miss a border or a corner by, and under which a drag was a touch. */
const REACH = 14;
const SLOP = 4;
/** CSS px within which a border snaps. */
const SNAP = 7;

const SNAPPED: Readonly<Record<SnappedTo, string>> = {
  margin: 'On the margin',
  trim: 'On the trim',
  border: 'In line with a border',
  gutter: 'A gutter apart',
  'same size': 'As wide as another panel',
};

/** What a hand took hold of. */
type Grip =
  | { readonly part: 'corner'; readonly panel: PanelEntity; readonly node: number }
  | { readonly part: 'middle'; readonly panel: PanelEntity; readonly side: number }
  | { readonly part: 'border'; readonly panel: PanelEntity; readonly side: number }
  | { readonly part: 'inside'; readonly panel: PanelEntity };

/** The tools for panels, by their ids. */
export const PANEL_TOOLS = ['panel', 'cut-panel', 'join-panels', 'read-panels', 'stretch-room'] as const;

/** Lays panels out by hand: drags frames, borders and corners, cuts, joins, and says in which order they are read. */
export class PanelHand implements PageKeep {
  private isHeld = false;
  private readonly stops: readonly (() => void)[];
  /** The line of a cut, or the frame that is being dragged, page px. */
  private band: readonly Point[] | undefined;
  private said: string | undefined;
  /** The panel that is to be joined with the one touched next. */
  private first: EntityId | undefined;

  constructor(private readonly board: Board) {
    // The picture takes edits over in the same breath.
    const soon = () => void requestAnimationFrame(() => this.show());
    this.stops = [board.session.onEdits(soon), usePanels.subscribe(soon)];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
  }

  follow(desk: Desk): void {
    const wasHeld = this.isHeld;
    this.isHeld = PANEL_TOOLS.some((tool) => isInHand(desk, tool));
    this.first = undefined;
    if (this.isHeld) this.show();
    else if (wasHeld) {
      setPanels({ chosen: [], touched: [] });
      this.board.picture.setSketch(undefined);
    }
  }

  letGo(): boolean {
    const { chosen, touched } = usePanels.getState();
    const had = this.isHeld && (chosen.length + touched.length > 0 || this.first !== undefined);
    this.first = undefined;
    if (had) setPanels({ chosen: [], touched: [] });
    return had;
  }

  nudge(dx: number, dy: number): boolean {
    const { session } = this.board;
    const ids = chosenOn(session.page).map(({ id }) => id);
    if (!this.isHeld || ids.length === 0) return false;
    const alone = !usePanels.getState().takesInk;
    const edits = movePanels(session.page, ids, projectiveOf(translation(dx, dy)), { scaleWidth: false, alone });
    return session.commit('Move the panel', edits);
  }

  // Panels: frames are dragged, moved, pulled and bent.

  beginPanel({ at, modifiers }: Press): Gesture {
    const { page } = this.board.session;
    const grip = this.gripAt(page, at);
    if (!grip) return this.drawFrame(page, at);
    const { chosen } = usePanels.getState();
    if (modifiers().shiftKey && grip.part === 'inside') {
      setPanels({
        chosen: chosen.includes(grip.panel.id)
          ? chosen.filter((id) => id !== grip.panel.id)
          : [...chosen, grip.panel.id],
      });
      return still;
    }
    const isChosen = chosen.includes(grip.panel.id);
    if (grip.part === 'inside' && !isChosen) return this.drawFrame(page, at, grip.panel.id);
    if (!isChosen) setPanels({ chosen: [grip.panel.id] });
    return this.drag(at, (to) => this.dragged(page, grip, at, to), LABELS[grip.part]);
  }

  /** What dragging a grip does to the page. Throws a PageError where that cannot be. */
  private dragged(page: Page, grip: Grip, from: Point, to: Point): readonly Edit[] {
    const { panel } = grip;
    const panels = panelsOn(page);
    const options = borderOptions(page);
    const snapping = snappingOn(page, SNAP / zoomOf(this.board.picture.view));
    this.said = undefined;
    switch (grip.part) {
      case 'inside': {
        const ids = usePanels.getState().chosen;
        const move = projectiveOf(translation(to.x - from.x, to.y - from.y));
        return movePanels(page, ids, move, { scaleWidth: false, alone: !usePanels.getState().takesInk });
      }
      case 'corner': {
        const place = snapPlace(to, snapping, panel.id);
        this.said = place.to && SNAPPED[place.to];
        return panelEdits(page, moveCorner(panels, panel.id, grip.node, place, options));
      }
      case 'middle':
        return panelEdits(page, bendBorder(panels, { panelId: panel.id, side: grip.side }, to, options));
      case 'border': {
        const start: PanelSide = { panelId: panel.id, side: grip.side };
        const [a, b] = sideEnds(panel.ring, grip.side);
        const [dx, dy] = [b.x - a.x, b.y - a.y];
        const length = Math.hypot(dx, dy);
        const by = ((to.x - from.x) * dy - (to.y - from.y) * dx) / length;
        const along = options.alone ? [start] : sidesAlong(panels, start, options.widest);
        const snap = snapBorder(start, by, snapping, along);
        this.said = snap && SNAPPED[snap.to];
        return panelEdits(page, moveBorder(panels, start, snap?.by ?? by, options));
      }
    }
  }

  /** A drag over the page draws a frame; a touch chooses the panel that lies there, if any does. */
  private drawFrame(page: Page, at: Point, over?: EntityId): Gesture {
    const snapping = snappingOn(page, SNAP / zoomOf(this.board.picture.view));
    const from = snapPlace(at, snapping);
    const slop = SLOP / zoomOf(this.board.picture.view);
    let to: Point | undefined;
    return {
      move: (samples) => {
        const last = samples.at(-1);
        if (!last || (!to && distance(at, last) < slop)) return;
        const place = snapPlace(last, snapping);
        to = place;
        this.said = place.to && SNAPPED[place.to];
        this.band = [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }, from];
        this.show();
      },
      end: () => {
        this.clearBand();
        if (!to) return setPanels({ chosen: over === undefined ? [] : [over] });
        const box = boxOfPoints([from, to]);
        const border = panelsOn(page).at(-1)?.border ?? plainBorder(page.size.ppi);
        addPanel(this.board, {
          ring: shapedRing('box', box),
          border,
          ...(over !== undefined && { gutter: gutterOn(page) }),
        });
      },
      cancel: () => this.clearBand(),
    };
  }

  private drag(from: Point, edit: (to: Point) => readonly Edit[], label: string): Gesture {
    const { picture, session, notice } = this.board;
    const slop = SLOP / zoomOf(picture.view);
    let edits: readonly Edit[] = [];
    let failure: string | undefined;
    let isDragged = false;
    return {
      move: (samples) => {
        const to = samples.at(-1);
        if (!to || (!isDragged && distance(from, to) < slop)) return;
        isDragged = true;
        try {
          const next = edit(to);
          picture.letBe(edits, next);
          edits = next;
          failure = undefined;
        } catch (error) {
          failure = reasonOf(error);
        }
        this.show();
      },
      end: () => {
        this.said = undefined;
        this.band = undefined;
        if (failure !== undefined) notice(failure);
        if (edits.length > 0 && !session.commit(label, mergeEdits(edits))) picture.letBe(edits);
        this.show();
      },
      cancel: () => {
        this.said = undefined;
        this.band = undefined;
        picture.letBe(edits);
        this.show();
      },
    };
  }

  private gripAt(page: Page, at: Point): Grip | undefined {
    const reach = REACH / zoomOf(this.board.picture.view);
    const panels = panelsOn(page).reverse();
    const chosen = panels.filter(({ id }) => usePanels.getState().chosen.includes(id));
    for (const panel of chosen) {
      for (let node = 0; node < nodeCount(panel.ring); node++)
        if (distance(nodeAt(panel.ring, node), at) < reach) return { part: 'corner', panel, node };
      for (let side = 0; side < segmentCount(panel.ring); side++)
        if (distance(pointAt(panel.ring, { segment: side, t: 0.5 }), at) < reach)
          return { part: 'middle', panel, side };
    }
    for (const panel of [...chosen, ...panels]) {
      const near = nearestOnSpine(panel.ring, at);
      if (distance(near, at) < reach) return { part: 'border', panel, side: near.segment };
    }
    const inside = framesOf(page).panelAt(at);
    return inside && { part: 'inside', panel: inside };
  }

  // Cutting.

  beginCut({ at }: Press): Gesture {
    const { board } = this;
    const { page } = board.session;
    let to: Point | undefined;
    return {
      move: (samples) => {
        to = samples.at(-1) ?? to;
        if (!to) return;
        this.band = [at, upright(at, to)];
        this.show();
      },
      end: () => {
        const [from, end] = this.band ?? [];
        this.clearBand();
        if (!from || !end || distance(from, end) < SLOP / zoomOf(board.picture.view))
          return board.notice('Drag across a panel to cut it in two.');
        const frames = framesOf(page);
        const middle = { x: (from.x + end.x) / 2, y: (from.y + end.y) / 2 };
        const panel = frames.panelAt(middle) ?? frames.panelAt(from) ?? frames.panelAt(end);
        if (!panel) return board.notice('There is no panel here to cut.');
        const cut = { from, to: end, gutter: gutterOn(page), reading: sheetOf(page).reads };
        board.session.attempt((now) => cutPanel(now, panel.id, cut, newId));
      },
      cancel: () => this.clearBand(),
    };
  }

  // The room between panels of a scroll.

  beginStretch({ at }: Press): Gesture {
    const { page } = this.board.session;
    return this.drag(
      at,
      (to) => {
        this.band = [
          { x: 0, y: to.y },
          { x: page.size.width, y: to.y },
        ];
        return stretchRoom(page, at.y, to.y - at.y);
      },
      'Stretch the room',
    );
  }

  // Joining, and the order of reading: by touches.

  beginJoin({ at }: Press): Gesture {
    const { board, first } = this;
    const panel = framesOf(board.session.page).panelAt(at);
    if (!panel) return refuse(board.notice, 'There is no panel here.');
    if (first === undefined || first === panel.id || !find(board.session.page, 'panel', first)) {
      this.first = first === panel.id ? undefined : panel.id;
      setPanels({ chosen: this.first === undefined ? [] : [panel.id] });
      if (this.first !== undefined) board.notice('Now touch the panel beside it.');
      return still;
    }
    this.first = undefined;
    board.session.attempt((page) => joinPanels(page, [first, panel.id]));
    setPanels({ chosen: [] });
    return still;
  }

  beginReading({ at }: Press): Gesture {
    const { board } = this;
    const panel = framesOf(board.session.page).panelAt(at);
    if (!panel) return refuse(board.notice, 'There is no panel here.');
    touchInOrder(board, panel.id);
    return still;
  }

  private clearBand(): void {
    this.band = undefined;
    this.said = undefined;
    this.show();
  }

  private show(): void {
    if (!this.isHeld) return;
    const { picture } = this.board;
    const { chosen } = usePanels.getState();
    picture.setSketch(panelSketch(picture.shownPage, { chosen, band: this.band, said: this.said }));
  }
}

const LABELS: Readonly<Record<Grip['part'], string>> = {
  inside: 'Move the panel',
  corner: 'Move a corner',
  middle: 'Bend a border',
  border: 'Move a border',
};

/** A cut that goes nearly along or down is taken for one that does. */
function upright(from: Point, to: Point): Point {
  const [dx, dy] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)];
  if (dy < dx * NEARLY) return { x: to.x, y: from.y };
  return dx < dy * NEARLY ? { x: from.x, y: to.y } : to;
}

/** The tangent of five degrees. */
const NEARLY = 0.0875;

export const panelSlot: PageSlot<PanelHand> = { open: (board) => new PanelHand(board) };
