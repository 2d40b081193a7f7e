import { LineChart } from 'react-native-gifted-charts';
import { role } from '../look';

export interface BendChartProps {
  /** Values 0..1 at equal steps. */
  readonly curve: readonly number[];
  /** What lies under the curve, at the same steps. */
  readonly under?: readonly number[];
  readonly width: number;
  readonly height: number;
}

const asData = (values: readonly number[]) => values.map((value) => ({ value }));

/** The picture of a bent curve. */
export function BendChart({ curve, under, width, height }: BendChartProps) {
  return (
    <LineChart
      data={asData(curve)}
      data2={asData(curve.map((_, k) => under?.[k] ?? 0))}
      width={width}
      height={height}
      overflowTop={0}
      spacing={(width - 2) / (curve.length - 1)}
      initialSpacing={0}
      endSpacing={0}
      maxValue={1}
      noOfSections={2}
      hideDataPoints
      hideRules
      hideYAxisText
      yAxisLabelWidth={0}
      yAxisThickness={0}
      xAxisThickness={0}
      xAxisLabelsHeight={0}
      labelsExtraHeight={0}
      disableScroll
      color={role('ink')}
      thickness={2}
      color2={role('rough')}
      thickness2={under ? 1 : 0}
      areaChart2={under !== undefined}
      startFillColor2={role('rough')}
      endFillColor2={role('rough')}
      startOpacity2={0.35}
      endOpacity2={0.35}
    />
  );
}
