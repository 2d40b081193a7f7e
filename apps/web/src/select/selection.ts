import { guidesAlong, withInside } from '@true-nib/core/comic';
import { holdOfAll, isDrawn, mapped, type DrawnEntity } from '@true-nib/core/drawn';
import type { Point, Matrix3x3 } from '@true-nib/core/math';
import { byOrder, find, isKind, type Page } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { frameMap, frameOf, isUntouched, movedFrame, type Frame, type Joining } from '@true-nib/core/select';
import { breath, inParts, InTurn, Listeners } from '../base';
import type { AreaQuery, SelectedArea, TakenPixels } from '../render';
import { type Board, type PageSlot } from '../board';
import { PART, type Mapping } from './mapping';
import { useSelectChoice } from './selectChoice';
import { washingSlot, type Washing } from '../wash';

const SEAL = '#b8402a';

/**
 * What is selected on one layer, strokes or pixels, and the frame it is transformed by. What the frame does is shown at once and
 * becomes part of the page when it is kept: by Enter, or by going on to something else.
 */
export class Selection {
  private ids: ReadonlySet<EntityId> = new Set();
  private on: EntityId | undefined;
  private held: Frame | undefined;
  private shown: readonly DrawnEntity[] = [];
  /** What `entities` has answered last: panels ask again and again for thousands. */
  private looked:
    { readonly page: Page; readonly ids: ReadonlySet<EntityId>; readonly entities: readonly DrawnEntity[] } | undefined;
  private lines: { readonly of: readonly DrawnEntity[]; readonly strokes: readonly StrokeEntity[] } | undefined;
  /** Selected pixels, in place of strokes; `taken` while they are off their layer. */
  private area: SelectedArea | undefined;
  private taken: TakenPixels | undefined;
  private keeping: Promise<unknown> | undefined;
  /** Strokes that are being kept in parts. */
  private mapping: Mapping | undefined;
  /** Counts searches for pixels: one that comes too late is told by it. */
  private searches = 0;
  /** Searches for lines that are under way. */
  readonly searching = new InTurn();
  private lastTouch: Point | undefined;
  private telling = 0;
  private isAside = false;
  private isVisible = true;
  private isGone = false;
  private readonly listeners = new Listeners<[]>();
  private readonly stop: () => void;

  constructor(private readonly ground: Board) {
    // After thousands of edits a breath is due first.
    this.stop = ground.session.onEdits((_page, edits) =>
      edits.length > PART ? void breath().then(() => this.catchUp()) : this.catchUp(),
    );
  }

  dispose(): void {
    cancelAnimationFrame(this.telling);
    this.stop();
    this.searching.anew();
    this.isGone = true;
  }

  private get washing(): Washing {
    return this.ground.of(washingSlot);
  }

  /** Calls back whenever the selection or its frame has changed. Answers how to stop. */
  onChange(listener: () => void): () => void {
    return this.listeners.add(listener);
  }

  /** How much is selected: things that were drawn, or pixels. */
  get size(): number {
    return this.area?.count ?? this.ids.size;
  }

  get isPixels(): boolean {
    return this.area !== undefined;
  }

  get layerId(): EntityId | undefined {
    return this.on;
  }

  get frame(): Frame | undefined {
    return this.held;
  }

  /** Where pixels were touched last, page px. */
  get touched(): Point | undefined {
    return this.lastTouch;
  }

  get isPending(): boolean {
    return this.held !== undefined && !this.keeping && !isUntouched(this.held);
  }

  /** What is selected, but for pixels, as it is kept, in no order. */
  get entities(): readonly DrawnEntity[] {
    const { page } = this.ground.session;
    const { ids } = this;
    if (this.looked?.page !== page || this.looked.ids !== ids) {
      const entities = [...ids].flatMap((id) => page.entities.get(id) ?? []).filter(isDrawn);
      this.looked = { page, ids, entities };
    }
    return this.looked.entities;
  }

  /** The same with what goes along: all that lies in panels that are selected. */
  private get carried(): readonly DrawnEntity[] {
    return withInside(this.ground.session.page, this.entities);
  }

  /** The same, lowest first: what is made of it keeps what lies over what. */
  get lowestFirst(): readonly DrawnEntity[] {
    return [...this.entities].sort(byOrder);
  }

  /** The selected lines as they are kept, in no order. */
  get strokes(): readonly StrokeEntity[] {
    const { entities } = this;
    if (this.lines?.of !== entities)
      this.lines = { of: entities, strokes: entities.filter((entity) => isKind(entity, 'stroke')) };
    return this.lines.strokes;
  }

  choose(found: readonly DrawnEntity[], layerId: EntityId, joining: Joining): void {
    this.keep();
    const ids = new Set(joining === 'instead' || this.on !== layerId ? [] : this.ids);
    for (const { id } of found) {
      if (joining === 'less') ids.delete(id);
      else ids.add(id);
    }
    this.letPixelsGo();
    this.ids = ids;
    if (joining !== 'less' && ids.size === found.length)
      this.looked = { page: this.ground.session.page, ids, entities: found };
    this.on = ids.size > 0 ? layerId : undefined;
    this.enclose();
  }

  /** Selects pixels of a wash layer, as soon as the worker has found them. */
  async chooseArea(layerId: EntityId, query: AreaQuery, joining: Joining): Promise<void> {
    this.keep();
    if (query.by === 'touch') this.lastTouch = query.at;
    this.searching.anew();
    const { picture } = this.ground;
    const searched = ++this.searches;
    await this.washing.settled();
    const area = await picture.inks.wash.select(layerId, query, this.on === layerId ? joining : 'instead');
    this.showFound(area, layerId, searched);
  }

  /** Selects what a deed has just laid down. */
  async followArea(layerId: EntityId): Promise<void> {
    const searched = ++this.searches;
    const area = await this.ground.picture.inks.wash.selected();
    this.showFound(area, layerId, searched);
  }

  /** Shows what a search has found, unless a later one has begun. Answers whether it does. */
  private showFound(area: SelectedArea | undefined, layerId: EntityId, searched: number): boolean {
    if (searched !== this.searches) {
      area?.shape.close();
      return false;
    }
    this.area?.shape.close();
    this.area = area;
    this.ids = new Set();
    this.on = area ? layerId : undefined;
    this.enclose();
    return true;
  }

  private letPixelsGo(): void {
    this.searches++;
    if (!this.area || this.keeping) return;
    this.area.shape.close();
    this.area = undefined;
    void this.washing.settled().then(() => {
      if (!this.area) this.ground.picture.inks.wash.selectNothing();
    });
  }

  clear(): void {
    this.searching.anew();
    this.keep();
    this.letPixelsGo();
    this.ids = new Set();
    this.on = undefined;
    this.enclose();
  }

  /** Shows the strokes under another frame, not yet part of the page. */
  setFrame(frame: Frame): void {
    if (this.keeping) return;
    this.held = frame;
    const isAway = !isUntouched(frame);
    if (isAway !== this.isAside) {
      this.isAside = isAway;
      if (this.area) this.liftPixels(isAway);
      else this.ground.picture.inks.setAside(isAway ? this.carried.map(({ id }) => id) : []);
    }
    this.show();
  }

  private liftPixels(isAway: boolean): void {
    const { wash } = this.ground.picture.inks;
    const { area, on } = this;
    if (!area || on === undefined) return;
    if (!isAway) {
      wash.putBack(area.box);
      this.taken = undefined;
      return;
    }
    void wash.lift(on, area.box).then((taken) => {
      if (this.area !== area || !this.isAside) return wash.putBack(area.box);
      this.taken = taken;
      this.show();
    });
  }

  /** Moves the selection by page px. */
  moveBy(dx: number, dy: number): void {
    if (this.held) this.setFrame(movedFrame(this.held, dx, dy));
  }

  /**
   * Makes what the frame did part of the page, `atOnce` for whoever goes on with it; thousands of strokes take a moment
   * otherwise. Answers false, and says why, when it cannot be.
   */
  keep(atOnce = false): boolean {
    const { held } = this;
    if (atOnce && this.mapping) return this.finishMapping(this.mapping);
    if (!held || isUntouched(held) || this.on === undefined) return true;
    try {
      if (this.area) return this.keepPixels(frameMap(held), this.on);
      const before = this.carried;
      const map = frameMap(held);
      const mapping = { before, map, layerId: this.on, scaleWidth: useSelectChoice.getState().scaleWidth };
      if (before.length > PART && !atOnce) return this.keepMany(mapping);
      return this.lay(mapping, mapped(before, map, mapping));
    } catch (error) {
      return this.refuse(error);
    }
  }

  private refuse(error: unknown): false {
    if (!(error instanceof PageError)) throw error;
    this.ground.notice(error.message);
    this.takeBack();
    return false;
  }

  /** Puts transformed strokes in the place of the ones before. */
  private lay({ before, map }: Mapping, after: readonly DrawnEntity[]): boolean {
    this.bringBack();
    this.held = undefined;
    const { session } = this.ground;
    const edits = before.map((entity, k) => ({ before: entity, after: after[k] }));
    if (session.commit('Transform', [...edits, ...guidesAlong(session.page, before, map)])) return true;
    this.enclose();
    return false;
  }

  /** Thousands of strokes are transformed in parts: until then they are shown where they were moved to. */
  private keepMany(mapping: Mapping): boolean {
    if (this.keeping) return true;
    const inTurn = inParts(mapping.before, PART, (some) => mapped(some, mapping.map, mapping));
    const keeping = inTurn.then(
      async (after) => {
        await breath();
        if (this.mapping === mapping) this.endMapping(mapping, after);
      },
      (error: unknown) => {
        if (this.mapping !== mapping) return;
        this.mapping = this.keeping = undefined;
        this.refuse(error);
      },
    );
    this.mapping = mapping;
    this.keeping = keeping;
    this.ground.session.waitFor(keeping);
    this.tell();
    return true;
  }

  /** Does at once what is left of keeping strokes in parts. */
  private finishMapping(mapping: Mapping): boolean {
    try {
      return this.endMapping(mapping, mapped(mapping.before, mapping.map, mapping));
    } catch (error) {
      this.mapping = this.keeping = undefined;
      return this.refuse(error);
    }
  }

  private endMapping(mapping: Mapping, after: readonly DrawnEntity[]): boolean {
    this.mapping = this.keeping = undefined;
    const isKept = this.lay(mapping, after);
    // Nothing may be selected any more: then nobody else takes the frame away.
    if (this.ids.size === 0) this.enclose();
    return isKept;
  }

  /** Pixels take the worker a moment: until then they are shown where they were moved to. */
  private keepPixels(map: Matrix3x3, layerId: EntityId): boolean {
    if (this.keeping) return true;
    const { picture } = this.ground;
    const { area } = this;
    const searched = this.searches;
    this.keeping = this.washing.do('Transform', layerId, { deed: 'move', map, targetId: layerId }).then(async () => {
      const found = await picture.inks.wash.selected();
      this.keeping = undefined;
      this.isAside = false;
      this.taken = undefined;
      if (area) picture.inks.wash.putBack(area.box);
      if (this.showFound(found, layerId, searched)) return;
      // Something else was selected meanwhile, or nothing.
      if (this.area === area) this.letPixelsGo();
      this.enclose();
    });
    // Undo waits until the pixels that were lifted lie on their layer again, or it would bring back a hole.
    this.ground.session.waitFor(this.keeping);
    this.tell();
    return true;
  }

  /** Undoes what the frame did since it was last kept. Answers whether there was anything. */
  takeBack(): boolean {
    if (!this.isPending) return false;
    this.bringBack();
    this.enclose();
    return true;
  }

  private bringBack(): void {
    if (!this.isAside || this.keeping) return;
    this.isAside = false;
    if (this.area) return this.liftPixels(false);
    this.ground.picture.inks.setAside([]);
  }

  /** Strokes that are gone are let go; a frame goes round what the others have become. */
  private catchUp(): void {
    if (this.isGone) return;
    if (this.area && this.on !== undefined && !find(this.ground.session.page, 'layer', this.on)) return this.clear();
    if (this.ids.size === 0) return;
    const left = this.entities;
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
    if (this.keeping) return;
    const { entities } = this;
    this.shown = this.carried.map((entity) => index.shown(entity));
    if (this.area) this.held = frameOf(this.area.box);
    else this.held = entities.length > 0 ? frameOf(holdOfAll(entities)) : undefined;
    this.show();
  }

  private show(): void {
    const { picture, session } = this.ground;
    const layer = this.on === undefined ? undefined : find(session.page, 'layer', this.on);
    const { held, shown, area, taken } = this;
    const { scaleWidth } = useSelectChoice.getState();
    const pixels = area && { box: area.box, shape: area.shape, taken };
    picture.setSelection(
      held && (this.isVisible || this.keeping)
        ? { entities: shown, pixels, frame: held, color: layer?.mark ?? SEAL, scaleWidth }
        : undefined,
    );
    this.tell();
  }

  /** The panels hear of it with the next frame, all at once: they are no part of what the hand waits for. */
  private tell(): void {
    cancelAnimationFrame(this.telling);
    this.telling = requestAnimationFrame(() => this.listeners.tell());
  }
}

/** What is selected on the open page. */
export const selectionSlot: PageSlot<Selection> = { open: (board) => new Selection(board) };
