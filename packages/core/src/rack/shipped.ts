import { INK_BLACK, PAPER_WHITE, type Nib } from '../nib';
import type { Calm } from '../hand';
import type { Laying, Rack, RackNib } from './rack';

/** Line widths of technical pens, mm: steps of √2 (ISO 9175-1, the widths of ISO 128; the values from memory). */
export const TECHNICAL_WIDTHS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4, 2] as const;

const BLUE = '#4f93bd';

/** The calm of a nib that nobody has chosen one for: docs/calm.md says why. */
export const SHIPPED_CALM = { way: 'even', strength: 40 } as const satisfies Calm;

type Given = Omit<Partial<Nib>, 'name' | 'size' | 'lays'> & {
  readonly calm?: Calm;
  readonly lays?: Laying;
  readonly unit?: 'px' | 'mm';
};

function nib(id: string, group: string, name: string, size: number, given: Given = {}): RackNib {
  const { calm = SHIPPED_CALM, lays = 'ink', unit = 'px', ...values } = given;
  return {
    ...{ id, group, unit, lays, calm, favourite: false },
    nib: { name, size, thinnest: 1, taperIn: 0, taperOut: 0, color: INK_BLACK, ...values },
    twin: { size: unit === 'mm' ? 3.5 : 48, calm: { way: 'raw' } },
  };
}

const pen = (mm: number): RackNib =>
  nib(`technical-${mm}`, 'Technical pens', `Pen ${mm < 1 ? mm.toFixed(2) : mm.toFixed(1)} mm`, mm, { unit: 'mm' });

/** The nibs that come with the desk; sizes in page px at 350 ppi where nothing else is said. */
export const SHIPPED_NIBS: Rack = [
  nib('fixed-liner', 'Lines', 'Fixed liner', 7),
  nib('pressure', 'Lines', 'Pressure nib', 16, { thinnest: 0.1 }),
  nib('tapered', 'Lines', 'Tapered line', 14, { taperIn: 7, taperOut: 10 }),
  nib('flexible', 'Lines', 'Flexible nib', 26, {
    thinnest: 0.06,
    press: [
      [0, 0],
      [0.45, 0.12],
      [0.8, 0.55],
      [1, 1],
    ],
    taperIn: 0.4,
    taperOut: 1.2,
  }),
  nib('background', 'Lines', 'Fine background', 5, { thinnest: 0.5, taperOut: 3 }),
  nib('brush', 'Brush and broad', 'Brush', 40, {
    thinnest: 0.02,
    press: [
      [0, 0],
      [0.25, 0.22],
      [0.7, 0.7],
      [1, 1],
    ],
    tilt: 0.5,
    taperIn: 0.5,
    taperOut: 1.5,
    calm: { way: 'even', strength: 30 },
  }),
  nib('broad', 'Brush and broad', 'Broad nib', 30, {
    tip: { shape: 'flat', angle: (-35 * Math.PI) / 180, thickness: 0.16 },
    thinnest: 0.8,
  }),
  nib('chisel', 'Brush and broad', 'Chisel marker', 34, {
    tip: { shape: 'chisel', angle: (-45 * Math.PI) / 180, thickness: 0.22 },
    thinnest: 0.85,
  }),
  nib('dry', 'Brush and broad', 'Dry brush', 44, {
    thinnest: 0.25,
    edge: { kind: 'dry', amount: 0.5, grain: 9 },
    calm: { way: 'even', strength: 25 },
  }),
  nib('rough', 'Brush and broad', 'Rough nib', 14, {
    thinnest: 0.3,
    edge: { kind: 'rough', amount: 0.45, grain: 7 },
  }),
  nib('mouse-lens', 'For the mouse', 'Lens line', 16, { profile: 'lens', calm: { way: 'even', strength: 60 } }),
  nib('mouse-out', 'For the mouse', 'Thinning line', 16, { profile: 'out', calm: { way: 'even', strength: 60 } }),
  nib('mouse-quick', 'For the mouse', 'Quick and thin', 18, {
    speed: -0.85,
    taperIn: 1,
    taperOut: 2,
    calm: { way: 'even', strength: 60, weight: 80 },
  }),
  ...TECHNICAL_WIDTHS.map(pen),
  nib('blue', 'Sketch and white', 'Blue sketch', 9, {
    thinnest: 0.45,
    color: BLUE,
    opacity: 0.7,
    calm: { way: 'raw' },
  }),
  nib('white', 'Sketch and white', 'Paper white', 14, { thinnest: 0.2, color: PAPER_WHITE, lays: 'paper' }),
  nib('clearing', 'Sketch and white', 'Clearing nib', 16, { thinnest: 0.1, lays: 'clearing' }),
];

/** The nib as it came with the desk, or nothing for one's own. */
export const shippedNib = (id: string): RackNib | undefined => SHIPPED_NIBS.find((one) => one.id === id);
