import { BarChart } from 'react-native-gifted-charts';
import { role } from '../../look';

/** A bar: what it is of, and how high. */
export interface Bar {
  readonly label: string;
  readonly value: number;
  /** It is the one in hand. */
  readonly isHere?: boolean;
}

export interface BarsProps {
  readonly bars: readonly Bar[];
  /** What the highest can be; the highest there is where nothing is said. */
  readonly most?: number;
  readonly width: number;
  readonly height: number;
}

/** CSS px of the words to the left. */
const WORDS = 34;

/** CSS px that a letter beneath a bar takes, and that two words are apart. */
const LETTER = 6.2;
const APART = 5;
const WIDEST_BAR = 26;

/** Bars side by side. Where their words would run into each other, only some have one. */
export function Bars({ bars, most = Math.max(...bars.map(({ value }) => value), 1e-9), width, height }: BarsProps) {
  const each = (width - WORDS) / Math.max(1, bars.length);
  const bar = Math.min(WIDEST_BAR, each * 0.62);
  const wanted = LETTER * Math.max(...bars.map(({ label }) => label.length)) + APART;
  const step = Math.ceil(wanted / each);
  const labelWidth = each * step;
  return (
    <BarChart
      data={bars.map(({ label, value, isHere }, k) => ({
        ...{ value, label: k % step === 0 ? label : '', labelWidth },
        // A word begins where its bar does: it is put back to the middle of it.
        labelTextStyle: { ...WORD, color: role('faint'), transform: [{ translateX: (bar - labelWidth) / 2 }] },
        frontColor: role(isHere === true ? 'seal' : 'ink'),
      }))}
      width={width - WORDS}
      height={height}
      barWidth={bar}
      spacing={each - bar}
      initialSpacing={(each - bar) / 2}
      endSpacing={0}
      maxValue={most}
      noOfSections={2}
      yAxisLabelWidth={WORDS}
      yAxisThickness={0}
      xAxisThickness={1}
      xAxisColor={role('rule')}
      rulesColor={role('rule')}
      yAxisTextStyle={{ ...WORD, color: role('faint') }}
      showFractionalValues
      roundToDigits={2}
      formatYLabel={(label) => shortened(Number(label), most)}
      disableScroll
      disablePress
    />
  );
}

const WORD = { fontSize: 11, textAlign: 'center' } as const;

const shortened = (value: number, most: number): string => value.toFixed(most < 10 ? 1 : 0);
