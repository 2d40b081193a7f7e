import type { Opening, PageSize } from '@true-nib/core/page';
import { requestJson } from './request';

export interface FolioCard {
  readonly id: string;
  readonly name: string;
  readonly pageCount: number;
  readonly changedAt: number;
  readonly cover: {
    readonly pageId: string;
    readonly thumbnail: number | null;
    readonly width: number;
    readonly height: number;
  } | null;
}

export interface PageCard extends PageSize {
  readonly id: string;
  readonly folioId: string;
  readonly name: string;
  readonly revision: number;
  readonly thumbnail: number | null;
}

export interface FolioWithPages extends Opening {
  readonly id: string;
  readonly name: string;
  readonly pages: readonly PageCard[];
}

export interface NewPage extends PageSize {
  readonly folioId: string;
  readonly name: string;
}

export const fetchFolios = async (): Promise<readonly FolioCard[]> =>
  (await requestJson<{ folios: FolioCard[] }>('/folios')).folios;
export const fetchFolio = (id: string) => requestJson<FolioWithPages>(`/folios/${id}`);
export const createFolio = (name: string) => requestJson<{ id: string }>('/folios', 'POST', { name });
export const createPage = (page: NewPage) => requestJson<PageCard>('/pages', 'POST', page);

export const changeFolio = (id: string, change: Partial<Opening>) =>
  requestJson<FolioWithPages>(`/folios/${id}`, 'PATCH', change);
/** Puts a page at a place among those of its folio, from 1 on. */
export const placePage = (id: string, place: number) => requestJson<PageCard>(`/pages/${id}`, 'PATCH', { place });

/** What folios and pages have in common on the shelf. */
export type Shelved = 'folios' | 'pages';
export const rename = (kind: Shelved, id: string, name: string) => requestJson(`/${kind}/${id}`, 'PATCH', { name });
export const duplicate = (kind: Shelved, id: string) => requestJson(`/${kind}/${id}/duplicate`, 'POST');
export const remove = (kind: Shelved, id: string) => requestJson(`/${kind}/${id}`, 'DELETE');
export const restore = (kind: Shelved, id: string) => requestJson(`/${kind}/${id}/restore`, 'POST');

export const thumbnailAddress = (pageId: string, revision: number): string =>
  `/api/pages/${pageId}/thumbnail?revision=${revision}`;
