import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import FolderPlus from 'lucide-react-native/icons/folder-plus';
import { useCallback, useState } from 'react';
import { Text, View } from 'react-native';
import { createFolio, fetchFolios, KEYS, type FolioCard } from '../api';
import { Button, Empty, Loading, Field, sayError, Sheet, useTitle } from '../look';
import { BringInFolio } from './BringIn';
import { Card } from './Card';
import { CardGrid } from './CardGrid';
import { MoreSheet } from './MoreSheet';
import { SendFolio } from './SendFolio';
import { useFresh } from './useFresh';
import { useLeft } from './useLeft';

/** The first screen: every folio as a card. */
export function ShelfScreen() {
  const folios = useQuery({ queryKey: KEYS.folios, queryFn: fetchFolios });
  useTitle('Shelf');
  useFresh(folios.refetch);
  useLeft();
  const [more, setMore] = useState<FolioCard | undefined>();
  const [isNaming, setNaming] = useState(false);
  const card = useCallback(
    (folio: FolioCard) => (
      <Card
        name={folio.name}
        detail={folio.pageCount === 1 ? '1 page' : `${folio.pageCount} pages`}
        picture={folio.cover && { ...folio.cover, revision: folio.cover.thumbnail }}
        href={`/folio/${folio.id}`}
        onMore={() => setMore(folio)}
      />
    ),
    [],
  );
  return (
    <View className="flex-1 bg-desk" role="main">
      <View className="h-16 flex-row items-center justify-between border-b border-rule bg-tray px-5">
        <Text role="heading" aria-level={1} className="font-bold text-20 text-ink">
          Shelf
        </Text>
        <View className="flex-row gap-2">
          <BringInFolio />
          <Button label="New folio" icon={FolderPlus} onPress={() => setNaming(true)} />
        </View>
      </View>
      {folios.isPending && <Loading what="Looking at the shelf" />}
      {folios.isError && (
        <Empty
          title="The shelf cannot be reached"
          detail={`${folios.error.message} Your folios are safe where they are.`}
        >
          <Button label="Try again" tone="seal" onPress={() => void folios.refetch()} />
        </Empty>
      )}
      {folios.data?.length === 0 && (
        <Empty title="An empty shelf" detail="A folio holds the pages of a comic, a chapter or a set of illustrations.">
          <Button label="Start a folio" tone="seal" onPress={() => setNaming(true)} />
        </Empty>
      )}
      {folios.data && folios.data.length > 0 && <CardGrid items={folios.data} card={card} />}
      {more && (
        <MoreSheet kind="folios" id={more.id} name={more.name} onClose={() => setMore(undefined)}>
          <SendFolio id={more.id} onSent={() => setMore(undefined)} />
        </MoreSheet>
      )}
      {isNaming && <NewFolioSheet onClose={() => setNaming(false)} />}
    </View>
  );
}

function NewFolioSheet({ onClose }: { readonly onClose: () => void }) {
  const [name, setName] = useState('');
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: () => createFolio(name.trim()),
    onSuccess: async ({ id }) => {
      onClose();
      await queries.invalidateQueries({ queryKey: KEYS.folios });
      router.push(`/folio/${id}`);
    },
    onError: sayError,
  });
  const onCreate = () => name.trim() !== '' && create.mutate();
  return (
    <Sheet title="New folio" onClose={onClose}>
      <Field label="Name" value={name} onChange={setName} onSubmit={onCreate} autoFocus />
      <Button
        label="Start the folio"
        tone="seal"
        disabled={name.trim() === '' || create.isPending}
        onPress={onCreate}
      />
    </Sheet>
  );
}
