import { plainName } from '@true-nib/core/formats';
import type { PageSize } from '@true-nib/core/page';

export const FILE_KINDS = ['png', 'jpeg', 'webp', 'tiff', 'pdf', 'svg', 'ora'] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** How a file is made of a page. */
export interface DeliverChoice {
  readonly as: FileKind;
  /** How large a picture is: a share of the page's px, or so many px wide or high. */
  readonly sizeBy: 'scale' | 'width' | 'height';
  readonly scale: number;
  readonly px: number;
  /** Black and white alone, one bit a px; a TIFF always is. */
  readonly isOneBit: boolean;
  /** 1..100, for JPEG and WebP. */
  readonly quality: number;
  readonly withRough: boolean;
  /** Whether the ground is the paper, or transparent. */
  readonly onPaper: boolean;
  /** A picture in slices, none higher than so many px. */
  readonly isSliced: boolean;
  readonly highest: number;
  /** Lines beside a PDF's pages that say where they are cut. */
  readonly cropMarks: boolean;
  /** Whether a PDF's blacks are black ink alone. */
  readonly pureBlack: boolean;
  /** Pages of a PDF side by side as they are read. */
  readonly inSpreads: boolean;
  /** The layers chosen in the stack alone. */
  readonly chosenLayers: boolean;
}

export const PLAIN_CHOICE: DeliverChoice = {
  ...{ as: 'png', sizeBy: 'scale', scale: 1, px: 1_200, isOneBit: false, quality: 90 },
  ...{ withRough: false, onPaper: true, isSliced: false, highest: 1_000 },
  ...{ cropMarks: false, pureBlack: true, inSpreads: false, chosenLayers: false },
};

/** A choice under a name. */
export interface Preset {
  readonly id: string;
  readonly name: string;
  readonly choice: DeliverChoice;
}

const preset = (id: string, name: string, choice: Partial<DeliverChoice>): Preset => ({
  ...{ id, name },
  choice: { ...PLAIN_CHOICE, ...choice },
});

/** What pages are mostly delivered as (common practice). */
export const SHIPPED_PRESETS: readonly Preset[] = [
  preset('master', 'Full size', {}),
  preset('line-art', 'Line art', { as: 'tiff', isOneBit: true }),
  preset('print', 'Print', { as: 'pdf', cropMarks: true }),
  preset('web', 'Web', { as: 'webp', sizeBy: 'width', px: 1_200 }),
  preset('scroll', '800 px', { sizeBy: 'width', px: 800, isSliced: true, highest: 1_000 }),
  preset('wide-scroll', '940 px', { sizeBy: 'width', px: 940, isSliced: true, highest: 5_000 }),
  preset('layers', 'Layers', { as: 'ora' }),
  preset('vectors', 'Vectors', { as: 'svg' }),
];

/** Whether a file is made of px, and so has a size in them. */
export const isPicture = ({ as }: Pick<DeliverChoice, 'as'>): boolean => as !== 'pdf' && as !== 'svg' && as !== 'ora';

export const isBilevel = ({ as, isOneBit }: Pick<DeliverChoice, 'as' | 'isOneBit'>): boolean =>
  as === 'tiff' || (as === 'png' && isOneBit);

/** Px of the file for each px of the page. */
export function scaleFor(
  { sizeBy, scale, px, ...choice }: DeliverChoice,
  size: Pick<PageSize, 'width' | 'height'>,
): number {
  if (!isPicture(choice)) return 1;
  return sizeBy === 'scale' ? scale : px / (sizeBy === 'width' ? size.width : size.height);
}

/** The largest side and area of a picture that is made, px. */
export const MOST_PX = { side: 65_535, area: 400_000_000 } as const;

/** Whole px of a picture of a page. Throws with a sentence where it would be too large. */
export function pxFor(choice: DeliverChoice, size: PageSize): { readonly width: number; readonly height: number } {
  const scale = scaleFor(choice, size);
  const [width, height] = [size.width, size.height].map((side) => Math.max(1, Math.round(side * scale)));
  if (Math.max(width, height) > MOST_PX.side || width * height > MOST_PX.area)
    throw new Error(
      `A picture of ${width} × ${height} px is too large: at most ${MOST_PX.side.toLocaleString('en-GB')} px a side and ${MOST_PX.area / 1e6} million in all. Deliver it smaller.`,
    );
  return { width, height };
}

const EXTENSIONS: Readonly<Record<FileKind, string>> = {
  ...{ png: 'png', jpeg: 'jpg', webp: 'webp', tiff: 'tif' },
  ...{ pdf: 'pdf', svg: 'svg', ora: 'ora' },
};

export const fileName = (title: string, as: FileKind): string => `${plainName(title)}.${EXTENSIONS[as]}`;
