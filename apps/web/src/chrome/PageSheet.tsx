import { inThousands } from '../base';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { printsWell, PRINTABLE_SHORT_SIDE, pxToMm } from '@true-nib/core/page';
import Maximize from 'lucide-react-native/icons/maximize';
import RotateCcw from 'lucide-react-native/icons/rotate-ccw';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import ArrowLeftRight from 'lucide-react-native/icons/arrow-left-right';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import Crosshair from 'lucide-react-native/icons/crosshair';
import Grid from 'lucide-react-native/icons/grid-3x3';
import MoveHorizontal from 'lucide-react-native/icons/move-horizontal';
import Ruler from 'lucide-react-native/icons/ruler';
import Search from 'lucide-react-native/icons/search';
import type { LucideIcon } from 'lucide-react-native';
import { router } from 'expo-router';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { KEYS, rename, type PageCard } from '../api';
import { Button, Chip, Field, sayError, Sheet, Switch } from '../look';
import { useBoard, workbench, useDesk } from '../board';
import { withKey } from '../keys';
import { useShallow } from 'zustand/react/shallow';

const VIEWS: readonly (readonly { readonly id: string; readonly label: string; readonly icon: LucideIcon }[])[] = [
  [
    { id: 'fit', label: 'Fit', icon: Maximize },
    { id: 'fit-width', label: 'Width', icon: MoveHorizontal },
    { id: 'one-to-one', label: '1 : 1', icon: Grid },
    { id: 'print-size', label: 'Print', icon: Ruler },
    { id: 'reset-zoom', label: 'Zoom', icon: Search },
  ],
  [
    { id: 'turn-left', label: 'Left', icon: RotateCcw },
    { id: 'turn-right', label: 'Right', icon: RotateCw },
    { id: 'upright', label: 'Upright', icon: ArrowUp },
    { id: 'flip', label: 'Flip', icon: ArrowLeftRight },
    { id: 'centre', label: 'Middle', icon: Crosshair },
  ],
];

interface PageSheetProps {
  readonly card: PageCard;
  /** All pages of its folio, in their order. */
  readonly pages: readonly PageCard[];
  readonly onClose: () => void;
}

/** The page as a sheet of paper: its name and size, how it lies on the desk, and the keys. */
export function PageSheet({ card, pages, onClose }: PageSheetProps) {
  const board = useBoard();
  const [name, setName] = useState(card.name);
  const queries = useQueryClient();
  const { fingerDraws, pxGrid, zoom, turn } = useDesk(
    useShallow(({ fingerDraws, pxGrid, zoom, turn }) => ({ fingerDraws, pxGrid, zoom, turn })),
  );
  const save = useMutation({
    mutationFn: () => rename('pages', card.id, name.trim()),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: KEYS.shelf });
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
          `. Under ${inThousands(PRINTABLE_SHORT_SIDE)} px on its short side it will not print well.`}
      </Text>
      <Text className="font-sans text-14 text-faint">{`Shown at ${Math.round(zoom * 100)} %, turned by ${Math.round((turn * 180) / Math.PI)}°`}</Text>
      <Neighbours card={card} pages={pages} onClose={onClose} />
      {VIEWS.map((row, k) => (
        <View key={k} className="flex-row gap-1">
          {row.map(({ id, label, icon }) => (
            <Chip key={id} label={label} icon={icon} tooltip={withKey(id)} onPress={() => workbench.run(id, board)} />
          ))}
        </View>
      ))}
      <Switch
        label="Fingers draw (off: they only move the page)"
        on={fingerDraws}
        onChange={(on) => useDesk.setState({ fingerDraws: on })}
      />
      <Switch
        label="Edges of px over lines, from 800 % on"
        on={pxGrid}
        onChange={(on) => useDesk.setState({ pxGrid: on })}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label="Keys" onPress={() => useDesk.setState({ sheet: 'keys' })} />
        <Button label="Find a command" onPress={() => useDesk.setState({ sheet: 'find' })} />
        <Button label="Measure this screen" onPress={() => useDesk.setState({ sheet: 'ruler' })} />
      </View>
    </Sheet>
  );
}

/** The pages before and after this one. */
function Neighbours({ card, pages, onClose }: PageSheetProps) {
  const index = pages.findIndex(({ id }) => id === card.id);
  const [before, after] = index < 0 ? [] : [pages[index - 1], pages[index + 1]];
  if (!before && !after) return null;
  const go = (page: PageCard) => {
    onClose();
    router.replace(`/page/${page.id}`);
  };
  return (
    <View className="flex-row flex-wrap gap-2">
      {before && <Button label={`Before: ${before.name}`} icon={ChevronLeft} onPress={() => go(before)} />}
      {after && <Button label={`After: ${after.name}`} icon={ChevronRight} onPress={() => go(after)} />}
    </View>
  );
}
