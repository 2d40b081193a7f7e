import type { AreaEntity } from '@true-nib/core/area';
import { panelLayers } from '@true-nib/core/comic';
import type { Spine } from '@true-nib/core/curve';
import { colourOf } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { distance, type Matrix, type Point } from '@true-nib/core/math';
import { nodesOf, ofKind, ordersBetween, stackOf, type Edit } from '@true-nib/core/page';
import type { Leak } from '@true-nib/core/regions';
import { colouring } from '@true-nib/core/tools';
import {
  begunSlot,
  inPanel,
  asSeen,
  isInHand,
  nodeInHand,
  refuse,
  type Board,
  type Desk,
  type Gesture,
  type PageKeep,
  type PageSlot,
} from '../../board';
import { nibFor } from '../../nibs';
import { changesBounds, ringed, zoomOf, type RegionSettings, type ShownRegion, type Sketch } from '../../render';
import { newId } from '../../session';
import { useBlacks, type Recolours } from './blackStore';
import { flatAt, flatsLayer, flatsOf, isFlats } from './flatsLayer';
import { NOTHING_KNOWN, useRegions } from './pourStore';

/** ms after an edit until the page is looked at again. */
const REST_MS = 600;
/** CSS px between places of a drag. */
const STEP = 6;

/** Quiet colours for the flats of a page. */
const QUIET = ['#d9c7a8', '#a9bcc4', '#c9a7a0', '#b3c2a2', '#bcaec6', '#d8b98a', '#9fb5ac', '#c4b7b0'] as const;

/** What a tool shows that hovers: a region as it lies in the view, or places where it leaks. */
interface Seen {
  readonly shown?: ShownRegion;
  readonly view?: Matrix;
  readonly leaks: readonly Leak[];
}

/** Fills the regions between lines. The page is looked at in the worker as soon as the tool is in hand. */
export class PourHand implements PageKeep {
  private readonly stops: readonly (() => void)[];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isHeld = false;
  private asking = false;
  private hover: Point | undefined;
  private seen: Seen | undefined;
  /** A region that leaks, as it was said: the next touch there means it. */
  private said: Point | undefined;

  constructor(private readonly board: Board) {
    this.stops = [
      board.session.onEdits((_page, edits) => this.isHeld && edits.some(changesBounds) && this.lookSoon()),
      useBlacks.subscribe((now, before) => {
        if (this.isHeld && now.boundedBy !== before.boundedBy) this.lookSoon();
      }),
    ];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    clearTimeout(this.timer);
  }

  follow(desk: Desk, before: Desk | undefined): void {
    const isHeld = isInHand(desk, 'pour') || isInHand(desk, 'leaks');
    if (isHeld === this.isHeld && desk.layerId === before?.layerId) return;
    this.isHeld = isHeld;
    if (isHeld) void this.look();
    else this.clear();
  }

  letGo(): boolean {
    const had = this.said !== undefined;
    this.clear();
    return had;
  }

  hovers(at: Point | undefined): void {
    if (!this.isHeld || !isInHand(this.board.desk(), 'pour')) return;
    this.hover = at;
    if (!at) return this.clear();
    void this.ask();
  }

  begin(at: Point): Gesture {
    const { board } = this;
    const settings = this.settings();
    if (typeof settings === 'string') return refuse(board.notice, settings);
    const places: Point[] = [];
    const step = STEP / zoomOf(board.picture.view);
    const add = (place: Point) => {
      const last = places.at(-1);
      if (!last || distance(last, place) >= step) places.push({ x: place.x, y: place.y });
    };
    add(at);
    this.hover = at;
    void this.ask();
    return {
      move: (samples) => samples.forEach(add),
      end: () => board.session.waitFor(this.pour(places, settings)),
      cancel: () => this.clear(),
    };
  }

  /** What bounds regions now; why nothing can, in a sentence. */
  settings(): RegionSettings | string {
    const { board } = this;
    const { boundedBy, gap, under } = useBlacks.getState();
    const { chosenLayers } = board.desk();
    const inks = nodesOf(stackOf(board.session.page))
      .map((node) => asSeen(board.session.page, node))
      .filter(({ layer, isHidden }) => layer.medium === 'ink' && !isHidden && !isFlats(layer))
      .map(({ layer }) => layer.id);
    const isBound = (id: EntityId) =>
      boundedBy === 'inks' ||
      id === nodeInHand(board)?.layer.id ||
      (boundedBy === 'chosen' && chosenLayers.includes(id));
    const borders = panelLayers(board.session.page);
    const layerIds = inks.filter((id) => isBound(id) || borders.has(id));
    if (layerIds.length === 0) return 'No Ink layer that is seen bounds a region: show one, or choose All Ink.';
    return {
      layerIds,
      gap,
      under,
      said: ofKind(board.session.page, 'stop').map(({ as, from, to }) => ({ as, from, to })),
    };
  }

  /** Looks at the page, so that every answer after that is quick. Answers whether it is known. */
  async look(): Promise<boolean> {
    const settings = this.settings();
    if (typeof settings === 'string') {
      useRegions.setState({ ...NOTHING_KNOWN, reason: settings });
      return false;
    }
    useRegions.setState({ status: 'working', share: 0, reason: undefined });
    const isKnown = await this.board.picture.inks.beside.knowRegions(settings, (share) =>
      useRegions.setState({ share }),
    );
    if (isKnown) useRegions.setState({ status: 'ready', share: 1 });
    return isKnown;
  }

  /** What the region at a place goes round, whether it leaks or not; nothing where there is none. */
  async outlineAt(at: Point): Promise<readonly Spine[] | undefined> {
    const settings = this.settings();
    if (typeof settings === 'string' || !(await this.look())) return undefined;
    const found = await this.board.picture.inks.beside.service.pour([at], settings, true);
    return 'leaks' in found ? undefined : found[0]?.rings;
  }

  private lookSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.look(), REST_MS);
  }

  /** Asks for the region under the hover, one at a time: the newest place counts. */
  private async ask(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    try {
      for (let at = this.hover; at;) {
        const settings = this.settings();
        if (typeof settings === 'string' || useRegions.getState().status !== 'ready') return;
        const { picture } = this.board;
        const { canvas, map } = viewOf(picture);
        const shown = await picture.inks.beside.service.showRegion({ x: at.x, y: at.y }, map, canvas, settings);
        if (!this.isHeld || !this.hover) return;
        this.show(shown && { shown, view: map, leaks: shown.closed });
        if (this.hover === at) return;
        at = this.hover;
      }
    } finally {
      this.asking = false;
    }
  }

  private async pour(places: readonly Point[], settings: RegionSettings): Promise<void> {
    const { board } = this;
    const { recolours } = useBlacks.getState();
    if (recolours !== 'region' && this.recolour(places, recolours)) return this.clear();
    const { session, notice, picture } = board;
    if (!(await this.look())) return;
    const { service } = picture.inks.beside;
    const isMeant = this.said !== undefined && distance(this.said, places[0]) < (STEP / zoomOf(picture.view)) * 4;
    const found = await service.pour(places, settings, isMeant);
    if ('leaks' in found) {
      this.said = places[0];
      this.show({ leaks: found.leaks });
      const [{ width }] = found.leaks;
      return notice(
        found.leaks.length === 1
          ? `It leaks here, through ${width.toFixed(0)} px. Close it, raise the gap, or touch once more to pour all the same.`
          : `It leaks at ${found.leaks.length} places. Close them, raise the gap, or touch once more to pour all the same.`,
      );
    }
    this.said = undefined;
    this.clear();
    if (found.length === 0) return notice('There is no region here: touch between the lines.');
    const target = flatsLayer(session.page);
    if (typeof target === 'string') return notice(target);
    const { color } = nibFor(session.page);
    const fill = { as: 'colour', color } as const;
    // Regions that were one when they were poured: the flat goes to the first of them.
    const all = found.map(({ at }) => flatAt(board, target.layer.id, at));
    const known = all.map((flat, k) => (all.indexOf(flat) === k ? flat : undefined));
    const orders = ordersBetween(picture.inks.index.topOrder(target.layer.id), undefined, found.length);
    const edits = found.map(({ rings, at }, k): Edit => {
      const before = known[k];
      const poured = { ...at, by: 'hand' } as const;
      if (before) return { before, after: { ...before, rings, fill, poured } };
      const after: AreaEntity = {
        kind: 'area',
        id: newId(),
        layerId: target.layer.id,
        order: orders[k],
        ...inPanel(board.of(begunSlot).panelAt(at)),
        rings,
        fill,
        poured,
      };
      return { before: null, after };
    });
    session.commit(edits.length === 1 ? 'Pour' : `Pour ${edits.length} regions`, [...target.edits, ...edits]);
  }

  /** Gives all flats of the colours at some places, or of their layer, the colour in hand. Answers whether there is a flat. */
  private recolour(places: readonly Point[], which: Exclude<Recolours, 'region'>): boolean {
    const { board } = this;
    const { session, notice } = board;
    const target = flatsLayer(session.page);
    if (typeof target === 'string') return false;
    const touched = places.flatMap((at) => flatAt(board, target.layer.id, at) ?? []);
    if (touched.length === 0) return false;
    const colours = new Set(touched.map(colourOf));
    const flats = flatsOf(session.page, target.layer.id);
    const meant = which === 'layer' ? flats : flats.filter((flat) => colours.has(colourOf(flat)));
    const edits = colouring(meant, nibFor(session.page).color);
    if (edits.length === 0) notice('They have the colour in hand already.');
    else session.commit(edits.length === 1 ? 'Recolour a flat' : `Recolour ${edits.length} flats`, edits);
    return true;
  }

  /** Every region at once: what was poured by hand stays, and regions that are still there keep their colours. */
  async flatPage(): Promise<void> {
    const { board } = this;
    const { session, notice, picture } = board;
    const settings = this.settings();
    if (typeof settings === 'string') return notice(settings);
    if (!(await this.look())) return;
    const target = flatsLayer(session.page);
    if (typeof target === 'string') return notice(target);
    const { page } = session;
    const { least, oneColour } = useBlacks.getState();
    const flats = flatsOf(page, target.layer.id);
    const [byHand, byPage] = [true, false].map((isHand) =>
      flats.filter(({ poured }) => (poured?.by === 'hand') === isHand),
    );
    const places = (areas: readonly AreaEntity[]) => areas.flatMap(({ poured }) => poured ?? []);
    useRegions.setState({ status: 'working', share: 0 });
    const answer = await picture.inks.beside.flats({ ...settings, least }, places(byHand), places(byPage), (share) =>
      useRegions.setState({ share }),
    );
    useRegions.setState({ status: 'ready', share: 1 });
    if (!answer) return;
    if (session.page !== page) return notice('The page changed meanwhile: nothing was done. Try once more.');
    const gone = new Set(byPage);
    const orders = ordersBetween(picture.inks.index.topOrder(target.layer.id), undefined, answer.flats.length);
    const inHand = nibFor(page).color;
    const edits = answer.flats.map(({ rings, at, colour, was }, k): Edit => {
      const before = was === undefined ? undefined : byPage[was];
      const poured = { ...at, by: 'page' } as const;
      if (before) {
        gone.delete(before);
        return { before, after: { ...before, rings, poured } };
      }
      const fill = { as: 'colour', color: oneColour ? inHand : QUIET[colour % QUIET.length] } as const;
      const place = { layerId: target.layer.id, ...inPanel(board.of(begunSlot).panelAt(at)) };
      return {
        before: null,
        after: { kind: 'area', id: newId(), ...place, order: orders[k], rings, fill, poured },
      };
    });
    const left: Edit[] = [...gone].map((before) => ({ before, after: null }));
    if (edits.length + left.length === 0) return notice('Every region is poured already.');
    session.commit(byPage.length > 0 ? 'Flat the page again' : 'Flat the page', [...target.edits, ...edits, ...left]);
    notice(`${answer.flats.length} flats lie under the inks, on ${target.layer.name}.`);
  }

  private clear(): void {
    this.hover = undefined;
    this.show(undefined);
  }

  private show(seen: Seen | undefined): void {
    if (!seen && !this.seen) return;
    this.seen?.shown?.mask.close();
    this.seen = seen;
    this.board.picture.setSketch(seen && regionSketch(seen));
  }
}

/** The view in CSS px: a region is shown at its coarseness. */
function viewOf({ view }: Board['picture']): {
  readonly canvas: { readonly width: number; readonly height: number };
  readonly map: Matrix;
} {
  return { canvas: { width: Math.ceil(window.innerWidth), height: Math.ceil(window.innerHeight) }, map: view };
}

/** A region in the colour of what is active, and the openings that were closed round it, or that it leaks through. */
const regionSketch =
  ({ shown, view, leaks }: Seen): Sketch =>
  (context, map, ratio, colours) => {
    if (shown && view) {
      const sheet = new OffscreenCanvas(shown.mask.width, shown.mask.height);
      const on = sheet.getContext('2d');
      on?.drawImage(shown.mask, 0, 0);
      if (on) {
        on.globalCompositeOperation = 'source-in';
        on.fillStyle = colours.seal;
        on.fillRect(0, 0, sheet.width, sheet.height);
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      context.globalAlpha = 0.32;
      context.drawImage(sheet, 0, 0);
      context.globalAlpha = 1;
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    for (const leak of leaks) ringed(context, { map, ratio }, leak, 8 * ratio, leak.ends);
  };

export const pourSlot: PageSlot<PourHand> = { open: (board) => new PourHand(board) };
