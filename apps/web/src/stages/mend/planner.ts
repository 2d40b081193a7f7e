import { selectionSlot } from '../../select';
import { distance, type Point } from '@true-nib/core/math';
import { lineNamed, withoutEdges, type MendDeed, type MendMark } from '@true-nib/core/mend';
import type { Edit } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { create } from 'zustand';
import { breath } from '../../base';
import { zoomOf } from '../../render';
import { useDesk, still, type Gesture, type Board } from '../../board';
import { marksSketch } from './mendSketch';
import { inPagePx, setMend, useMend, type MendDesk } from './mendStore';
import { FINGER, reachedLayers } from '../../hand';

/** Changed lines up to which they are shown before they are kept. */
const MOST_SHOWN = 600;

export type PlannedTool = 'tidy' | 'ease' | 'bridge' | 'pool';

/** What a deed over many lines would do, as it stands. */
export interface Plan {
  readonly status: 'idle' | 'working' | 'ready';
  /** The share that is worked out, 0..1. */
  readonly share: number;
  readonly count: number;
  readonly marks: readonly MendMark[];
  readonly nodes: readonly [before: number, after: number];
  /** Why nothing can be done, in a sentence. */
  readonly reason: string | undefined;
}

const IDLE: Plan = { status: 'idle', share: 0, count: 0, marks: [], nodes: [0, 0], reason: undefined };

export const usePlan = create<Plan>()(() => IDLE);

const set = (plan: Partial<Plan>): void => usePlan.setState(plan);

/**
 * Works out what a tool would do to many lines beside the main thread, shows it, and does it at one touch. What is touched
 * on the page meanwhile is left alone, or not any more.
 */
export class Planner {
  private tool: PlannedTool | undefined;
  private asked = 0;
  private shown: readonly Edit[] = [];
  private readonly stops: readonly (() => void)[];

  constructor(private readonly board: Board) {
    const stopSettings = useMend.subscribe((now, before) => {
      if (this.tool && now !== before) void this.work();
    });
    const stopSession = board.session.onEdits(() => {
      if (!this.tool) return;
      // Before the picture takes the edit over: what is only shown is no part of it.
      this.hide();
      void this.work();
    });
    this.stops = [stopSettings, stopSession, board.of(selectionSlot).onChange(() => this.tool && void this.work())];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.take(undefined);
  }

  /** Takes a tool in hand, or none: then nothing is shown any more. */
  take(tool: PlannedTool | undefined): void {
    if (tool === this.tool) return;
    this.tool = tool;
    this.asked++;
    this.board.picture.inks.beside.stopMending();
    this.hide();
    if (useMend.getState().exceptions.length > 0) setMend({ exceptions: [] });
    usePlan.setState(IDLE);
    if (tool) void this.work();
  }

  /** A touch on a mark makes it an exception, or one no more. */
  begin(at: Point): Gesture {
    const reach = FINGER / zoomOf(this.board.picture.view);
    const [mark] = usePlan
      .getState()
      .marks.filter((one) => distance(one, at) <= reach)
      .sort((a, b) => distance(a, at) - distance(b, at));
    if (!mark) return still;
    return {
      ...still,
      end: () => {
        const { exceptions } = useMend.getState();
        setMend({
          exceptions: mark.isException ? exceptions.filter((key) => key !== mark.key) : [...exceptions, mark.key],
        });
      },
    };
  }

  /** Does what is shown: one change. */
  async apply(): Promise<void> {
    const { session, picture, notice } = this.board;
    const { tool } = this;
    const { status, count } = usePlan.getState();
    if (!tool || status !== 'ready' || count === 0) return;
    const { page } = session;
    const edits = await this.fetch(count);
    await breath();
    if (session.page !== page || this.tool !== tool)
      return notice('The page changed meanwhile: nothing was done. Try once more.');
    this.hide();
    if (session.commit(LABELS[tool](count), edits)) picture.setSketch(undefined);
  }

  private async work(): Promise<void> {
    const { board, tool } = this;
    if (!tool) return;
    const own = ++this.asked;
    // What is asked for in one go is worked out once.
    await breath();
    if (own !== this.asked) return;
    const request = this.request(tool);
    this.hide();
    if (typeof request === 'string') return usePlan.setState({ ...IDLE, reason: request });
    set({ status: 'working', share: 0, reason: undefined });
    const answer = await board.picture.inks.beside.mend(request, (share) => {
      if (own === this.asked) set({ share });
    });
    if (!answer || own !== this.asked) return;
    const { page } = board.session;
    const edits = isShownFirst(tool) && answer.count <= MOST_SHOWN ? await this.fetch(answer.count) : [];
    if (own !== this.asked || board.session.page !== page) return;
    this.show(edits, answer.marks);
    set({ status: 'ready', share: 1, ...answer });
  }

  private request(tool: PlannedTool) {
    const { board } = this;
    const { scope, ...settings } = useMend.getState();
    const reached = reachedLayers(board.session.page, scope === 'page' ? 'inks' : 'layer');
    if (typeof reached === 'string') return reached;
    const met = reachedLayers(board.session.page, 'inks');
    const { strokes } = board.of(selectionSlot);
    if (scope === 'selection' && strokes.length === 0) return 'Nothing is selected. Select lines, or mend the layer.';
    const ids: EntityId[] | undefined = scope === 'selection' ? strokes.map(({ id }) => id) : undefined;
    return {
      deed: deedOf(tool, settings, board.session.page.size.ppi),
      changing: reached.changing,
      // What lies on the page stops and crosses lines, whichever of them are changed.
      met: typeof met === 'string' ? reached.met : met.met,
      ...(ids && { ids }),
    };
  }

  private async fetch(count: number): Promise<Edit[]> {
    const { session, picture } = this.board;
    const found = await picture.inks.beside.mended(count);
    const edits = found.flatMap(({ before, after }): Edit[] => {
      // What the page has stands for its copy in the worker.
      const kept = before && lineNamed(session.page, before.id);
      return !before || kept ? [{ before: kept ?? null, after }] : [];
    });
    return withoutEdges(session.page, edits);
  }

  private show(edits: readonly Edit[], marks: readonly MendMark[]): void {
    const { picture } = this.board;
    this.shown = edits;
    if (edits.length > 0) picture.preview(edits);
    picture.setSketch(marks.length > 0 ? marksSketch(marks) : undefined);
  }

  private hide(): void {
    const { picture } = this.board;
    picture.letBe(this.shown);
    this.shown = [];
    picture.setSketch(undefined);
  }
}

/** Weights and courses are judged by eye: they are shown before they are kept. */
const isShownFirst = (tool: PlannedTool): boolean => tool === 'pool' || tool === 'ease';

const LABELS: Readonly<Record<PlannedTool, (count: number) => string>> = {
  tidy: (count) => `Tidy the ends of ${lines(count)}`,
  ease: (count) => `Ease ${lines(count)}`,
  bridge: (count) => `Bridge ${lines(count)}`,
  pool: (count) => `Pool at ${lines(count)}`,
};

const lines = (count: number): string => (count === 1 ? 'one line' : `${count} lines`);

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

function deedOf(tool: PlannedTool, settings: Omit<MendDesk, 'scope'>, ppi: number): MendDeed {
  const { exceptions, unit } = settings;
  switch (tool) {
    case 'tidy':
      return {
        deed: 'tidy',
        overshoot: inPagePx(settings.overshoot, unit, ppi),
        gap: inPagePx(settings.shortBy, unit, ppi),
        exceptions,
      };
    case 'ease':
      return { deed: 'ease', ...settings.ease, exceptions };
    case 'bridge':
      return { deed: 'bridge', ...settings.bridge, angle: radians(settings.bridge.angle), exceptions };
    case 'pool': {
      const { radius, strength, angle, thins } = settings.pool;
      return { deed: 'pool', radius, strength: ((thins ? -1 : 1) * strength) / 100, angle: radians(angle) };
    }
  }
}

/** The tool in hand, if it is one that plans. */
export const plannedTool = (): PlannedTool | undefined => {
  const { stage, tool } = useDesk.getState();
  return stage === 'mend' && (tool === 'tidy' || tool === 'ease' || tool === 'bridge' || tool === 'pool')
    ? tool
    : undefined;
};
