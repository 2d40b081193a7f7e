import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import Download from 'lucide-react-native/icons/download';
import FolderInput from 'lucide-react-native/icons/folder-input';
import Save from 'lucide-react-native/icons/save';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { KEYS } from '../../api';
import { useBoard } from '../../board';
import { Button, Faint, Field, Fold, IconButton, LineHint, say } from '../../look';
import { useSetInHand } from './inHand';
import {
  bringIn,
  fetchSets,
  forgetSet,
  keepInLibrary,
  putOnPage,
  saveGltf,
  saveSetFile,
  type SetCard,
} from './library';

export function LibraryLine() {
  const { set } = useSetInHand();
  return <LineHint>{set ? `Keep ${set.name}, or put another one on the page.` : 'Put a set on the page.'}</LineHint>;
}

const inWords = (error: unknown): string =>
  error instanceof Error ? error.message : 'The library could not be reached.';

export function LibrarySettings() {
  const board = useBoard();
  const queries = useQueryClient();
  const { set } = useSetInHand();
  const [wanted, setWanted] = useState('');
  const { data: sets = [], error, isPending } = useQuery({ queryKey: KEYS.sets, queryFn: fetchSets });
  const change = useMutation({
    mutationFn: (work: () => Promise<void>) => work(),
    onSettled: () => queries.invalidateQueries({ queryKey: KEYS.sets }),
    onError: (reason) => say(inWords(reason)),
  });
  const found = sets.filter(({ name }) => name.toLowerCase().includes(wanted.trim().toLowerCase()));
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap gap-2">
        {set && (
          <Button
            label={`Keep ${set.name}`}
            icon={Save}
            tone="seal"
            disabled={change.isPending}
            onPress={() => change.mutate(() => keepInLibrary(board, sets))}
          />
        )}
        <Button label="From a file…" icon={FolderInput} onPress={() => void bringIn(board)} />
      </View>
      <Faint>A set, or a model: OBJ, glTF, GLB.</Faint>
      {sets.length > 4 && <Field label="Find a set" value={wanted} onChange={setWanted} />}
      {error && <Text className="font-sans text-14 text-seal">{inWords(error)}</Text>}
      {!error && !isPending && sets.length === 0 && <Faint>Nothing is kept yet. Build a set, then keep it here.</Faint>}
      <View className="flex-row flex-wrap gap-2">
        {found.map((card) => (
          <Card
            key={card.id}
            card={card}
            onPut={() => change.mutate(() => putOnPage(board, card.id))}
            onForget={() => change.mutate(() => forgetSet(card.id))}
          />
        ))}
      </View>
      {sets.length > 0 && found.length === 0 && <Faint>{`No set is called ${wanted.trim()}.`}</Faint>}
      {set && (
        <Fold title="Save to a file">
          <View className="flex-row flex-wrap gap-2">
            <Button label="As a set" icon={Download} onPress={() => void saveSetFile(board)} />
            <Button label="As a GLB" icon={Download} onPress={() => void saveGltf(board)} />
          </View>
        </Fold>
      )}
    </View>
  );
}

interface CardProps {
  readonly card: SetCard;
  readonly onPut: () => void;
  readonly onForget: () => void;
}

function Card({ card: { name, picture, blocks }, onPut, onForget }: CardProps) {
  return (
    <View className="rounded-xl border border-rule bg-raised">
      <Pressable role="button" aria-label={`Put ${name} on the page`} onPress={onPut} className="px-2 pt-2">
        <Svg width={120} height={84} viewBox="0 0 120 84" aria-hidden>
          <Path d={picture} fill="none" stroke="var(--ink)" strokeWidth={1} strokeLinecap="round" />
        </Svg>
      </Pressable>
      <View className="flex-row items-center pl-2">
        <View className="w-[88px]">
          <Text className="font-bold text-14 text-ink" numberOfLines={1}>
            {name}
          </Text>
          <Text className="font-sans text-12 text-faint">{`${blocks} ${blocks === 1 ? 'block' : 'blocks'}`}</Text>
        </View>
        <IconButton label={`Delete ${name} from the library`} icon={Trash} onPress={onForget} />
      </View>
    </View>
  );
}
