import { selectionSlot } from './selection';
import type { Calm } from '@true-nib/core/hand';
import { useMemo, useState } from 'react';
import { Text, View } from 'react-native';
import { useBoard } from '../board';
import { CalmFields } from '../nibs';
import { Recalming } from './recalming';
import { useSelectedLines } from './useSelection';

/** Calms the selected lines again, or brings them back to life, from the hand that drew them. */
export function RecalmSettings({ width }: { readonly width: number }) {
  const board = useBoard();
  const size = useSelectedLines();
  const recalming = useMemo(() => new Recalming(board), [board]);
  const calm = size > 0 ? recalming.calm : undefined;
  if (size === 0) return null;
  return (
    <View className="gap-2" testID="recalm">
      <Text role="heading" className="pt-2 font-bold text-12 text-faint">
        Re-calm
      </Text>
      {calm ? (
        <Fields key={board.of(selectionSlot).strokes[0]?.id} recalming={recalming} calm={calm} width={width} />
      ) : (
        <Text className="font-sans text-14 text-faint">These lines have left their samples, or never had any.</Text>
      )}
    </View>
  );
}

interface FieldsProps {
  readonly recalming: Recalming;
  readonly calm: Calm;
  readonly width: number;
}

function Fields({ recalming, calm, width }: FieldsProps) {
  const [wanted, setWanted] = useState(calm);
  return (
    <CalmFields
      calm={wanted}
      onChange={(next) => {
        setWanted(next);
        void recalming.show(next);
      }}
      onSettled={(next) => void recalming.keep(next)}
      hasStrength
      width={width}
    />
  );
}
