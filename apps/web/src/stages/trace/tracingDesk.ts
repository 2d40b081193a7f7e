import type { AreaEntity } from '@true-nib/core/area';
import { sameValue } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { apply, ringPoints, scaleOf, then, type Matrix, type Point } from '@true-nib/core/math';
import {
  byOrder,
  find,
  ofKind,
  type LayerEntity,
  type Said,
  type TracedPixels,
  type TraceRecord,
} from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { layTrace, layTraceAnew, letTraceGo, withSaid, type Place, type Traced } from '@true-nib/core/trace';
import { proxy } from 'comlink';
import { underBorders, useDesk, takeTool, type Board, type PageKeep, type PageSlot } from '../../board';
import { Hired, inThousands } from '../../base';
import { keptInWords } from '../../hand';
import { nibFor } from '../../nibs';
import { newId } from '../../session';
import { bytesOf, isThere, onSource, settingsFor, sourceInHand, washTiles, type Source } from './source';
import { NOTHING_TRACED, setTrace, useTrace, useTraceChoice } from './traceStore';
import type { Amount, Asked, TraceService } from './trace.worker';

/** What is known of the layer that is being put right. */
interface Known {
  readonly layerId: string;
  readonly record: TraceRecord;
  readonly traced: Traced;
}

const STOPPED = 'Stopped. The page is as it was.';

/** Traces scans in a worker of its own, lays the lines down, and puts places right. */
export class TracingDesk implements PageKeep {
  private worker: Hired<TraceService> | undefined;
  /** What the worker has open, or is about to. */
  private open: { readonly pixels: TracedPixels; readonly amount: Promise<Amount> } | undefined;
  private known: Known | undefined;
  private stopper: AbortController | undefined;
  /** What was looked at last and could not be found: once is enough. */
  private looked = '';
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    this.stops = [board.session.onEdits(() => void this.follows())];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.stopper?.abort();
    this.worker?.end();
    useTrace.setState(NOTHING_TRACED);
  }

  /** Stops what is under way. Answers whether anything was. */
  stop(): boolean {
    const isBusy = this.stopper !== undefined;
    this.stopper?.abort();
    void this.worker?.service.stop();
    return isBusy;
  }

  /** Traces what is in hand, as it is set, and lays it down on a layer of its own; or anew, where it is there and not let go. */
  async trace(): Promise<void> {
    const { board } = this;
    const { session, notice } = board;
    const source = sourceInHand(board);
    if (!source) return notice('There is nothing to trace yet: bring in a scan, or take a Wash layer in hand.');
    const choice = useTraceChoice.getState();
    const { loop, panelId } = useTrace.getState();
    if (choice.where !== 'page' && !loop)
      return notice(
        choice.where === 'loop' ? 'Draw a loop round what is to be traced.' : 'Touch the panel that is to be traced.',
      );
    const within = choice.where === 'page' ? undefined : loop;
    const takes = choice.takes === 'both' ? (['outlines', 'lines'] as const) : ([choice.takes] as const);
    for (const one of takes) {
      const old = this.tracedFrom(source, one, within);
      const record: TraceRecord = {
        ...{ from: source.id, pixels: source.pixels, name: old?.traced?.name ?? newId(), map: source.map, takes: one },
        settings: settingsFor(session.page, choice, scaleOf(source.map)),
        said: old?.traced?.said ?? [],
        ...(within && { within: Float64Array.from(within.flatMap(({ x, y }) => [x, y])) }),
        ...(choice.where === 'panel' && panelId !== undefined && { panelId }),
      };
      if (!(await this.traceAs(source.name, record, old))) return;
    }
  }

  /** What a setting comes to in the view, painted by the worker; nothing while there is nothing to trace. */
  async preview(
    view: { readonly map: Matrix; readonly width: number; readonly height: number },
    color: string,
    most?: number,
  ) {
    const source = sourceInHand(this.board);
    if (!source || this.stopper) return undefined;
    const worker = await this.opened(source);
    const choice = useTraceChoice.getState();
    const { loop } = useTrace.getState();
    const asked: Asked = {
      takes: choice.takes === 'outlines' ? 'outlines' : 'lines',
      settings: settingsFor(this.board.session.page, choice, scaleOf(source.map)),
      said: [],
      ...(choice.where !== 'page' && loop && { within: onSource(source.map, loop) }),
    };
    const map = then(source.map, view.map);
    return worker.ask((service) =>
      service.preview(asked, map, { width: view.width, height: view.height }, color, most),
    );
  }

  /** Looks again at the layer that was traced last and not let go: after a reload its places are found anew. */
  async look(): Promise<void> {
    const { page } = this.board.session;
    const layer = this.layerInHand();
    if (!layer?.traced) return;
    if (this.known?.layerId === layer.id && sameValue(this.known.record, layer.traced)) return this.show(this.known);
    const word = `${layer.id} ${JSON.stringify(layer.traced.said)} ${JSON.stringify(layer.traced.settings)}`;
    if (this.stopper || this.looked === word) return;
    this.looked = word;
    const record = layer.traced;
    if (!isThere(page, record)) return this.board.notice(changedInWords(layer));
    const traced = await this.traced(record);
    if (!traced) return;
    this.looked = '';
    this.show({ layerId: layer.id, record, traced });
  }

  /** Says of a place how it is to be traced: its lines are laid down anew. Answers whether that was done. */
  async say(word: Said, label: string): Promise<boolean> {
    const { board, known } = this;
    const layer = known && find(board.session.page, 'layer', known.layerId);
    if (!known || !layer || this.stopper) return false;
    if (!isThere(board.session.page, known.record)) {
      board.notice(changedInWords(layer));
      return false;
    }
    const record = { ...known.record, said: withSaid(known.record.said, word, REACH) };
    const after = await this.traced(record, word.as !== 'black' && word.as !== 'line');
    if (!after) return false;
    return this.lay(label, layer, { record, before: known.traced, after });
  }

  /** Lets the layer go: it is ink like any other from then on. */
  letGoOf(): void {
    const layer = this.layerInHand();
    if (!layer?.traced) return this.board.notice('There is no tracing to let go of.');
    this.board.session.commit('Let the tracing be ink', letTraceGo(layer));
    this.known = undefined;
    setTrace({
      places: [],
      inHand: undefined,
      layerId: undefined,
      compared: undefined,
      isComparing: false,
      between: undefined,
    });
    useDesk.setState({ layerId: layer.id });
  }

  /** Holds the lines as they lie there now against the picture. */
  async compare(hues: readonly [string, string]) {
    const layer = this.layerInHand();
    const { page } = this.board.session;
    if (!layer?.traced || !isThere(page, layer.traced)) return undefined;
    const worker = await this.opened(layer.traced);
    const { map, within } = layer.traced;
    const things = [...ofKind(page, 'area'), ...ofKind(page, 'stroke')].filter(({ layerId }) => layerId === layer.id);
    const bare = things.map(bareOf);
    const loop = within && onSource(map, ringPoints(within));
    return worker.ask((service) => service.compare(bare, map, loop, hues));
  }

  /** The traced layer that is put right: the one in hand, or the highest that was not let go. */
  layerInHand(): LayerEntity | undefined {
    const { page } = this.board.session;
    const { layerId } = useDesk.getState();
    const traced = ofKind(page, 'layer').filter((layer) => layer.traced?.takes === 'lines');
    return traced.find(({ id }) => id === layerId) ?? traced.sort(byOrder).at(-1);
  }

  /** A layer that was traced from the same, within the same, and not let go. */
  private tracedFrom(
    source: Source,
    takes: TraceRecord['takes'],
    within: readonly Point[] | undefined,
  ): LayerEntity | undefined {
    const words = (points: readonly Point[] | undefined) =>
      JSON.stringify(points?.map(({ x, y }) => [Math.round(x), Math.round(y)]));
    const { page } = this.board.session;
    return ofKind(page, 'layer').find(({ traced }) => {
      if (traced?.from !== source.id || traced.takes !== takes || !isThere(page, traced)) return false;
      return words(within) === words(traced.within && ringPoints(traced.within));
    });
  }

  private async traceAs(name: string, record: TraceRecord, old: LayerEntity | undefined): Promise<boolean> {
    const { session, notice } = this.board;
    // What was traced before is needed to tell what was worked on since.
    const before = old?.traced ? await this.before(old, old.traced) : undefined;
    if (old && !before) return false;
    const after = await this.traced(record);
    if (!after) return false;
    const count = after.lines.length + after.blacks.length;
    if (count === 0) {
      notice('No line was found. Bring the darkness down, or let smaller marks count.');
      return false;
    }
    if (old && before) return this.lay('Trace anew', old, { record, before, after });
    const layerId = newId();
    const { color } = nibFor(session.page);
    const { edits } = layTrace(session.page, record, after, { layerId, color, order: underBorders(session.page) });
    if (!session.commit(`Trace ${name}`, edits)) return false;
    useDesk.setState({ layerId });
    if (record.takes === 'lines') {
      this.show({ layerId, record, traced: after });
      takeTool('put-right');
    }
    notice(inWords(after));
    return true;
  }

  private async before(layer: LayerEntity, record: TraceRecord): Promise<Traced | undefined> {
    if (this.known?.layerId === layer.id && sameValue(this.known.record, record)) return this.known.traced;
    return this.traced(record);
  }

  private lay(
    label: string,
    layer: LayerEntity,
    anew: { readonly record: TraceRecord; readonly before: Traced; readonly after: Traced },
  ): boolean {
    const { session, notice } = this.board;
    const now = find(session.page, 'layer', layer.id);
    if (!now) return false;
    try {
      const { edits, kept } = layTraceAnew(session.page, now, anew);
      this.known = { layerId: layer.id, record: anew.record, traced: anew.after };
      if (!session.commit(label, edits)) {
        this.known = { layerId: layer.id, record: now.traced ?? anew.record, traced: anew.before };
        return false;
      }
      if (anew.record.takes === 'lines') this.show(this.known);
      if (kept > 0) notice(keptInWords(kept));
      return true;
    } catch (error) {
      notice(error instanceof Error ? error.message : 'The lines could not be laid down.');
      return false;
    }
  }

  /** Undo, redo and other tabs change what was said: the places are found as they are then. */
  private async follows(): Promise<void> {
    const { known } = this;
    if (!known) return;
    const layer = find(this.board.session.page, 'layer', known.layerId);
    if (!layer?.traced) {
      this.known = undefined;
      setTrace({ places: [], inHand: undefined, layerId: undefined, compared: undefined, isComparing: false });
      return;
    }
    if (!sameValue(layer.traced, known.record)) await this.look();
  }

  private show(known: Known): void {
    this.known = known;
    const { map } = known.record;
    const scale = scaleOf(map);
    const places = known.traced.places.map((place): Place => ({
      ...place,
      ...apply(map, place),
      radius: place.radius * scale,
    }));
    const { inHand, places: old } = useTrace.getState();
    const held = inHand === undefined ? undefined : old[inHand];
    // The place in hand stays in hand where it still is.
    const next =
      held &&
      places.findIndex(
        (place) => place.kind === held.kind && Math.hypot(place.x - held.x, place.y - held.y) < 6 * scale,
      );
    setTrace({ places, layerId: known.layerId, inHand: next === undefined || next < 0 ? undefined : next });
  }

  /** Traces in the worker, with progress; nothing where it was stopped or failed, which is said. */
  private async traced(record: TraceRecord, isQuick = false): Promise<Traced | undefined> {
    const { notice } = this.board;
    if (this.stopper) return undefined;
    const { signal } = (this.stopper = new AbortController());
    if (!isQuick) setTrace({ share: 0 });
    try {
      const worker = await this.opened(record);
      const { takes, settings, said, within } = record;
      const asked: Asked = {
        takes,
        settings,
        said,
        ...(within && { within: onSource(record.map, ringPoints(within)) }),
      };
      const tell = proxy((share: number) => !signal.aborted && setTrace({ share }));
      const traced = signal.aborted ? undefined : await worker.ask((service) => service.trace(asked, tell));
      if (!traced || signal.aborted) notice(STOPPED);
      return signal.aborted ? undefined : traced;
    } catch (error) {
      notice(error instanceof Error ? error.message : 'The picture could not be traced.');
      return undefined;
    } finally {
      this.stopper = undefined;
      setTrace({ share: undefined });
    }
  }

  /** The worker, with the pixels of a source or a record open in it. Throws an Error with a sentence for some without ink. */
  private async opened({ pixels, ...of }: Pick<TraceRecord, 'pixels' | 'from'> | Source): Promise<Hired<TraceService>> {
    const worker = (this.worker ??= new Hired<TraceService>(new Worker(new URL('./trace.worker.ts', import.meta.url))));
    if (!this.open || !sameValue(this.open.pixels, pixels)) {
      const amount =
        pixels.as === 'picture'
          ? this.openPicture(worker, pixels)
          : this.openWash(worker, 'from' in of ? of.from : of.id);
      const open = (this.open = { pixels, amount });
      // What could not be opened is tried again.
      amount.catch(() => this.open === open && (this.open = undefined));
    }
    const { hasInk, isAllInk } = await this.open.amount;
    if (!hasInk) throw new Error('There is no ink in it: the picture is blank.');
    if (isAllInk) throw new Error('It is dark all over. Turn "Even light" on, or bring in a lighter picture.');
    return worker;
  }

  private async openWash(worker: Hired<TraceService>, layerId: EntityId): Promise<Amount> {
    const tiles = await washTiles(this.board, layerId);
    const { size } = this.board.session.page;
    return worker.ask((service) => service.openTiles(size, tiles));
  }

  private async openPicture(
    worker: Hired<TraceService>,
    { blob, width, height, scan }: Extract<TracedPixels, { as: 'picture' }>,
  ): Promise<Amount> {
    const source = await bytesOf(this.board, blob);
    return worker.ask((service) => service.open(source, { width, height, ...(scan && { scan }) }));
  }
}

/** Why places of a tracing cannot be put right. */
const changedInWords = ({ name }: LayerEntity): string =>
  `The pixels that ${name} was traced from have changed since. Its lines are safe; trace again to put places right.`;

/** Px of the picture within which a word about a place takes the place of an older one. */
const REACH = 4;

/** As much of a thing as a worker needs to paint it. */
const bareOf = (thing: StrokeEntity | AreaEntity): StrokeEntity | AreaEntity => {
  if (thing.kind === 'area') return thing;
  const { kind, id, layerId, order, spine, nib, ends } = thing;
  return { kind, id, layerId, order, spine, nib, ends };
};

/** What was traced, and how much of it is in doubt. */
function inWords({ lines, blacks, places }: Traced): string {
  const many = (count: number, one: string) => (count === 1 ? `1 ${one}` : `${inThousands(count)} ${one}s`);
  const unsure = places.filter(({ isUnsure }) => isUnsure).length;
  const what = [
    lines.length > 0 && many(lines.length, 'line'),
    blacks.length > 0 && many(blacks.length, 'area'),
  ].filter(Boolean);
  const doubt =
    unsure === 0
      ? ''
      : unsure > 200
        ? ` ${many(unsure, 'place')} are in doubt: dense hatching is best drawn anew.`
        : ` ${many(unsure, 'place')} ${unsure === 1 ? 'is' : 'are'} in doubt.`;
  return `${what.join(' and ')} traced.${doubt}`;
}

export const tracingSlot: PageSlot<TracingDesk> = { open: (board) => new TracingDesk(board) };
