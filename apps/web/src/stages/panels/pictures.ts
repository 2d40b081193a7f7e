import { evenRows, panelGrid, type GridRow } from '@true-nib/core/comic';
import { STRIDE, type Spine } from '@true-nib/core/curve';
import { box, boxOfFlat } from '@true-nib/core/math';

/** A layout that is laid at one touch, and the panels of its rows. */
export interface LayoutPreset {
  readonly value: string;
  readonly label: string;
  readonly rows: readonly GridRow[];
}

const even = (value: string, label: string, counts: readonly number[]): LayoutPreset => ({
  ...{ value, label },
  rows: evenRows(counts),
});

/** Common layouts of pages, strips and scrolls. */
export const LAYOUTS: readonly LayoutPreset[] = [
  even('splash', 'One', [1]),
  even('halves', 'Halves', [1, 1]),
  even('four', '2 × 2', [2, 2]),
  even('six', '3 × 2', [2, 2, 2]),
  even('nine', '3 × 3', [3, 3, 3]),
  even('mixed', '2 · 3 · 1', [2, 3, 1]),
  {
    ...{ value: 'tall', label: 'Wide top' },
    rows: [
      { height: 1.6, widths: [1] },
      { height: 1, widths: [1, 1, 1] },
    ],
  },
  {
    ...{ value: 'stagger', label: 'Uneven' },
    rows: [
      { height: 1, widths: [2, 1] },
      { height: 1.3, widths: [1] },
      { height: 1, widths: [1, 2] },
    ],
  },
  even('strip', 'Strip', [4]),
  even('scroll', 'Scroll', [1, 1, 1, 1, 1]),
];

/** Rows of a layout as path data, 44 by 30. */
export function layoutPicture(rows: readonly GridRow[]): string {
  const isScroll = rows.length > 3;
  const within = isScroll ? box(15, 0, 29, 30) : box(11, 0.5, 33, 29.5);
  const gap = isScroll ? 1.6 : 2;
  return panelGrid({ within, rows, across: gap, down: gap }, 0.5).map(frame).join('');
}

/** A box as an outline of 1.2 px. */
function frame(ring: Spine): string {
  const { minX, minY, maxX, maxY } = boxOfFlat(ring.points, STRIDE);
  const outline = (by: number) => [minX + by, minY + by, maxX - by, maxY - by] as const;
  const [a, b, c, d] = outline(0);
  const [e, f, g, h] = outline(1.2);
  return `M${a} ${b}H${c}V${d}H${a}ZM${e} ${f}V${h}H${g}V${f}Z`;
}

/** Shapes of panels as path data, 44 by 30. */
export const SHAPE_PICTURES = {
  box: 'M8 3H36V27H8ZM9.4 4.4V25.6H34.6V4.4Z',
  rounded:
    'M13 3H31A5 5 0 0 1 36 8V22A5 5 0 0 1 31 27H13A5 5 0 0 1 8 22V8A5 5 0 0 1 13 3ZM13 4.4A3.6 3.6 0 0 0 9.4 8V22A3.6 3.6 0 0 0 13 25.6H31A3.6 3.6 0 0 0 34.6 22V8A3.6 3.6 0 0 0 31 4.4Z',
  oval: 'M22 3A14 12 0 0 1 22 27A14 12 0 0 1 22 3ZM22 4.4A12.6 10.6 0 0 0 22 25.6A12.6 10.6 0 0 0 22 4.4Z',
} as const;
