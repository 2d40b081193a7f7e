import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import FolderInput from 'lucide-react-native/icons/folder-input';
import { KEYS, takeInFolio } from '../api';
import { bringInLayers } from '../deliver';
import { Button, chooseFile, say, sayError } from '../look';

/** Brings a folio in that another desk has sent as one file. */
export function BringInFolio() {
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: takeInFolio,
    onSuccess: async ({ id, name }) => {
      await queries.invalidateQueries({ queryKey: KEYS.shelf });
      say(`${name} is on the shelf.`, { label: 'Open', run: () => router.push(`/folio/${id}`) });
    },
    onError: sayError,
  });
  const choose = async () => {
    const file = await chooseFile('.zip,application/zip');
    if (file) take.mutate(file);
  };
  return (
    <Button
      label={take.isPending ? 'Bringing in …' : 'Bring in'}
      icon={FolderInput}
      disabled={take.isPending}
      onPress={() => void choose()}
    />
  );
}

/** Brings a file of layers in as a page of a folio. */
export function BringInPage({ folioId }: { readonly folioId: string }) {
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: (file: File) => bringInLayers(file, folioId),
    onSuccess: async ({ page, said }) => {
      await queries.invalidateQueries({ queryKey: KEYS.shelf });
      say([`${page.name} is a page of this folio.`, ...said].join(' '), {
        ...{ label: 'Open', run: () => router.push(`/page/${page.id}`) },
      });
    },
    onError: sayError,
  });
  const choose = async () => {
    const file = await chooseFile('.ora,image/openraster');
    if (file) take.mutate(file);
  };
  return (
    <Button
      label={take.isPending ? 'Bringing in …' : 'Bring in'}
      icon={FolderInput}
      disabled={take.isPending}
      onPress={() => void choose()}
    />
  );
}
