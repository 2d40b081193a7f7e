import { panelLayers } from '@true-nib/core/comic';
import { changeLayers, LAYER_MARKS, restyleLayer, type LayerEntity, type Page, type Change } from '@true-nib/core/page';
import { PLAIN_STYLE, type InkStyle, type Nib } from '@true-nib/core/nib';
import { useState } from 'react';
import { Pressable, Text, TextInput, View } from 'react-native';
import { Button, Choice, Fold, ScrubNumber, Switch, web, ColourSheet } from '../look';
import { useBoard, usePage, useDesk, layerInHand } from '../board';
import { useNib } from '../nibs';
import { inkToPixels, tellLayers, toggleSolo } from './layerCommands';

/** What is said about the layer in hand: name, mark, fade, and how it shows its lines. */
export function LayerSettings() {
  const board = useBoard();
  const page = usePage(board);
  const layer = layerInHand(
    page,
    useDesk((desk) => desk.layerId),
  )?.layer;
  const isSolo = useDesk((desk) => layer !== undefined && desk.solo.includes(layer.id));
  if (!layer) return null;
  const hasPanels = panelLayers(page).size > 0;
  const tell = (label: string, change: Parameters<typeof changeLayers>[3]) =>
    tellLayers(board, [layer.id], label, change);
  const show = (draft: (page: Page) => Change) => board.picture.preview(draft(board.picture.shownPage).edits);
  return (
    <View className="gap-2 border-t border-rule pt-2" testID="layer-settings">
      <NameField key={layer.id} layer={layer} onRename={(name) => tell('Rename the layer', { name })} />
      <Marks mark={layer.mark} onChange={(mark) => tell('Mark the layer', { mark })} />
      <ScrubNumber
        label="Fade"
        value={Math.round(layer.opacity * 100)}
        onChange={(percent) => show((now) => changeLayers(now, [layer.id], 'Fade', { opacity: percent / 100 }))}
        onSettled={(percent) => tell('Fade the layer', { opacity: percent / 100 })}
        {...{ least: 0, most: 100, step: 1, unit: ' %' }}
      />
      <Switch label="Alone: hide all others" on={isSolo} onChange={() => toggleSolo(layer)} />
      {(layer.medium === 'ink' || layer.medium === 'wash') && (
        <>
          <Switch
            label="Hold shape: only colour what is there"
            on={layer.holdsShape}
            onChange={(holdsShape) => tell(holdsShape ? 'Hold the shape' : 'Let the shape go', { holdsShape })}
          />
          {hasPanels && (
            <Switch
              label="Free: goes over the borders of panels"
              on={layer.free ?? false}
              onChange={(free) => tell(free ? 'Let the layer over borders' : 'Keep the layer in its panels', { free })}
            />
          )}
          <StandIn layer={layer} onChange={(standIn) => tell('Stand-in colour', { standIn })} />
          {layer.medium === 'ink' && (
            <>
              <Fold title="All lines of this layer" note={isAsDrawn(layer.style) ? undefined : 'changed'}>
                <LineStyle layer={layer} show={show} />
              </Fold>
              <Button label="To pixels, keep the lines" onPress={() => void inkToPixels(board)} />
            </>
          )}
        </>
      )}
    </View>
  );
}

function NameField({ layer, onRename }: { readonly layer: LayerEntity; readonly onRename: (name: string) => void }) {
  const [typed, setTyped] = useState<string>();
  const finish = () => {
    const wanted = typed?.trim();
    setTyped(undefined);
    if (wanted && wanted !== layer.name) onRename(wanted);
  };
  return (
    <TextInput
      value={typed ?? layer.name}
      onChangeText={setTyped}
      onBlur={finish}
      onSubmitEditing={finish}
      maxLength={200}
      aria-label="Name of the layer"
      className="min-h-[44px] rounded-xl border border-edge bg-raised px-3 font-bold text-14 text-ink"
    />
  );
}

function Marks({ mark, onChange }: { readonly mark?: string; readonly onChange: (mark: string | undefined) => void }) {
  return (
    <View role="radiogroup" aria-label="Mark" className="flex-row items-center">
      <Text className="grow font-sans text-12 text-faint">Mark</Text>
      {[{ name: 'None', color: undefined }, ...LAYER_MARKS].map(({ name, color }) => (
        <Pressable
          key={name}
          role="radio"
          aria-checked={mark === color}
          aria-label={name}
          onPress={() => onChange(color)}
          className="h-11 w-[27px] items-center justify-center"
          {...web({ title: name })}
        >
          <View
            className={`h-6 w-[14px] rounded-full border ${mark === color ? 'border-2 border-ink' : 'border-edge'}`}
            style={{ backgroundColor: color ?? 'transparent' }}
          />
        </Pressable>
      ))}
    </View>
  );
}

/** Bright colours to work in, told apart from ink, paper and the blue of roughs. */
const STAND_IN = '#d6336c';

function StandIn({
  layer,
  onChange,
}: {
  readonly layer: LayerEntity;
  readonly onChange: (color: string | undefined) => void;
}) {
  const isOn = layer.standIn !== undefined;
  const [isChoosing, setChoosing] = useState(false);
  return (
    <View className="flex-row items-center gap-2">
      <View className="flex-1">
        <Switch label="Stand-in colour" on={isOn} onChange={(on) => onChange(on ? STAND_IN : undefined)} />
      </View>
      {isOn && (
        <Pressable
          role="button"
          aria-label="Which stand-in colour"
          onPress={() => setChoosing(true)}
          className="h-11 w-11 items-center justify-center"
        >
          <View className="h-8 w-8 rounded-full border border-edge" style={{ backgroundColor: layer.standIn }} />
        </Pressable>
      )}
      {isChoosing && layer.standIn && (
        <ColourSheet colour={layer.standIn} onChange={onChange} onClose={() => setChoosing(false)} />
      )}
    </View>
  );
}

const isAsDrawn = ({ color, widthFactor, nib, edge }: InkStyle = PLAIN_STYLE): boolean =>
  color === undefined && widthFactor === 1 && !nib && edge === 'soft';

interface LineStyleProps {
  readonly layer: LayerEntity;
  readonly show: (draft: (page: Page) => Change) => void;
}

/** All lines of an Ink layer in another colour, weight, nib or edge; none of them is changed for good. */
function LineStyle({ layer, show }: LineStyleProps) {
  const board = useBoard();
  const inHand = useNib();
  const [isChoosing, setChoosing] = useState(false);
  const style = layer.style ?? PLAIN_STYLE;
  const styled = (change: Partial<InkStyle>): InkStyle => ({ ...style, ...change });
  const restyle = (next: InkStyle) => board.session.attempt((page) => restyleLayer(page, layer.id, next));
  const { color: _colour, ...uncoloured } = style;
  const { nib: _nib, ...ownNibs } = style;
  return (
    <>
      <View className="flex-row items-center gap-2">
        <Choice
          label="Colour of all lines"
          value={style.color === undefined ? 'own' : 'one'}
          options={[
            { value: 'own', label: 'As drawn' },
            { value: 'one', label: 'One colour' },
          ]}
          onChange={(kind) => (kind === 'own' ? restyle(uncoloured) : setChoosing(true))}
        />
        {style.color !== undefined && (
          <Pressable
            role="button"
            aria-label="Which colour"
            onPress={() => setChoosing(true)}
            className="h-11 w-11 items-center justify-center"
          >
            <View className="h-8 w-8 rounded-full border border-edge" style={{ backgroundColor: style.color }} />
          </Pressable>
        )}
      </View>
      {isChoosing && (
        <ColourSheet
          colour={style.color ?? '#2a4b8d'}
          onChange={(color) => restyle(styled({ color }))}
          onClose={() => setChoosing(false)}
        />
      )}
      <View className="flex-row">
        <ScrubNumber
          label="Width ×"
          value={style.widthFactor}
          onChange={(widthFactor) => show((page) => restyleLayer(page, layer.id, styled({ widthFactor })))}
          onSettled={(widthFactor) => restyle(styled({ widthFactor }))}
          {...{ least: 0.1, most: 10, step: 0.05, geometric: true }}
        />
      </View>
      <Choice
        label="Nib of all lines"
        value={style.nib?.name ?? ''}
        options={nibChoices(style.nib, inHand)}
        perRow={2}
        onChange={(name) => {
          const nib = [style.nib, inHand].find((one) => one?.name === name);
          restyle(nib ? styled({ nib }) : ownNibs);
        }}
      />
      <Choice
        label="Edge"
        value={style.edge}
        options={[
          { value: 'soft', label: 'Soft edge' },
          { value: 'hard', label: 'Hard edge' },
        ]}
        onChange={(edge) => restyle(styled({ edge }))}
      />
    </>
  );
}

/** As drawn, the nib that all lines have now, and the one in hand. */
function nibChoices(nib: Nib | undefined, inHand: Nib): { readonly value: string; readonly label: string }[] {
  const names = new Set([nib?.name, inHand.name].filter((name) => name !== undefined));
  return [{ value: '', label: 'As drawn' }, ...[...names].map((name) => ({ value: name, label: name }))];
}
