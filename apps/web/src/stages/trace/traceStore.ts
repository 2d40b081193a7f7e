import { create } from 'zustand';
import type { Point } from '@true-nib/core/math';
import type { Corners, TraceRecord } from '@true-nib/core/page';
import type { Place } from '@true-nib/core/trace';
import { keptStore } from '../../base';

/** The settings of a tracing as they are set: lengths in mm of the page. */
export interface TraceChoice {
  /** Percent of full ink. */
  readonly darkness: number;
  readonly smallMarks: number;
  /** Degrees. */
  readonly corners: number;
  /** Tenths of the px of the picture. */
  readonly smoothness: number;
  /** 0 goes by the lines that there are. */
  readonly blackFrom: number;
  readonly takes: TraceRecord['takes'] | 'both';
  readonly where: 'page' | 'loop' | 'panel';
}

/** How scans are traced; kept for the next one. */
export const useTraceChoice = keptStore<TraceChoice>({
  name: 'true-nib-trace',
  version: 1,
  kept: ['darkness', 'smallMarks', 'corners', 'smoothness', 'blackFrom', 'takes'],
  fresh: { darkness: 50, smallMarks: 0.25, corners: 35, smoothness: 3.5, blackFrom: 0, takes: 'lines', where: 'page' },
});

/** What is under way with scans on the open page. */
export interface TraceState {
  /** The corners that are shown while the sheet is being found, px of the picture as it was taken. */
  readonly corners: Corners | undefined;
  readonly isFinding: boolean;
  /** The loop, or the panel, that is to be traced: page px. */
  readonly loop: readonly Point[] | undefined;
  readonly panelId: string | undefined;
  /** How far the tracing is, 0..1; nothing while there is none. */
  readonly share: number | undefined;
  /** Lines of the preview; nothing where there is none. */
  readonly previewed: number | undefined;
  /** The traced layer whose places are put right, and those places, page px. */
  readonly layerId: string | undefined;
  readonly places: readonly Place[];
  readonly inHand: number | undefined;
  /** Doubtful places that were looked at, by where they are. */
  readonly seen: ReadonlySet<string>;
  /** What a touch does. */
  readonly touch: 'ways' | 'split';
  readonly compared: { readonly missing: number; readonly tooMuch: number } | undefined;
  readonly isComparing: boolean;
  /** How much of the lines shows against the paper, percent; nothing while both are as they are. */
  readonly between: number | undefined;
}

export const NOTHING_TRACED: TraceState = {
  ...{ corners: undefined, isFinding: false, loop: undefined, panelId: undefined, share: undefined },
  ...{ previewed: undefined, layerId: undefined, places: [], inHand: undefined, seen: new Set<string>() },
  ...{ touch: 'ways', compared: undefined, isComparing: false, between: undefined },
};

export const useTrace = create<TraceState>()(() => NOTHING_TRACED);

export const setTrace = (change: Partial<TraceState>): void => useTrace.setState(change);

/** A name for a place that stays while its lines are traced anew. */
export const placeName = ({ kind, x, y }: Place): string => `${kind} ${Math.round(x / 4)} ${Math.round(y / 4)}`;

/** The places that are in doubt and were not looked at yet. */
export const openPlaces = ({ places, seen }: Pick<TraceState, 'places' | 'seen'>): Place[] =>
  places.filter((place) => place.isUnsure && !seen.has(placeName(place)));
