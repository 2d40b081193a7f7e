import { useQuery } from '@tanstack/react-query';
import { fetchFolio } from '../api';

/** The folio that the open page lies in. */
export const useFolioOf = (folioId: string) =>
  useQuery({ queryKey: ['folio', folioId], queryFn: () => fetchFolio(folioId) });
