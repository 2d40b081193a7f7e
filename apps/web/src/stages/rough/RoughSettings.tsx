import { clamp } from '@true-nib/core/math';
import {
  changeLayers,
  find,
  mmToPx,
  pxToMm,
  roughsOf,
  type PictureEntity,
  type Placement,
  type Tint,
} from '@true-nib/core/page';
import { changeRough, fitRough, layRough, removeRough } from '@true-nib/core/tools';
import Trash from 'lucide-react-native/icons/trash';
import { Button, Choice, ScrubNumber } from '../../look';
import { useBoard, usePage, useDesk } from '../../board';
import { roughOf } from '../trace';

/** The rough in hand, and what can be done to it. Settings are shown live and become one change when the hand lets go. */
export function useRough() {
  const board = useBoard();
  const page = usePage(board);
  const rough = roughOf(
    page,
    useDesk((desk) => desk.roughId),
  );
  const layer = rough && find(page, 'layer', rough.layerId);
  if (!rough || !layer) return undefined;
  const { session, picture } = board;
  return {
    rough,
    layer,
    isOver: roughsOf(page).over.some(({ pictures }) => pictures.includes(rough)),
    /** Shows a change without making it. */
    show: (change: Partial<PictureEntity>) => {
      const shown = find(picture.shownPage, 'picture', rough.id) ?? rough;
      const after = { ...shown, ...change };
      picture.preview([{ before: shown, after }]);
      if (!layer.locked) picture.setGrips(after);
    },
    change: (label: string, change: Partial<PictureEntity>) => session.make(changeRough(rough, label, change)),
    lock: (locked: boolean) =>
      session.attempt((now) =>
        changeLayers(now, [layer.id], locked ? 'Lock the rough' : 'Unlock the rough', { locked }),
      ),
    lay: (place: 'under' | 'over') => session.make(layRough(page, layer, place)),
    fit: () => session.make(fitRough(page, rough)),
    remove: () => session.make(removeRough(layer, rough)),
  };
}

export type RoughActions = NonNullable<ReturnType<typeof useRough>>;

export function OpacitySetting({ rough, show, change }: RoughActions) {
  return (
    <ScrubNumber
      label="Opacity"
      value={Math.round(rough.opacity * 100)}
      onChange={(percent) => show({ opacity: percent / 100 })}
      onSettled={(percent) => change('Dim the rough', { opacity: percent / 100 })}
      {...{ least: 0, most: 100, step: 1, unit: ' %' }}
    />
  );
}

export function ScaleSetting({ rough, layer, show, change }: RoughActions) {
  const placed = (percent: number): Partial<PictureEntity> => ({
    placement: { ...rough.placement, scale: percent / 100 },
  });
  return (
    <ScrubNumber
      label="Size"
      value={Math.round(rough.placement.scale * 1000) / 10}
      onChange={(percent) => show(placed(percent))}
      onSettled={(percent) => change('Size the rough', placed(percent))}
      disabled={layer.locked}
      {...{ least: 1, most: 1_000, step: 0.1, unit: ' %', geometric: true }}
    />
  );
}

export function TurnSetting({ rough, layer, show, change }: RoughActions) {
  const placed = (degrees: number): Partial<PictureEntity> => ({
    placement: { ...rough.placement, angle: (degrees * Math.PI) / 180 },
  });
  return (
    <ScrubNumber
      label="Turn"
      value={Math.round((rough.placement.angle * 1800) / Math.PI) / 10}
      onChange={(degrees) => show(placed(degrees))}
      onSettled={(degrees) => change('Turn the rough', placed(degrees))}
      disabled={layer.locked}
      {...{ least: -180, most: 180, step: 0.1, unit: '°' }}
    />
  );
}

/** Where the middle of the rough lies, in mm from the page's top left corner. */
export function PlaceSetting({ axis, rough, layer, show, change }: RoughActions & { readonly axis: 'x' | 'y' }) {
  const { width, height, ppi } = usePage(useBoard()).size;
  const placed = (mm: number): { placement: Placement } => ({
    placement: { ...rough.placement, [axis]: mmToPx(mm, ppi) },
  });
  const reach = Math.round(pxToMm(axis === 'x' ? width : height, ppi));
  return (
    <ScrubNumber
      label={axis === 'x' ? 'Across' : 'Down'}
      value={clamp(Math.round(pxToMm(rough.placement[axis], ppi) * 10) / 10, -reach, 2 * reach)}
      onChange={(mm) => show(placed(mm))}
      onSettled={(mm) => change('Move the rough', placed(mm))}
      disabled={layer.locked}
      {...{ least: -reach, most: 2 * reach, step: 0.1, unit: ' mm' }}
    />
  );
}

const TINTS: readonly { readonly value: Tint; readonly label: string }[] = [
  { value: 'blue', label: 'Blue' },
  { value: 'grey', label: 'Grey' },
  { value: 'none', label: 'As it is' },
];

export const TintSetting = ({ rough, change }: RoughActions) => (
  <Choice label="Tint" value={rough.tint} options={TINTS} onChange={(tint) => change('Tint the rough', { tint })} />
);

export const OrderSetting = ({ isOver, lay }: RoughActions) => (
  <Choice
    label="Under or over the inks"
    value={isOver ? 'over' : 'under'}
    onChange={lay}
    options={[
      { value: 'under', label: 'Under inks' },
      { value: 'over', label: 'Over inks' },
    ]}
  />
);

export const RemoveRough = ({ layer, remove }: RoughActions) => (
  <Button label="Take away" icon={Trash} disabled={layer.locked} onPress={remove} />
);
