import { pxToMm } from '@true-nib/core/page';
import { useQuery } from '@tanstack/react-query';
import { router, useLocalSearchParams } from 'expo-router';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import FilePlus from 'lucide-react-native/icons/file-plus';
import { useCallback, useState, type ReactElement } from 'react';
import { Text, View } from 'react-native';
import { fetchFolio, KEYS, type FolioWithPages, type PageCard } from '../api';
import { Button, IconButton, Empty, Loading, useTitle } from '../look';
import { Card } from './Card';
import { CardGrid } from './CardGrid';
import { FolioBar } from './FolioBar';
import { LetteringSheet } from './LetteringSheet';
import { MoreSheet } from './MoreSheet';
import { NewPageSheet } from './NewPageSheet';
import { PlaceInFolio } from './PlaceInFolio';
import { SpreadGrid } from './SpreadGrid';
import { useShelf } from './shelfStore';
import { useFresh } from './useFresh';
import { useLeft } from './useLeft';

/** One folio: its pages in order. */
export function FolioScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const folio = useQuery({ queryKey: KEYS.folio(id), queryFn: () => fetchFolio(id) });
  useTitle(folio.data?.name);
  useFresh(folio.refetch);
  const left = useLeft();
  const [more, setMore] = useState<PageCard | undefined>();
  const [isAdding, setAdding] = useState(false);
  const [isReading, setReading] = useState(false);
  const card = useCallback(
    (page: PageCard, k: number) => (
      <Card
        name={page.name}
        warning={left.has(page.id) ? `${left.get(page.id)} unsaved` : undefined}
        detail={`${k + 1} · ${sizeInWords(page)}`}
        picture={{ pageId: page.id, revision: page.thumbnail, width: page.width, height: page.height }}
        href={`/page/${page.id}`}
        onMore={() => setMore(page)}
      />
    ),
    [left],
  );
  return (
    <View className="flex-1 bg-desk" role="main">
      <View className="h-16 flex-row items-center gap-1 border-b border-rule bg-tray pl-1 pr-5">
        <IconButton label="Back to the shelf" icon={ChevronLeft} onPress={() => router.dismissTo('/')} />
        <Text role="heading" aria-level={1} className="shrink grow font-bold text-20 text-ink" numberOfLines={1}>
          {folio.data?.name ?? 'Folio'}
        </Text>
        {folio.data && <Button label="New page" icon={FilePlus} onPress={() => setAdding(true)} />}
      </View>
      {folio.isPending && <Loading what="Opening the folio" />}
      {folio.isError && (
        <Empty title="This folio cannot be opened" detail={folio.error.message}>
          <Button label="To the shelf" tone="seal" onPress={() => router.dismissTo('/')} />
        </Empty>
      )}
      {folio.data?.pages.length === 0 && (
        <Empty title="No page yet" detail="Make the first one: choose a size, bring in your rough, and draw over it.">
          <Button label="New page" tone="seal" onPress={() => setAdding(true)} />
        </Empty>
      )}
      {folio.data && folio.data.pages.length > 0 && (
        <Pages folio={folio.data} card={card} onMore={setMore} onLettering={() => setReading(true)} />
      )}
      {more && (
        <MoreSheet kind="pages" id={more.id} name={more.name} onClose={() => setMore(undefined)}>
          <PlaceInFolio pageId={more.id} pages={folio.data?.pages ?? []} />
        </MoreSheet>
      )}
      {isReading && folio.data && (
        <LetteringSheet folioId={id} name={folio.data.name} onClose={() => setReading(false)} />
      )}
      {isAdding && folio.data && (
        <NewPageSheet folioId={id} count={folio.data.pages.length} onClose={() => setAdding(false)} />
      )}
    </View>
  );
}

interface PagesProps {
  readonly folio: FolioWithPages;
  readonly card: (page: PageCard, index: number) => ReactElement;
  readonly onMore: (page: PageCard) => void;
  readonly onLettering: () => void;
}

/** The pages of a folio as cards, or as the spreads that a reader opens. */
function Pages({ folio, card, onMore, onLettering }: PagesProps) {
  const pagesAs = useShelf((shelf) => shelf.pagesAs);
  return (
    <>
      <FolioBar folio={folio} onLettering={onLettering} />
      {pagesAs === 'spreads' ? (
        <SpreadGrid pages={folio.pages} opening={folio} onMore={onMore} />
      ) : (
        <CardGrid items={folio.pages} card={card} />
      )}
    </>
  );
}

const sizeInWords = ({ width, height, ppi }: PageCard): string =>
  `${Math.round(pxToMm(width, ppi))} × ${Math.round(pxToMm(height, ppi))} mm`;
