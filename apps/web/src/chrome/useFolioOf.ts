import { useQuery } from '@tanstack/react-query';
import { fetchFolio, KEYS } from '../api';

/** The folio that the open page lies in. */
export const useFolioOf = (folioId: string) =>
  useQuery({ queryKey: KEYS.folio(folioId), queryFn: () => fetchFolio(folioId) });
