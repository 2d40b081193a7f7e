import { inThousands } from '../base';
import {
  PAGE_FORMATS,
  printsWell,
  PRINTABLE_SHORT_SIDE,
  sizeOf,
  type PageFormat,
  type PageSize,
} from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { createPage, KEYS } from '../api';
import { Button, Choice, Field, sayError, Sheet } from '../look';

interface NewPageSheetProps {
  readonly folioId: string;
  /** How many pages the folio has already. */
  readonly count: number;
  readonly onClose: () => void;
}

/** Chooses a size for a new page: from the table, or one's own. */
export function NewPageSheet({ folioId, count, onClose }: NewPageSheetProps) {
  const usualName = `Page ${count + 1}`;
  const [name, setName] = useState(usualName);
  const [chosen, setChosen] = useState('comic');
  const [own, setOwn] = useState<OwnSize>({ width: '210', height: '297', unit: 'mm' });
  const [ppi, setPpi] = useState('400');
  const [orientation, setOrientation] = useState<'portrait' | 'landscape'>('portrait');
  const format = PAGE_FORMATS.find(({ id }) => id === chosen) ?? { ...numbers(own), unit: own.unit, ppi: Number(ppi) };
  const size = sizeFrom(format, Number(ppi), orientation === 'landscape');
  const create = useNewPage(onClose);
  const choose = (id: string) => {
    setChosen(id);
    const { ppi: usual } = PAGE_FORMATS.find((one) => one.id === id) ?? { ppi: 350 };
    setPpi(String(usual));
  };
  const footer = (
    <>
      <View className="flex-row items-end gap-3">
        <Field label="ppi" value={ppi} onChange={setPpi} numeric />
        <Choice
          label="Orientation"
          value={orientation}
          onChange={setOrientation}
          options={[
            { value: 'portrait', label: 'Portrait' },
            { value: 'landscape', label: 'Landscape' },
          ]}
        />
      </View>
      <SizeInWords size={size} />
      <Button
        label="Make the page"
        tone="seal"
        disabled={typeof size === 'string' || create.isPending}
        onPress={() => typeof size !== 'string' && create.mutate({ folioId, name: name.trim() || usualName, ...size })}
      />
    </>
  );
  return (
    <Sheet title="New page" onClose={onClose} footer={footer}>
      <Field label="Name" value={name} onChange={setName} />
      <View role="radiogroup" aria-label="Size" className="overflow-hidden rounded-xl border border-edge bg-raised">
        {PAGE_FORMATS.map((one) => (
          <FormatRow
            key={one.id}
            name={one.name}
            detail={inWords(one)}
            isChosen={chosen === one.id}
            onPress={() => choose(one.id)}
          />
        ))}
        <FormatRow name="Own size" detail="in mm, in or px" isChosen={chosen === 'own'} onPress={() => choose('own')} />
      </View>
      {chosen === 'own' && <OwnSizeFields own={own} onChange={setOwn} />}
    </Sheet>
  );
}

/** Makes a page and opens it. */
function useNewPage(onMade: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: createPage,
    onSuccess: async (page) => {
      onMade();
      await queries.invalidateQueries({ queryKey: KEYS.shelf });
      router.push(`/page/${page.id}`);
    },
    onError: sayError,
  });
}

/** How large the page will be, or why it cannot be. */
function SizeInWords({ size }: { readonly size: PageSize | string }) {
  if (typeof size === 'string')
    return (
      <Text role="alert" className="font-sans text-14 text-seal">
        {size}
      </Text>
    );
  return (
    <Text className="font-sans text-14 text-faint">
      {`${size.width} × ${size.height} px`}
      {!printsWell(size) && `. Under ${inThousands(PRINTABLE_SHORT_SIDE)} px on its short side it will not print well.`}
    </Text>
  );
}

interface OwnSize {
  readonly width: string;
  readonly height: string;
  readonly unit: PageFormat['unit'];
}

interface OwnSizeProps {
  readonly own: OwnSize;
  readonly onChange: (own: OwnSize) => void;
}

function OwnSizeFields({ own, onChange }: OwnSizeProps) {
  return (
    <>
      <View className="flex-row gap-3">
        <Field label="Width" value={own.width} onChange={(width) => onChange({ ...own, width })} numeric />
        <Field label="Height" value={own.height} onChange={(height) => onChange({ ...own, height })} numeric />
      </View>
      <Choice
        label="Unit"
        value={own.unit}
        onChange={(unit) => onChange({ ...own, unit })}
        options={[
          { value: 'mm', label: 'mm' },
          { value: 'in', label: 'in' },
          { value: 'px', label: 'px' },
        ]}
      />
    </>
  );
}

function FormatRow({
  name,
  detail,
  isChosen,
  onPress,
}: {
  readonly name: string;
  readonly detail: string;
  readonly isChosen: boolean;
  readonly onPress: () => void;
}) {
  return (
    <Pressable
      role="radio"
      aria-checked={isChosen}
      onPress={onPress}
      className={`min-h-[44px] flex-row items-center justify-between gap-2 border-b border-rule px-3 ${isChosen ? 'bg-tray' : ''}`}
    >
      <Text className={`text-14 ${isChosen ? 'font-bold text-seal' : 'font-sans text-ink'}`}>{name}</Text>
      <Text className="shrink text-right font-sans text-12 text-faint" numberOfLines={1}>
        {detail}
      </Text>
    </Pressable>
  );
}

const numbers = ({ width, height }: { width: string; height: string }) => ({
  width: Number(width.replace(',', '.')),
  height: Number(height.replace(',', '.')),
});

function inWords(format: PageFormat): string {
  const { width, height } = sizeOf(format);
  const paper = format.unit === 'px' ? '' : `${format.width} × ${format.height} ${format.unit} · `;
  return `${paper}${width} × ${height} px · ${format.ppi} ppi`;
}

/** The size in px, or what is wrong with it. */
function sizeFrom(format: Parameters<typeof sizeOf>[0], ppi: number, lying: boolean): PageSize | string {
  try {
    return sizeOf(format, { ppi, lying });
  } catch (error) {
    if (error instanceof PageError) return error.message;
    throw error;
  }
}
