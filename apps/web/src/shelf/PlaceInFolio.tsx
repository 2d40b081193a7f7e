import { useMutation, useQueryClient } from '@tanstack/react-query';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import ArrowRight from 'lucide-react-native/icons/arrow-right';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { KEYS, placePage, type PageCard } from '../api';
import { Button, Field, IconButton, sayError } from '../look';

interface PlaceInFolioProps {
  readonly pageId: string;
  readonly pages: readonly PageCard[];
}

/** Where a page comes among those of its folio, and how it comes elsewhere. */
export function PlaceInFolio({ pageId, pages }: PlaceInFolioProps) {
  const count = pages.length;
  const place = pages.findIndex(({ id }) => id === pageId) + 1;
  const queries = useQueryClient();
  const [typed, setTyped] = useState<string>();
  const move = useMutation({
    mutationFn: (to: number) => placePage(pageId, to),
    onSuccess: () => setTyped(undefined),
    onError: sayError,
    onSettled: () => queries.invalidateQueries({ queryKey: KEYS.shelf }),
  });
  const wanted = Number(typed);
  const canMove = typed !== undefined && Number.isInteger(wanted) && wanted >= 1 && wanted <= count && wanted !== place;
  const submit = () => canMove && move.mutate(wanted);
  return (
    <View className="gap-1">
      <View className="flex-row items-end gap-2">
        <Field
          label={`Place among ${count} pages`}
          value={typed ?? String(place)}
          onChange={setTyped}
          onSubmit={submit}
          numeric
        />
        <Button label="Move" disabled={!canMove || move.isPending} onPress={submit} />
        <IconButton
          label="One place earlier"
          icon={ArrowLeft}
          disabled={place <= 1 || move.isPending}
          onPress={() => move.mutate(place - 1)}
        />
        <IconButton
          label="One place later"
          icon={ArrowRight}
          disabled={place >= count || move.isPending}
          onPress={() => move.mutate(place + 1)}
        />
      </View>
      {typed !== undefined && !canMove && wanted !== place && (
        <Text
          role="alert"
          className="font-sans text-14 text-seal"
        >{`A place is a whole number from 1 to ${count}.`}</Text>
      )}
    </View>
  );
}
