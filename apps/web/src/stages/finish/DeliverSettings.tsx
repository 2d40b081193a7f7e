import { sameValue } from '@true-nib/core/gate';
import { pxToMm, paperOf, ofKind, sheetOf, WHITE_PAPER, type Page } from '@true-nib/core/page';
import Download from 'lucide-react-native/icons/download';
import { useBoard, usePage } from '../../board';
import {
  isBilevel,
  isPicture,
  pxFor,
  scaleFor,
  SHIPPED_PRESETS,
  useDeliverChoice,
  useDeliveries,
  type DeliverChoice,
  type FileKind,
} from '../../deliver';
import { useState } from 'react';
import { View } from 'react-native';
import { Button, Choice, Faint, Field, Line, PictureChoice, ScrubNumber, Switch } from '../../look';
import { deliverFrom } from './delivering';
import { usePageDelivery } from './deliverStore';
import { PagesSetting } from './PagesSetting';
import { PreviewButton } from './Preview';
import { KIND_PICTURES, PRESET_PICTURES } from './pictures';
import { slicesFor } from './sliceHand';

const useChoice = (): DeliverChoice => useDeliverChoice(({ choice }) => choice);

function choose(change: Partial<DeliverChoice>): void {
  useDeliverChoice.setState(({ choice }) => ({ choice: { ...choice, ...change } }));
}

const FILES: readonly { readonly value: FileKind; readonly label: string }[] = [
  { value: 'png', label: 'PNG' },
  { value: 'svg', label: 'SVG' },
  { value: 'pdf', label: 'PDF' },
  { value: 'jpeg', label: 'JPEG' },
  { value: 'webp', label: 'WebP' },
  { value: 'tiff', label: 'TIFF' },
  { value: 'ora', label: 'ORA' },
];

/** What files of a kind are called on a button. */
const labelOf = (as: FileKind): string =>
  as === 'ora' ? 'OpenRaster' : (FILES.find(({ value }) => value === as)?.label ?? '');

export function DeliverButton() {
  const board = useBoard();
  const { as } = useChoice();
  const isUnderway = useDeliveries(({ underway }) => underway !== undefined);
  return (
    <Button
      label={`Deliver ${labelOf(as)}`}
      icon={Download}
      tone="seal"
      disabled={isUnderway}
      onPress={() => void deliverFrom(board)}
    />
  );
}

export function FileKindSetting() {
  const { as } = useChoice();
  return <Choice label="File" value={as} options={FILES} perRow={4} onChange={(kind) => choose({ as: kind })} />;
}

/** Presets as small drawings: those of the desk, and the artist's own. */
export function PresetSetting() {
  const choice = useChoice();
  const presets = useDeliverChoice((state) => state.presets);
  const all = [...SHIPPED_PRESETS, ...presets];
  const inHand = all.find((preset) => sameValue(preset.choice, choice))?.id;
  return (
    <PictureChoice
      label="Delivered as"
      value={inHand}
      isLines
      options={all.map(({ id, name, choice: { as } }) => ({
        ...{ value: id, label: name },
        picture: PRESET_PICTURES[id] ?? KIND_PICTURES[as],
      }))}
      onChange={(id) => {
        const chosen = all.find((preset) => preset.id === id);
        if (chosen) useDeliverChoice.setState({ choice: chosen.choice });
      }}
    />
  );
}

/** Keeps the choice as a preset, or lets go of the one in hand. */
export function OwnPresetSetting() {
  const choice = useChoice();
  const presets = useDeliverChoice((state) => state.presets);
  const [name, setName] = useState('');
  const own = presets.find((preset) => sameValue(preset.choice, choice));
  if (own)
    return (
      <Button
        label={`Forget “${own.name}”`}
        onPress={() => useDeliverChoice.setState({ presets: presets.filter((preset) => preset !== own) })}
      />
    );
  if (SHIPPED_PRESETS.some((preset) => sameValue(preset.choice, choice))) return null;
  const keep = () => {
    const kept = name.trim().slice(0, 40);
    if (kept === '') return;
    useDeliverChoice.setState({ presets: [...presets, { id: `own-${Date.now()}`, name: kept, choice }] });
    setName('');
  };
  return <Field label="Keep as a preset" value={name} onChange={setName} onSubmit={keep} onBlur={keep} />;
}

const SIZES = [
  { value: 'scale', label: 'Share' },
  { value: 'width', label: 'Width' },
  { value: 'height', label: 'Height' },
] as const;

const SCALES = [
  { value: '1', label: '100 %' },
  { value: '0.5', label: '50 %' },
  { value: '0.25', label: '25 %' },
] as const;

/** How large a picture is: the shares that are mostly wanted, in one row. */
export function ScaleChoice({ perRow = 3 }: { readonly perRow?: number }) {
  const choice = useChoice();
  if (!isPicture(choice)) return null;
  const value =
    choice.sizeBy === 'scale' ? SCALES.find((scale) => Number(scale.value) === choice.scale)?.value : undefined;
  return (
    <Choice
      label="Size of the picture"
      perRow={perRow}
      value={value ?? 'other'}
      options={SCALES}
      onChange={(scale) => choose({ sizeBy: 'scale', scale: Number(scale) })}
    />
  );
}

function SizeSetting({ isWide }: { readonly isWide: boolean }) {
  const choice = useChoice();
  if (!isPicture(choice)) return null;
  const { sizeBy, scale, px } = choice;
  return (
    <>
      {isWide && (
        <Line>
          <ScaleChoice />
        </Line>
      )}
      <Line>
        <Choice label="Size by" value={sizeBy} options={SIZES} onChange={(by) => choose({ sizeBy: by })} />
      </Line>
      <Line>
        {sizeBy === 'scale' ? (
          <ScrubNumber
            label="Share of the page"
            value={Math.round(scale * 1000) / 10}
            onChange={(share) => choose({ scale: share / 100 })}
            {...{ least: 5, most: 400, step: 1, unit: ' %' }}
          />
        ) : (
          <ScrubNumber
            label={sizeBy === 'width' ? 'Width of the picture' : 'Height of the picture'}
            value={px}
            onChange={(next) => choose({ px: next })}
            {...{ least: 50, most: 20_000, step: 10, unit: ' px' }}
          />
        )}
      </Line>
    </>
  );
}

function SliceSetting() {
  const choice = useChoice();
  if (!isPicture(choice)) return null;
  return (
    <>
      <Switch label="In slices" on={choice.isSliced} onChange={(isSliced) => choose({ isSliced })} />
      {choice.isSliced && (
        <Line>
          <ScrubNumber
            label="Highest slice"
            value={choice.highest}
            onChange={(highest) => choose({ highest })}
            {...{ least: 100, most: 20_000, step: 10, unit: ' px' }}
          />
        </Line>
      )}
    </>
  );
}

/** What a kind of file lets be chosen besides. */
function KindSettings() {
  const choice = useChoice();
  const hasRough = ofKind(usePage(useBoard()), 'picture').length > 0;
  const { as, isOneBit, onPaper, withRough, cropMarks, pureBlack, inSpreads, quality, chosenLayers } = choice;
  return (
    <>
      {as === 'png' && (
        <Switch label="Black and white only, 1-bit" on={isOneBit} onChange={(on) => choose({ isOneBit: on })} />
      )}
      {(as === 'jpeg' || as === 'webp') && (
        <Line>
          <ScrubNumber
            label="Quality"
            value={quality}
            onChange={(next) => choose({ quality: next })}
            {...{ least: 30, most: 100, step: 1 }}
          />
        </Line>
      )}
      {as === 'pdf' && (
        <>
          <Switch label="Dark inks as pure black" on={pureBlack} onChange={(on) => choose({ pureBlack: on })} />
          <Switch label="Crop marks" on={cropMarks} onChange={(on) => choose({ cropMarks: on })} />
          <Switch label="Pages side by side" on={inSpreads} onChange={(on) => choose({ inSpreads: on })} />
        </>
      )}
      {hasRough && !isBilevel(choice) && (
        <Switch label="With the rough" on={withRough} onChange={(on) => choose({ withRough: on })} />
      )}
      {as !== 'jpeg' && !isBilevel(choice) && (
        <Switch label="On its paper" on={onPaper} onChange={(on) => choose({ onPaper: on })} />
      )}
      <Switch label="Only the layers in hand" on={chosenLayers} onChange={(on) => choose({ chosenLayers: on })} />
    </>
  );
}

const paperInWords = (paper: string | null, onPaper: boolean): string =>
  paper === null || !onPaper
    ? 'transparent where nothing is drawn'
    : paper === WHITE_PAPER
      ? 'on white paper'
      : 'on tinted paper';

/** What the file will be, in words. */
export function DeliveryInWords() {
  const choice = useChoice();
  const page = usePage(useBoard());
  usePageDelivery((state) => state.cuts);
  return <Faint>{deliveryInWords(page, choice)}</Faint>;
}

function deliveryInWords(page: Page, choice: DeliverChoice): string {
  const { width, height, ppi } = page.size;
  const mm = (length: number) => pxToMm(length, ppi).toFixed(1);
  const size = `${mm(width)} × ${mm(height)} mm`;
  switch (choice.as) {
    case 'svg':
      return `Vectors, ${size}, one path a stroke, a group for each layer.`;
    case 'pdf': {
      const { bleed } = sheetOf(page);
      return `Vectors, ${size}${bleed > 0 ? `, cut to ${mm(width - 2 * bleed)} × ${mm(height - 2 * bleed)} mm` : ''}. Lettering goes as outlines.`;
    }
    case 'ora':
      return `All layers that are seen, as pictures of ${width} × ${height} px.`;
    default:
      return pictureInWords(page, choice);
  }
}

function pictureInWords(page: Page, choice: DeliverChoice): string {
  try {
    const px = pxFor(choice, page.size);
    const ppi = Math.round(page.size.ppi * scaleFor(choice, page.size));
    const ground = isBilevel(choice)
      ? 'without one grey px'
      : paperInWords(paperOf(page), choice.onPaper || choice.as === 'jpeg');
    const slices = slicesFor(page);
    const cut = slices.length > 1 ? ` ${slicesInWords(slices)}` : '';
    return `${px.width} × ${px.height} px at ${ppi} ppi, ${ground}.${cut}`;
  } catch (error) {
    return error instanceof Error ? error.message : '';
  }
}

function slicesInWords(slices: ReturnType<typeof slicesFor>): string {
  const hits = slices.filter((slice) => slice.hits).length;
  return `${slices.length} slices; ${hits === 0 ? 'no cut goes through anything' : hits === 1 ? 'one cut goes through something' : `${hits} cuts go through something`}. Drag a line to move it.`;
}

export function DeliverSettings({ isWide }: { readonly isWide: boolean }) {
  return (
    <View className="gap-2">
      <PresetSetting />
      {isWide && (
        <>
          <Line>
            <FileKindSetting />
          </Line>
          <DeliverButton />
        </>
      )}
      <PreviewButton />
      <DeliveryInWords />
      <SizeSetting isWide={isWide} />
      <SliceSetting />
      <KindSettings />
      <PagesSetting />
      <OwnPresetSetting />
    </View>
  );
}
