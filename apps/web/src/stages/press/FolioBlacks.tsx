import { useQuery } from '@tanstack/react-query';
import { darkness, darksOf } from '@true-nib/core/audit';
import { fetchFolio, KEYS } from '../../api';
import { useBoard } from '../../board';
import { smallPictures } from '../../deliver';
import { Button, Faint } from '../../look';
import { useState } from 'react';
import { View } from 'react-native';
import { BarsLater } from './charts';
import { inWords } from './inWords';
import { SIDE } from './squint';

interface PageBlack {
  readonly id: string;
  readonly share: number;
}

/** How black each page of a folio is, as it was saved. */
async function blacksOf(folioId: string, tell: (words: string) => void): Promise<readonly PageBlack[]> {
  const { pages } = await fetchFolio(folioId);
  const ids = pages.map(({ id }) => id);
  const found: PageBlack[] = [];
  for await (const picture of smallPictures(ids, SIDE)) {
    found.push({ id: ids[found.length], share: darkness(darksOf(picture)) });
    tell(`${found.length} of ${ids.length} pages are counted.`);
  }
  return found;
}

/** Blacks page by page over the folio, counted when they are asked for. */
export function FolioBlacks({ width }: { readonly width: number }) {
  const { card } = useBoard().session;
  const [progress, setProgress] = useState('');
  const { data, error, isFetching, refetch } = useQuery({
    queryKey: KEYS.blacks(card.folioId),
    queryFn: () => blacksOf(card.folioId, setProgress),
    enabled: false,
    retry: false,
  });
  const bars = data?.map(({ id, share }, k) => ({
    label: String(k + 1),
    value: 100 * share,
    isHere: id === card.id,
  }));
  return (
    <View className="gap-2">
      {bars && (
        <View role="img" aria-label={inWords('Page', bars)}>
          <BarsLater bars={bars} width={width} height={90} />
          <Faint>Black on each page as it was saved, %. This one is in colour.</Faint>
        </View>
      )}
      {error && <Faint>{error.message}</Faint>}
      {isFetching ? (
        <Faint>{progress || 'Counting …'}</Faint>
      ) : (
        <Button label={bars ? 'Count all pages again' : 'Count blacks over the folio'} onPress={() => void refetch()} />
      )}
    </View>
  );
}
