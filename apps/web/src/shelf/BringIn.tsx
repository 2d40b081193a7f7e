import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import FolderInput from 'lucide-react-native/icons/folder-input';
import { KEYS, takeInFolio } from '../api';
import { bringInLayers } from '../deliver';
import { Button, chooseFile, say, sayError } from '../look';

/** What was brought in: what is said of it, and where it is. */
interface BroughtIn {
  readonly words: string;
  readonly href: `/folio/${string}` | `/page/${string}`;
}

/** Asks for a file and brings it in. */
function BringIn({ accept, take }: { readonly accept: string; readonly take: (file: File) => Promise<BroughtIn> }) {
  const queries = useQueryClient();
  const taking = useMutation({
    mutationFn: take,
    onSuccess: async ({ words, href }) => {
      await queries.invalidateQueries({ queryKey: KEYS.shelf });
      say(words, { label: 'Open', run: () => router.push(href) });
    },
    onError: sayError,
  });
  const choose = async () => {
    const file = await chooseFile(accept);
    if (file) taking.mutate(file);
  };
  return (
    <Button
      label={taking.isPending ? 'Bringing in …' : 'Bring in'}
      icon={FolderInput}
      disabled={taking.isPending}
      onPress={() => void choose()}
    />
  );
}

async function folioIn(file: File): Promise<BroughtIn> {
  const { id, name } = await takeInFolio(file);
  return { words: `${name} is on the shelf.`, href: `/folio/${id}` };
}

/** Brings a folio in that another desk has sent as one file. */
export const BringInFolio = () => <BringIn accept=".zip,application/zip" take={folioIn} />;

/** Brings a file of layers in as a page of a folio. */
export function BringInPage({ folioId }: { readonly folioId: string }) {
  const take = async (file: File): Promise<BroughtIn> => {
    const { page, said } = await bringInLayers(file, folioId);
    return { words: [`${page.name} is a page of this folio.`, ...said].join(' '), href: `/page/${page.id}` };
  };
  return <BringIn accept=".ora,image/openraster" take={take} />;
}
