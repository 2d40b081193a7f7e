import type { FolioCard } from './shelf';
import { request } from './request';

/** Where a folio is had as one file; with its journals, undo goes on elsewhere. */
export const packageAddress = (folioId: string, withJournal: boolean): string =>
  `/api/folios/${encodeURIComponent(folioId)}/package?journal=${withJournal ? 'yes' : 'no'}`;

/** Brings a folio in that was sent as one file. */
export async function takeInFolio(file: Blob): Promise<Pick<FolioCard, 'id' | 'name'>> {
  const answer = await request('/folios/package', {
    ...{ method: 'POST', body: file },
    headers: { 'content-type': 'application/zip' },
  });
  return (await answer.json()) as Pick<FolioCard, 'id' | 'name'>;
}
