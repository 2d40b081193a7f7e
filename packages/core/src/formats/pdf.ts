import type { PDFDocument } from '@cantoo/pdf-lib';
import { PageError } from '../gate';
import type { Box } from '../math';
import {
  MM_PER_INCH,
  PT_PER_INCH,
  pxToPt,
  tileBox,
  trimBox,
  WASH_SIDE,
  WHITE_PAPER,
  type Page,
  type PictureEntity,
  type SeenRough,
} from '../page';
import { placementMatrix } from '../tools';
import { channelsOf } from '../nib';
import { PdfKept, type PdfLibrary, type Pixels } from './pdfKept';
import { decimal, inColour, PDF_PARTS, pdfParts } from './pdfMarks';
import { pageWalk, type WalkChoice, type WalkNode } from './walk';

export interface PdfOptions extends WalkChoice {
  /** Whether colours that a hand takes for black are black ink alone. They are, where nothing is said. */
  readonly pureBlack?: boolean;
  /** Lines outside the page that say where it is cut. */
  readonly cropMarks?: boolean;
  /** Whether pages that are added together lie side by side, the left one first. */
  readonly isSpread?: boolean;
}

/** Where pixels come from that a page refers to. What is not found is left out. */
export interface PdfSources {
  /** A picture as it is seen: its scan and its tint applied. */
  readonly picture?: (picture: PictureEntity) => Promise<Uint8Array | undefined>;
  /** The pixels of a wash tile. */
  readonly wash?: (blob: string) => Promise<Pixels | undefined>;
}

/** mm: crop marks begin so far from where the page is cut, beyond its bleed, and are so long (common practice). */
const [MARK_GAP, MARK_LENGTH] = [3, 5] as const;
/** Points of a length in mm. */
const pt = (mm: number): number => (mm / MM_PER_INCH) * PT_PER_INCH;

/** Points: how wide a crop mark is. */
const MARK_WIDTH = 0.25;

/** One page in a PDF of its own, in true size: see `PdfWriter`. */
export async function pageToPdf(
  page: Page,
  title: string,
  options: PdfOptions = {},
  sources: PdfSources = {},
): Promise<Uint8Array> {
  const writer = await PdfWriter.named(title);
  await writer.add([page], options, sources);
  return writer.finish();
}

/**
 * Writes pages into one PDF (ISO 32000-1): vectors in true size, TrimBox where the page is cut and BleedBox around all of it, greys as grey alone.
 * Lettering is outlines. Pages are added one after the other; the file is made at the end.
 */
export class PdfWriter {
  private constructor(
    private readonly library: PdfLibrary,
    private readonly document: PDFDocument,
  ) {}

  static async named(title: string): Promise<PdfWriter> {
    // As large as all the rest of the app: it is fetched with the first PDF.
    const library = await import('@cantoo/pdf-lib');
    const document = await library.PDFDocument.create({ updateMetadata: false });
    document.setTitle(title);
    document.setProducer('True Nib');
    return new PdfWriter(library, document);
  }

  /** Adds pages, each on a sheet of its own, or side by side. */
  async add(pages: readonly Page[], options: PdfOptions = {}, sources: PdfSources = {}): Promise<void> {
    const sheets = options.isSpread ? [pages] : pages.map((page) => [page]);
    for (const sheet of sheets) await this.addSheet(sheetOf(sheet), options, sources);
  }

  /** The bytes of the file. Throws a PageError for one without a page. */
  async finish(): Promise<Uint8Array> {
    if (this.document.getPageCount() === 0) throw new PageError('A PDF needs a page.');
    return this.document.save({ useObjectStreams: true, addDefaultPage: false });
  }

  private async addSheet(sheet: Sheet, options: PdfOptions, sources: PdfSources): Promise<void> {
    const { document } = this;
    const slug = options.cropMarks ? MARK_GAP + MARK_LENGTH + 2 : 0;
    const margin = pt(slug);
    const size = { width: sheet.width + 2 * margin, height: sheet.height + 2 * margin };
    const page = document.addPage([size.width, size.height]);
    const inPt = ({ minX, minY, maxX, maxY }: Box): readonly [number, number, number, number] => [
      margin + minX,
      size.height - margin - maxY,
      maxX - minX,
      maxY - minY,
    ];
    page.setTrimBox(...inPt(sheet.trim));
    page.setBleedBox(...inPt({ minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height }));
    const kept = new PdfKept(this.library, document, page);
    const content: string[] = [];
    for (const placed of sheet.pages) content.push(await pageContent(placed, { kept, size, margin }, options, sources));
    if (options.cropMarks) content.push(cropMarks(sheet, margin, size.height));
    page.node.set(this.library.PDFName.of('Contents'), await kept.contents(content.join('')));
  }
}

/** What lies on one page of the PDF, points from the upper left corner of the paper. */
interface Sheet {
  readonly width: number;
  readonly height: number;
  readonly trim: Box;
  readonly pages: readonly PlacedPage[];
}

interface PlacedPage {
  readonly page: Page;
  /** Points from the left edge of the sheet to that of the page. */
  readonly x: number;
  /** What of it is seen, page px. */
  readonly seen: Box;
}

const wholeOf = ({ size }: Page): Box => ({ minX: 0, minY: 0, maxX: size.width, maxY: size.height });

/** Pages side by side: they meet where they are cut, and bleed outwards alone. */
function sheetOf(pages: readonly Page[]): Sheet {
  let x = 0;
  const last = pages.length - 1;
  const trims: Box[] = [];
  const placed = pages.map((page, k): PlacedPage => {
    const trim = trimBox(page);
    const whole = wholeOf(page);
    const seen = { ...whole, ...(k > 0 && { minX: trim.minX }), ...(k < last && { maxX: trim.maxX }) };
    const at = (px: number) => pxToPt(px, page.size.ppi);
    const left = x - at(seen.minX);
    trims.push({ minX: left + at(trim.minX), minY: at(trim.minY), maxX: left + at(trim.maxX), maxY: at(trim.maxY) });
    x += at(seen.maxX - seen.minX);
    return { page, x: left, seen };
  });
  const height = Math.max(...pages.map(({ size }) => pxToPt(size.height, size.ppi)));
  return {
    ...{ width: x, height, pages: placed },
    trim: {
      minX: Math.min(...trims.map(({ minX }) => minX)),
      minY: Math.min(...trims.map(({ minY }) => minY)),
      maxX: Math.max(...trims.map(({ maxX }) => maxX)),
      maxY: Math.max(...trims.map(({ maxY }) => maxY)),
    },
  };
}

interface Place {
  readonly kept: PdfKept;
  readonly size: { readonly width: number; readonly height: number };
  readonly margin: number;
}

/** The operators of one page where it lies on its sheet. */
async function pageContent(
  { page, x, seen }: PlacedPage,
  { kept, size, margin }: Place,
  options: PdfOptions,
  sources: PdfSources,
): Promise<string> {
  const walk = pageWalk(page, { ...options, withRough: options.withRough === true && sources.picture !== undefined });
  const scale = PT_PER_INCH / page.size.ppi / PDF_PARTS;
  const parts = (px: number) => Math.round(px * PDF_PARTS);
  const matrix = [scale, 0, 0, -scale, margin + x, size.height - margin];
  const box = [seen.minX, seen.minY, seen.maxX - seen.minX, seen.maxY - seen.minY].map(parts).join(' ');
  const within = { kept, sources, pureBlack: options.pureBlack ?? true };
  kept.within(wholeOf(page));
  const lines = [`q\n${matrix.map(decimal).join(' ')} cm\n${box} re W n\n`];
  if (walk.paper !== null && walk.paper !== WHITE_PAPER)
    lines.push(`${inColour(channelsOf(walk.paper), false)}${box} re f\n`);
  for (const rough of walk.under) lines.push(await roughContent(rough, within));
  for (const node of walk.nodes) lines.push(await nodeContent(node, within));
  for (const rough of walk.over) lines.push(await roughContent(rough, within, 'Multiply'));
  lines.push('Q\n');
  return lines.join('');
}

interface Within {
  readonly kept: PdfKept;
  readonly sources: PdfSources;
  readonly pureBlack: boolean;
}

async function nodeContent(node: WalkNode, within: Within): Promise<string> {
  const { kept } = within;
  const { opacity } = node.layer;
  if (opacity === 0) return '';
  const inside = await insideOf(node, within);
  if (inside === '' || opacity === 1) return inside;
  return `/${kept.state(opacity)} gs\n/${kept.group(inside)} Do\n/${kept.state(1)} gs\n`;
}

async function insideOf(node: WalkNode, within: Within): Promise<string> {
  const { kept, sources, pureBlack } = within;
  if (node.as === 'ink') return pdfParts(node.parts, { resources: kept, pureBlack });
  const lines: string[] = [];
  if (node.as === 'group') for (const child of node.children) lines.push(await nodeContent(child, within));
  else
    for (const tile of node.tiles) {
      const pixels = await sources.wash?.(tile.blob);
      const { minX, minY } = tileBox(tile);
      if (pixels) lines.push(pictureAt(kept.pixels(tile.blob, pixels), [WASH_SIDE, 0, 0, WASH_SIDE, minX, minY]));
    }
  return lines.join('');
}

async function roughContent(
  { pictures, opacity }: SeenRough,
  { kept, sources }: Within,
  blend?: 'Multiply',
): Promise<string> {
  const lines: string[] = [];
  for (const picture of pictures) {
    const bytes = await sources.picture?.(picture);
    if (!bytes) continue;
    const [a, b, c, d, e, f] = placementMatrix(picture.placement, picture);
    const { width, height } = picture;
    const name = await kept.jpeg(bytes);
    lines.push(
      `/${kept.state(picture.opacity)} gs\n`,
      pictureAt(name, [a * width, b * width, c * height, d * height, e, f]),
      `/${kept.state(1)} gs\n`,
    );
  }
  if (lines.length === 0) return '';
  return `/${kept.state(opacity, blend)} gs\n/${kept.group(lines.join(''))} Do\n/${kept.state(1)} gs\n`;
}

/** A picture whose unit square, y up, is taken by a map to page px. */
function pictureAt(name: string, [a, b, c, d, e, f]: readonly number[]): string {
  // Pictures stand on their feet: their square is turned over first.
  const matrix = [a, b, -c, -d, e + c, f + d].map((value) => decimal(value * PDF_PARTS));
  return `q\n${matrix.join(' ')} cm\n/${name} Do\nQ\n`;
}

/** Lines that say where the sheet is cut, outside its bleed, in black alone. */
function cropMarks({ trim }: Sheet, margin: number, height: number): string {
  const [gap, length] = [MARK_GAP, MARK_LENGTH].map(pt);
  const lines = ['q\n0 G\n', `${MARK_WIDTH} w\n`];
  const line = (x1: number, y1: number, x2: number, y2: number) =>
    lines.push(
      `${[margin + x1, height - margin - y1].map(decimal).join(' ')} m\n${[margin + x2, height - margin - y2].map(decimal).join(' ')} l S\n`,
    );
  for (const x of [trim.minX, trim.maxX]) {
    line(x, trim.minY - gap, x, trim.minY - gap - length);
    line(x, trim.maxY + gap, x, trim.maxY + gap + length);
  }
  for (const y of [trim.minY, trim.maxY]) {
    line(trim.minX - gap, y, trim.minX - gap - length, y);
    line(trim.maxX + gap, y, trim.maxX + gap + length, y);
  }
  lines.push('Q\n');
  return lines.join('');
}
