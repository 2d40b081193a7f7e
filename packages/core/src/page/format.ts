import { mmToPx } from './units';
import { PageError } from '../gate';

/** The size of a page: whole px at so many px an inch. */
export interface PageSize {
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
}

/** A size on offer for new pages. Sizes on paper are in mm or in; sizes for the screen are in px. */
export interface PageFormat {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly unit: 'mm' | 'in' | 'px';
  readonly ppi: number;
  /** Where the size comes from. */
  readonly source: string;
}

const TRADE = 'common practice';

/** Upright sizes; turn one with `sizeOf(format, { lying: true })`. */
export const PAGE_FORMATS: readonly PageFormat[] = [
  { id: 'comic', name: 'Comic page', width: 6.625, height: 10.25, unit: 'in', ppi: 400, source: TRADE },
  { id: 'album', name: 'Album page', width: 240, height: 320, unit: 'mm', ppi: 300, source: TRADE },
  { id: 'scroll', name: 'Tall scroll', width: 1600, height: 14000, unit: 'px', ppi: 300, source: TRADE },
  { id: 'square-8', name: '8 × 8 in', width: 8, height: 8, unit: 'in', ppi: 350, source: TRADE },
  { id: '11x14', name: '11 × 14 in', width: 11, height: 14, unit: 'in', ppi: 350, source: TRADE },
  { id: 'a3', name: 'A3', width: 297, height: 420, unit: 'mm', ppi: 300, source: 'ISO 216' },
  { id: 'a4', name: 'A4', width: 210, height: 297, unit: 'mm', ppi: 300, source: 'ISO 216' },
  { id: 'a5', name: 'A5', width: 148, height: 210, unit: 'mm', ppi: 350, source: 'ISO 216' },
  { id: 'b4', name: 'B4', width: 250, height: 353, unit: 'mm', ppi: 300, source: 'ISO 216' },
  { id: 'b5', name: 'B5', width: 176, height: 250, unit: 'mm', ppi: 350, source: 'ISO 216' },
  { id: 'jis-b4', name: 'B4 (JIS)', width: 257, height: 364, unit: 'mm', ppi: 300, source: 'JIS P 0138' },
  { id: 'jis-b5', name: 'B5 (JIS)', width: 182, height: 257, unit: 'mm', ppi: 350, source: 'JIS P 0138' },
  { id: 'letter', name: 'Letter', width: 8.5, height: 11, unit: 'in', ppi: 300, source: 'ANSI/ASME Y14.1' },
  { id: 'tabloid', name: 'Tabloid', width: 11, height: 17, unit: 'in', ppi: 300, source: 'ANSI/ASME Y14.1' },
];

/** The greatest side and area of a page, and the range of its ppi. */
export const PAGE_LIMITS = { side: 20_000, area: 200_000_000, leastPpi: 30, mostPpi: 1_200 } as const;

/** The largest picture that is taken in as a rough: bytes, px a side, px in all. */
export const PICTURE_LIMITS = { bytes: 64 * 1024 * 1024, side: 20_000, area: 80_000_000 } as const;

/** Below this many px on its short side a page does not print well (common practice). */
export const PRINTABLE_SHORT_SIDE = 2_000;

export const printsWell = (size: PageSize): boolean => Math.min(size.width, size.height) >= PRINTABLE_SHORT_SIDE;

/** The px of a format at its own ppi or at another. Sizes in px keep their px at any ppi. */
export function sizeOf(
  format: Omit<PageFormat, 'id' | 'name' | 'source'>,
  choice: { ppi?: number; lying?: boolean } = {},
): PageSize {
  const ppi = choice.ppi ?? format.ppi;
  const inPx = (length: number) => {
    if (format.unit === 'px') return Math.round(length);
    return Math.round(format.unit === 'in' ? length * ppi : mmToPx(length, ppi));
  };
  const [width, height] = [inPx(format.width), inPx(format.height)];
  const turned = choice.lying === true && height > width;
  return checkSize(turned ? { width: height, height: width, ppi } : { width, height, ppi });
}

/** The size as it came, or a PageError with a sentence that says what is wrong with it. */
export function checkSize(size: PageSize): PageSize {
  const { width, height, ppi } = size;
  const { side, area, leastPpi, mostPpi } = PAGE_LIMITS;
  if (!(Number.isInteger(width) && Number.isInteger(height) && width >= 16 && height >= 16))
    throw new PageError('A page needs a width and a height of at least 16 whole px.');
  if (width > side || height > side || width * height > area)
    throw new PageError(
      `A page of ${width} × ${height} px is too large: at most ${side} px a side and ${area / 1e6} million px in all.`,
    );
  if (!(ppi >= leastPpi && ppi <= mostPpi))
    throw new PageError(`The ppi of a page lies between ${leastPpi} and ${mostPpi}.`);
  return { width, height, ppi };
}
