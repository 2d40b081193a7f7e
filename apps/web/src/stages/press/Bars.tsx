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

/** CSS px that a word beneath a bar takes. */
const LEGIBLE = 18;

/** Bars side by side. */
export function Bars({ bars, most = Math.max(...bars.map(({ value }) => value), 1e-9), width, height }: BarsProps) {
  const each = (width - WORDS) / Math.max(1, bars.length);
  const bar = Math.min(26, each * 0.62);
  // Where words would run into each other every fifth has its own.
  const isNamed = (k: number) => each >= LEGIBLE || k === 0 || (k + 1) % 5 === 0;
  return (
    <BarChart
      data={bars.map(({ label, value, isHere }, k) => ({
        ...{ value, label: isNamed(k) ? label : '', labelWidth: Math.max(each, LEGIBLE) },
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
      yAxisTextStyle={{ color: role('faint'), fontSize: 11 }}
      xAxisLabelTextStyle={{ color: role('faint'), fontSize: 11 }}
      formatYLabel={(label) => shortened(Number(label), most)}
      disableScroll
      disablePress
    />
  );
}

const shortened = (value: number, most: number): string => value.toFixed(most < 10 ? 1 : 0);
