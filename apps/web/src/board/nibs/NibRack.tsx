import { foundIn, groupsOf, rackFromText, rackToText, shippedNib, type RackNib } from '@true-nib/core/rack';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
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
import { IconButton } from '../../look/Button';
import { Field } from '../../look/Field';
import { say, sayError } from '../../look/notices';
import { Icon } from '../../look/Icon';
import { chooseText, download } from '../../look/files';
import { takeNib, useDesk } from '../desk';
import { LiveNib } from '../LiveNib';
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
}

/** The rack: what is looked for, the nibs by group as the lines they draw, and what can be done with them. */
export function NibRack({ width, perRow }: NibRackProps) {
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
              <GroupHead name={group} isOpen={isOpen(group)} onPress={() => toggle(group)} />
              {isOpen(group) && <Nibs nibs={rack.filter((nib) => nib.group === group)} {...size} />}
            </View>
          ))}
      </View>
      <RackTools />
      <NameSettings />
    </View>
  );
}

function GroupHead({
  name,
  isOpen,
  onPress,
}: {
  readonly name: string;
  readonly isOpen: boolean;
  readonly onPress: () => void;
}) {
  return (
    <Pressable
      role="button"
      aria-expanded={isOpen}
      aria-label={`${name}, group of nibs`}
      onPress={onPress}
      className="min-h-[44px] flex-row items-center gap-1"
    >
      <Icon of={isOpen ? ChevronDown : ChevronRight} size={16} />
      <Text className="font-bold text-14 text-ink">{name}</Text>
    </Pressable>
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
function RackTools() {
  const { id, favourite, nib } = useRackNib();
  const canUndo = useRack((state) => state.past.length > 0);
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
      <IconButton label="New nib" icon={Plus} onPress={createNib} />
      <IconButton label="Copy this nib" icon={Copy} onPress={() => undoable(`${nib.name} was copied.`, duplicateNib)} />
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

/** What the nib in hand is called and where it lies; named anew when the typing has ended. */
function NameSettings() {
  const { id, nib, group } = useRackNib();
  return <NameFields key={id} name={nib.name} group={group} />;
}

function NameFields({ name, group }: { readonly name: string; readonly group: string }) {
  const [names, setNames] = useState({ name, group });
  const keep = () => {
    const [newName, newGroup] = [names.name.trim() || name, names.group.trim() || group];
    setNames({ name: newName, group: newGroup });
    changeRackNib((one) => ({ ...one, group: newGroup, nib: { ...one.nib, name: newName } }));
  };
  return (
    <View className="gap-2">
      <Field
        label="Name of the nib"
        value={names.name}
        onChange={(text) => setNames({ ...names, name: text })}
        onSubmit={keep}
        onBlur={keep}
      />
      <Field
        label="Group"
        value={names.group}
        onChange={(text) => setNames({ ...names, group: text })}
        onSubmit={keep}
        onBlur={keep}
      />
    </View>
  );
}
