import { foundIn, groupsOf, rackFromText, rackToText, shippedNib, type RackNib } from '@true-nib/core/rack';
import Copy from 'lucide-react-native/icons/copy';
import Download from 'lucide-react-native/icons/download';
import Plus from 'lucide-react-native/icons/plus';
import RotateCcw from 'lucide-react-native/icons/rotate-ccw';
import Star from 'lucide-react-native/icons/star';
import Trash from 'lucide-react-native/icons/trash';
import Undo2 from 'lucide-react-native/icons/undo-2';
import Upload from 'lucide-react-native/icons/upload';
import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { IconButton, Field, FoldHead, say, sayError, chooseText, download } from '../look';
import { takeNib } from './takeNib';
import { useDesk } from '../board';
import { LiveNib } from './LiveNib';
import {
  changeRackNib,
  createNib,
  deleteNib,
  duplicateNib,
  importNibs,
  nibInHand,
  resetNib,
  undoRack,
  useRack,
} from './rackStore';
import { useNib, useRackNib } from './useNib';

interface NibRackProps {
  readonly width: number;
  /** How many nibs lie beside one another. */
  readonly perRow: number;
  /** Hears that there is a new nib, now in hand. */
  readonly onMade: () => void;
}

/** The rack: what is looked for, the nibs by group as the lines they draw, and what can be done with them. */
export function NibRack({ width, perRow, onMade }: NibRackProps) {
  const rack = useRack((state) => state.rack);
  const { group: groupInHand } = useRackNib();
  const [sought, setSought] = useState('');
  const [open, setOpen] = useState<Readonly<Record<string, boolean>>>({});
  const favourites = rack.filter(({ favourite }) => favourite);
  const found = foundIn(rack, sought);
  const isSeeking = sought.trim() !== '';
  const isOpen = (group: string) => open[group] ?? group === groupInHand;
  const toggle = (group: string) => setOpen({ ...open, [group]: !isOpen(group) });
  const size = { width: Math.floor((width - (perRow - 1) * 8) / perRow), perRow };
  return (
    <View className="gap-2">
      <Field label="Find a nib" value={sought} onChange={setSought} />
      <View role="radiogroup" aria-label="Nib rack" className="gap-2">
        {isSeeking && <Nibs nibs={found} {...size} />}
        {isSeeking && found.length === 0 && <Text className="font-sans text-14 text-faint">No nib of that name.</Text>}
        {!isSeeking && favourites.length > 0 && <Nibs nibs={favourites} {...size} />}
        {!isSeeking &&
          groupsOf(rack).map((group) => (
            <View key={group} className="gap-2">
              <FoldHead
                title={group}
                label={`${group}, group of nibs`}
                isOpen={isOpen(group)}
                isInner
                onPress={() => toggle(group)}
              />
              {isOpen(group) && <Nibs nibs={rack.filter((nib) => nib.group === group)} {...size} />}
            </View>
          ))}
      </View>
      <RackTools onMade={onMade} />
    </View>
  );
}

interface NibsProps {
  readonly nibs: readonly RackNib[];
  readonly width: number;
  readonly perRow: number;
}

function Nibs({ nibs, width, perRow }: NibsProps) {
  return (
    <View className={perRow > 1 ? 'flex-row flex-wrap gap-2' : 'gap-2'}>
      {nibs.map((one) => (
        <NibCard key={one.id} rackNib={one} width={width} isNarrow={perRow > 1} />
      ))}
    </View>
  );
}

const sizeOf = ({ nib, unit }: RackNib): string => `${nib.size} ${unit}`;

function NibCard({
  rackNib,
  width,
  isNarrow,
}: {
  readonly rackNib: RackNib;
  readonly width: number;
  readonly isNarrow: boolean;
}) {
  const nib = useNib(rackNib);
  const zoom = useDesk((desk) => desk.zoom);
  const isDrawing = useDesk((desk) => desk.tool !== 'rub' && desk.tool !== 'lift' && desk.tool !== 'select');
  const isInHand = useRack((state) => nibInHand(state).id === rackNib.id) && isDrawing;
  const { name } = rackNib.nib;
  return (
    <Pressable
      role="radio"
      aria-checked={isInHand}
      aria-label={name}
      onPress={() => takeNib(rackNib.id)}
      style={{ width }}
      className={`overflow-hidden rounded-xl border bg-paper ${isInHand ? 'border-2 border-seal' : 'border-edge'}`}
    >
      <LiveNib nib={nib} calm={rackNib.calm} lays={rackNib.lays} zoom={zoom} width={width} height={44} />
      <View className={`bg-tray px-2 py-1 ${isNarrow ? '' : 'flex-row items-center justify-between'}`}>
        <Text className={`shrink text-12 text-ink ${isInHand ? 'font-bold' : 'font-sans'}`} numberOfLines={1}>
          {`${rackNib.favourite ? '★ ' : ''}${name}`}
        </Text>
        <Text className="font-sans text-12 text-faint">{sizeOf(rackNib)}</Text>
      </View>
    </Pressable>
  );
}

const undoable = (message: string, run: () => void): void => {
  try {
    run();
    say(message, { label: 'Put it back', run: () => void undoRack() });
  } catch (error) {
    sayError(error);
  }
};

/** What can be done with the nib in hand, and with the whole rack. */
function RackTools({ onMade }: Pick<NibRackProps, 'onMade'>) {
  const { id, favourite, nib } = useRackNib();
  const canUndo = useRack((state) => state.past.length > 0);
  const made = (make: () => void) => {
    make();
    onMade();
  };
  const bringIn = async () => {
    const text = await chooseText('.json,application/json');
    if (text === undefined) return;
    try {
      const count = importNibs(rackFromText(text));
      say(addedInWords(count), {
        label: 'Put it back',
        run: () => void undoRack(),
      });
    } catch (error) {
      sayError(error);
    }
  };
  return (
    <View role="toolbar" aria-label="Nib rack tools" className="flex-row flex-wrap">
      <IconButton
        label={favourite ? 'No favourite any more' : 'Make it a favourite'}
        icon={Star}
        onPress={() => changeRackNib((one) => ({ ...one, favourite: !one.favourite }))}
      />
      <IconButton label="New nib" icon={Plus} onPress={() => made(createNib)} />
      <IconButton
        label="Copy this nib"
        icon={Copy}
        onPress={() => undoable(`${nib.name} was copied.`, () => made(duplicateNib))}
      />
      <IconButton
        label="As it came with the desk"
        icon={RotateCcw}
        disabled={!shippedNib(id)}
        onPress={() => undoable(`${nib.name} is as it came.`, resetNib)}
      />
      <IconButton
        label="Delete this nib"
        icon={Trash}
        onPress={() => undoable(`${nib.name} was deleted.`, deleteNib)}
      />
      <IconButton label="Take back in the rack" icon={Undo2} disabled={!canUndo} onPress={() => void undoRack()} />
      <IconButton
        label="Export the rack"
        icon={Download}
        onPress={() =>
          download(new Blob([rackToText(useRack.getState().rack)], { type: 'application/json' }), 'nib-rack.json')
        }
      />
      <IconButton label="Import nibs" icon={Upload} onPress={() => void bringIn()} />
    </View>
  );
}

const addedInWords = (count: number): string =>
  count === 0
    ? 'All nibs of that file lie in the rack already.'
    : count === 1
      ? 'One nib was added to the rack.'
      : `${count} nibs were added to the rack.`;
