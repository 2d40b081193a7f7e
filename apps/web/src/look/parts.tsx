import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { ScrubNumber } from './ScrubNumber';

export const Line = ({ children }: { readonly children: ReactNode }) => (
  <View className="flex-row gap-2">{children}</View>
);

export const Faint = ({ children }: { readonly children: ReactNode }) => (
  <Text className="font-sans text-14 text-faint">{children}</Text>
);

interface SettledProps {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly least: number;
  readonly most: number;
  readonly step?: number;
  /** Shows what a number would do, until it is settled. */
  readonly onChange?: (value: number) => void;
  readonly onSettled: (value: number) => void;
}

/** A number of a guide: it is kept when the hand lets go of it. */
export const Settled = ({ value, onChange, step = 1, ...range }: SettledProps) => (
  <ScrubNumber {...range} step={step} value={Math.round(value * 10) / 10} onChange={(next) => onChange?.(next)} />
);
