import { useMutation, useQueryClient } from '@tanstack/react-query';
import { printsWell, PRINTABLE_SHORT_SIDE, pxToMm } from '@true-nib/core/page';
import Maximize from 'lucide-react-native/icons/maximize';
import RotateCcw from 'lucide-react-native/icons/rotate-ccw';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { rename, type PageCard } from '../api/shelf';
import { Button } from '../look/Button';
import { Chip } from '../look/Chip';
import { Field } from '../look/Field';
import { sayError } from '../look/notices';
import { Sheet } from '../look/Sheet';
import { Switch } from '../look/Switch';
import { useBoard } from './boardContext';
import { COMMANDS, HOLD_KEYS, keyInWords, runCommand, withKey } from './commands';
import { useDesk } from './desk';
import { useShallow } from 'zustand/react/shallow';

/** The page as a sheet of paper: its name and size, how it lies on the desk, and the keys. */
export function PageSheet({ card, onClose }: { readonly card: PageCard; readonly onClose: () => void }) {
  const board = useBoard();
  const [name, setName] = useState(card.name);
  const queries = useQueryClient();
  const { fingerDraws, zoom, turn } = useDesk(
    useShallow(({ fingerDraws, zoom, turn }) => ({ fingerDraws, zoom, turn })),
  );
  const save = useMutation({
    mutationFn: () => rename('pages', card.id, name.trim()),
    onSuccess: async () => {
      await queries.invalidateQueries();
      onClose();
    },
    onError: sayError,
  });
  const mm = (px: number) => Math.round(pxToMm(px, card.ppi));
  const canRename = name.trim() !== '' && name.trim() !== card.name && !save.isPending;
  return (
    <Sheet title="Page" onClose={onClose}>
      <View className="flex-row items-end gap-3">
        <Field label="Name" value={name} onChange={setName} onSubmit={() => canRename && save.mutate()} />
        <Button label="Rename" disabled={!canRename} onPress={() => save.mutate()} />
      </View>
      <Text className="font-sans text-14 text-faint">
        {`${card.width} × ${card.height} px · ${mm(card.width)} × ${mm(card.height)} mm · ${card.ppi} ppi`}
        {!printsWell(card) &&
          `. Under ${PRINTABLE_SHORT_SIDE.toLocaleString('en')} px on its short side it will not print well.`}
      </Text>
      <Text className="font-sans text-14 text-faint">{`Shown at ${Math.round(zoom * 100)} %, turned by ${Math.round((turn * 180) / Math.PI)}°`}</Text>
      <View className="flex-row gap-2">
        <Chip label="Fit" icon={Maximize} tooltip={withKey('fit')} onPress={() => runCommand('fit', board)} />
        <Chip
          label="Turn left"
          icon={RotateCcw}
          tooltip={withKey('turn-left')}
          onPress={() => runCommand('turn-left', board)}
        />
        <Chip
          label="Turn right"
          icon={RotateCw}
          tooltip={withKey('turn-right')}
          onPress={() => runCommand('turn-right', board)}
        />
        <Chip
          label="Upright"
          icon={ArrowUp}
          tooltip={withKey('upright')}
          onPress={() => runCommand('upright', board)}
        />
      </View>
      <Switch
        label="Fingers draw (off: they only move the page)"
        on={fingerDraws}
        onChange={(on) => useDesk.setState({ fingerDraws: on })}
      />
      <Text role="heading" className="pt-1 font-bold text-14 text-ink">
        Keys
      </Text>
      <View className="flex-row flex-wrap">
        {[...COMMANDS, ...HOLD_KEYS].map((command) => (
          <View key={command.id} className="w-1/2 flex-row items-center gap-2 py-1 pr-2">
            <Text className="min-w-[56px] rounded-md border border-rule bg-raised px-2 text-center font-bold text-12 text-ink">
              {keyInWords(command.key)}
            </Text>
            <Text className="shrink font-sans text-12 text-faint">
              {'hold' in command ? `${command.label} (hold)` : command.label}
            </Text>
          </View>
        ))}
      </View>
    </Sheet>
  );
}
