import type { LetterRun, Sought } from '@true-nib/core/lettering';
import { requestJson } from './request';

/** The texts of a page, as they are read. */
export interface LetteredPage {
  readonly id: string;
  readonly name: string;
  readonly texts: readonly {
    readonly id: string;
    /** The place of its panel in the reading order; 0 where it lies in none. */
    readonly panel: number;
    readonly voice: 'speech' | 'thought' | 'caption' | 'sound';
    readonly runs: readonly LetterRun[];
  }[];
}

/** What came of words that were replaced in a folio. */
export interface ReplacedWords {
  readonly count: number;
  /** On locked layers, where they were left. */
  readonly locked: number;
  readonly tight: readonly { readonly id: string; readonly count: number }[];
  readonly missing: readonly string[];
  readonly changes: readonly { readonly id: string; readonly changeId: string }[];
}

export const fetchLettering = async (folioId: string): Promise<readonly LetteredPage[]> =>
  (await requestJson<{ pages: LetteredPage[] }>(`/folios/${folioId}/lettering`)).pages;

/** Where all lettering of a folio is had as a text file. */
export const letteringFile = (folioId: string): string => `/folios/${folioId}/lettering.txt`;

export const replaceWords = (folioId: string, sought: Sought, other: string, by: string) =>
  requestJson<ReplacedWords>(`/folios/${folioId}/lettering/replace`, 'POST', { ...sought, other, by });

/** Takes replaced words back. Answers on how many pages something came over them since. */
export const takeBackWords = (folioId: string, changes: ReplacedWords['changes'], by: string) =>
  requestJson<{ left: number }>(`/folios/${folioId}/lettering/take-back`, 'POST', { changes, by });
