import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Opening } from '@true-nib/core/page';
import MessageSquare from 'lucide-react-native/icons/message-square-text';
import { View } from 'react-native';
import { changeFolio, KEYS, type FolioWithPages } from '../api';
import { Button, Choice, sayError, Switch, useIsWide } from '../look';
import { BringInPage } from './BringIn';
import { useShelf } from './shelfStore';

/** How the pages of a folio are looked at, and what is done to all of them. */
export function FolioBar({ folio, onLettering }: { readonly folio: FolioWithPages; readonly onLettering: () => void }) {
  const pagesAs = useShelf((shelf) => shelf.pagesAs);
  const isRoomy = useIsWide();
  const { id, reads, firstAlone } = folio;
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: (opening: Partial<Opening>) => changeFolio(id, opening),
    onError: sayError,
    onSettled: () => queries.invalidateQueries({ queryKey: KEYS.folio(id) }),
  });
  const asked = { reads, firstAlone, ...(change.isPending && change.variables) };
  const views = (
    <View style={{ width: 190 }} className="flex-row">
      <Choice
        label="Pages shown"
        value={pagesAs}
        onChange={(next) => useShelf.setState({ pagesAs: next })}
        options={[
          { value: 'pages', label: 'Pages' },
          { value: 'spreads', label: 'Spreads' },
        ]}
      />
    </View>
  );
  const opening = pagesAs === 'spreads' && (
    <View className={`flex-row items-center gap-4 ${isRoomy ? '' : 'justify-between'}`}>
      <View style={{ width: 190 }} className="flex-row">
        <Choice
          label="Read from the"
          value={asked.reads}
          onChange={(next) => change.mutate({ reads: next })}
          options={[
            { value: 'left to right', label: 'From left' },
            { value: 'right to left', label: 'From right' },
          ]}
        />
      </View>
      <Switch
        label="First alone"
        name="First page alone"
        on={asked.firstAlone}
        onChange={(next) => change.mutate({ firstAlone: next })}
      />
    </View>
  );
  return (
    <View className={`px-5 pt-4 ${isRoomy ? 'flex-row items-center justify-between' : 'gap-3'}`}>
      <View className="flex-row items-center justify-between gap-4">
        {views}
        {isRoomy ? opening : <Button label="Lettering" icon={MessageSquare} onPress={onLettering} />}
      </View>
      {isRoomy ? (
        <View className="flex-row gap-2">
          <BringInPage folioId={id} />
          <Button label="Lettering" icon={MessageSquare} onPress={onLettering} />
        </View>
      ) : (
        <>
          {opening}
          <BringInPage folioId={id} />
        </>
      )}
    </View>
  );
}
