import { find, PageError, type EntityId, type StrokeEntity } from '@true-nib/core/page';
import {
  courseBox,
  frameMap,
  frameOf,
  isUntouched,
  movedFrame,
  transformStrokes,
  type Frame,
} from '@true-nib/core/select';
import type { BoardPicture } from '../../render/boardPicture';
import type { PageSession } from '../../session/pageSession';
import { useDesk } from '../desk';

interface Ground {
  readonly picture: BoardPicture;
  readonly session: PageSession;
  readonly notice: (message: string) => void;
}

/** How newly found strokes go together with those selected already. */
export type Joining = 'instead' | 'also' | 'less';

const SEAL = '#b8402a';

/**
 * The strokes that are selected on one layer, and the frame they are transformed by. What the frame does is shown at once and
 * becomes part of the page when it is kept: by Enter, or by going on to something else.
 */
export class Selection {
  private ids: ReadonlySet<EntityId> = new Set();
  private on: EntityId | undefined;
  private held: Frame | undefined;
  private shown: readonly StrokeEntity[] = [];
  private isAside = false;
  private isVisible = true;
  private readonly listeners = new Set<() => void>();
  private readonly stop: () => void;

  constructor(private readonly ground: Ground) {
    this.stop = ground.session.onEvents({ notice: () => undefined, edited: () => this.follow() });
  }

  dispose(): void {
    this.stop();
  }

  /** Calls back whenever the selection or its frame has changed. Answers how to stop. */
  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  get size(): number {
    return this.ids.size;
  }

  get layerId(): EntityId | undefined {
    return this.on;
  }

  get frame(): Frame | undefined {
    return this.held;
  }

  get isPending(): boolean {
    return this.held !== undefined && !isUntouched(this.held);
  }

  /** The selected strokes as they are kept. */
  get strokes(): StrokeEntity[] {
    return [...this.ids].flatMap((id) => find(this.ground.session.page, 'stroke', id) ?? []);
  }

  choose(found: readonly StrokeEntity[], layerId: EntityId, joining: Joining): void {
    this.keep();
    const ids = new Set(joining === 'instead' || this.on !== layerId ? [] : this.ids);
    for (const { id } of found) {
      if (joining === 'less') ids.delete(id);
      else ids.add(id);
    }
    this.ids = ids;
    this.on = ids.size > 0 ? layerId : undefined;
    this.enclose();
  }

  clear(): void {
    this.keep();
    this.ids = new Set();
    this.on = undefined;
    this.enclose();
  }

  /** Shows the strokes under another frame, not yet part of the page. */
  setFrame(frame: Frame): void {
    this.held = frame;
    const isAway = !isUntouched(frame);
    if (isAway !== this.isAside) {
      this.isAside = isAway;
      this.ground.picture.inks.setAside(isAway ? [...this.ids] : []);
    }
    this.show();
  }

  /** Moves the selection by page px. */
  nudge(dx: number, dy: number): boolean {
    if (!this.held) return false;
    this.setFrame(movedFrame(this.held, dx, dy));
    return true;
  }

  /** Makes what the frame did part of the page. Answers false, and says why, when it cannot be. */
  keep(): boolean {
    const { held } = this;
    if (!held || isUntouched(held) || this.on === undefined) return true;
    const { session, notice } = this.ground;
    try {
      const before = this.strokes;
      const after = transformStrokes(before, frameMap(held), { scaleWidth: useDesk.getState().scaleWidth });
      this.bringBack();
      this.held = undefined;
      const edits = before.map((stroke, k) => ({ before: stroke, after: after[k] }));
      if (session.commit('Transform', edits, [this.on])) return true;
      this.enclose();
      return false;
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      notice(error.message);
      this.takeBack();
      return false;
    }
  }

  /** Undoes what the frame did since it was last kept. Answers whether there was anything. */
  takeBack(): boolean {
    if (!this.isPending) return false;
    this.bringBack();
    this.enclose();
    return true;
  }

  private bringBack(): void {
    if (!this.isAside) return;
    this.isAside = false;
    this.ground.picture.inks.setAside([]);
  }

  /** Strokes that are gone are let go; a frame goes round what the others have become. */
  private follow(): void {
    if (this.ids.size === 0) return;
    const left = this.strokes;
    if (left.length !== this.ids.size) this.ids = new Set(left.map(({ id }) => id));
    if (this.ids.size === 0) this.on = undefined;
    if (!this.isPending || this.ids.size === 0) {
      this.bringBack();
      this.enclose();
    }
  }

  /** Shows the frame, or only lets the selection be, while another tool is in hand. */
  setVisible(isVisible: boolean): void {
    if (this.isVisible === isVisible) return;
    this.isVisible = isVisible;
    if (!isVisible) this.keep();
    this.show();
  }

  private enclose(): void {
    const { index } = this.ground.picture.inks;
    const strokes = this.strokes;
    this.shown = strokes.map((stroke) => index.shown(stroke));
    this.held = strokes.length > 0 ? frameOf(courseBox(strokes.map(({ spine }) => spine))) : undefined;
    this.show();
  }

  private show(): void {
    const { picture, session } = this.ground;
    const layer = this.on === undefined ? undefined : find(session.page, 'layer', this.on);
    const { held, shown } = this;
    const { scaleWidth } = useDesk.getState();
    picture.setSelection(
      held && this.isVisible ? { strokes: shown, frame: held, color: layer?.mark ?? SEAL, scaleWidth } : undefined,
    );
    this.listeners.forEach((listener) => listener());
  }
}
