import type { WeightShare } from '@true-nib/core/audit';
import { View } from 'react-native';
import { Faint } from '../../look';
import { BarsLater } from './charts';
import { usePressDesk } from './pressStore';
import { useWhilePageRests } from './useWhilePageRests';

/** How much line there is of each width of technical pens, as printed. */
export function WeightsShown({ width }: { readonly width: number }) {
  const scale = usePressDesk((state) => state.scale);
  const weights = useWhilePageRests(({ picture }) => picture.inks.beside.weights(scale), String(scale));
  const used = weights && inUse(weights);
  if (!used) return <Faint>Looking …</Faint>;
  if (used.length === 0) return <Faint>There are no lines yet.</Faint>;
  const metres = used.map(({ pen, length }) => ({ label: String(pen), value: length / 1000 }));
  return (
    <View role="img" aria-label={weightsInWords(used)} className="gap-1">
      <BarsLater bars={metres} width={width} height={110} />
      <Faint>Metres of line by the nearest pen, mm as printed. Pens are those of ISO 9175-1.</Faint>
    </View>
  );
}

/** The pens from the finest to the broadest that is used; none where there is no line. */
function inUse(weights: readonly WeightShare[]): readonly WeightShare[] {
  const from = weights.findIndex(({ length }) => length > 0);
  return from < 0 ? [] : weights.slice(from, weights.findLastIndex(({ length }) => length > 0) + 1);
}

const weightsInWords = (weights: readonly WeightShare[]): string =>
  weights.map(({ pen, length }) => `${pen} mm: ${(length / 1000).toFixed(1)} m`).join(', ');
