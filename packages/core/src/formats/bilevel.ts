import { rampAt, type GradientStop } from '../area';
import type { Mark, MarkShape } from '../drawn';
import { apply, invert, scaling, type Matrix } from '../math';
import { channelsOf, lumaOf } from '../nib';
import { tileBox, WASH_SIDE, type Page } from '../page';
import { BitSheet } from './bits';
import type { Pixels } from './pdfKept';
import { scanRings, scanRoom, type TellSpan } from './scan';
import { clipped, decided, filledOf, pageWalk, type Piece, type WalkNode } from './walk';

export interface BilevelOptions {
  /** Px of the file for each px of the page. */
  readonly scale: number;
  /** The pixels of a wash tile; what is not found is left out. */
  readonly wash?: (blob: string) => Pixels | undefined;
  /** Hears how far the work is, 0..1, and answers `false` to stop. */
  readonly progress?: (share: number) => boolean;
}

/** From this luma on, 0..255, what lies on white paper is white. */
const HALF = 128;

/** Px that a shape may stray: what decides is where the middle of a px lies. */
const STRAY = 0.02;

/**
 * The page in black and white alone: a px is ink where its middle lies in something that is darker than half of black, with nothing
 * lighter over it. Tones keep their dots. Roughs are left out. Nothing where it was stopped.
 */
export function bilevel(page: Page, options: BilevelOptions): BitSheet | undefined {
  const { scale, wash, progress = () => true } = options;
  const { width, height } = page.size;
  const sheet = new BitSheet(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
  const { nodes } = pageWalk(page, { tonesWhole: true });
  const painter = new Painter(sheet, scaling(scale), wash);
  for (const [k, node] of nodes.entries())
    if (!painter.node(node, 1, (share) => progress((k + share) / nodes.length))) return undefined;
  return sheet;
}

class Painter {
  private readonly room;
  private readonly clips = new Map<MarkShape, BitSheet>();

  constructor(
    private readonly sheet: BitSheet,
    private readonly map: Matrix,
    private readonly wash: BilevelOptions['wash'],
  ) {
    this.room = scanRoom(sheet.height);
  }

  /** Paints a layer, or a group of them, that shows by a share; `false` where it was stopped. */
  node(node: WalkNode, opacity: number, progress: (share: number) => boolean): boolean {
    const shows = opacity * node.layer.opacity;
    switch (node.as) {
      case 'group':
        return node.children.every((child, k) =>
          this.node(child, shows, (share) => progress((k + share) / node.children.length)),
        );
      case 'wash':
        for (const tile of node.tiles) {
          const pixels = this.wash?.(tile.blob);
          const { minX, minY } = tileBox(tile);
          if (pixels) this.tile(pixels, minX, minY, shows);
        }
        return progress(1);
      case 'ink': {
        let done = 0;
        const pieces = decided(node.parts);
        for (const run of clipped(pieces)) {
          const mask = run.clip && this.clip(run.clip);
          for (const piece of run.parts) {
            if (++done % MANY === 0 && !progress(done / pieces.length)) return false;
            if ('mark' in piece) this.piece(piece, shows, mask);
          }
        }
        return progress(1);
      }
    }
  }

  private piece(piece: Piece, shows: number, mask: BitSheet | undefined): void {
    const { mark } = piece;
    if (mark.finer) return this.tone(piece, mark.finer.px, shows, mask);
    if (mark.shade) return this.shade(piece, mark.shade, shows, mask);
    const is = decision(lumaOf(channelsOf(mark.color)), mark.opacity * shows);
    if (is !== undefined) this.spans(piece, (row, from, to) => this.sheet.span(row, from, to, is, mask));
  }

  private spans(piece: Piece, tell: TellSpan): void {
    const scale = this.map[0];
    const { rings, rule } = filledOf(piece, STRAY / scale);
    scanRings(rings, rule, { map: this.map, height: this.sheet.height, room: this.room }, tell);
  }

  /** The dots of a tone, block by block, within what is left of its area. */
  private tone(piece: Piece, pxOf: NonNullable<Mark['finer']>['px'], shows: number, mask: BitSheet | undefined): void {
    const is = decision(lumaOf(channelsOf(piece.mark.color)), shows);
    if (is === undefined) return;
    const { width } = this.sheet;
    let block: { readonly top: number; readonly px: Uint8Array } | undefined;
    this.spans(piece, (row, from, to) => {
      const top = row - (row % ROWS);
      if (block?.top !== top) block = { top, px: pxOf({ map: this.map, x: 0, y: top, width, height: ROWS }) };
      const { px } = block;
      for (let x = Math.max(0, from); x < Math.min(width, to); x++)
        if (px[(row - top) * width + x] === 1 && (mask?.at(x, row) ?? true)) this.sheet.set(x, row, is);
    });
  }

  private shade(
    piece: Piece,
    { ramp, stops }: NonNullable<Mark['shade']>,
    shows: number,
    mask: BitSheet | undefined,
  ): void {
    const back = invert(this.map);
    const { width } = this.sheet;
    this.spans(piece, (row, from, to) => {
      for (let x = Math.max(0, from); x < Math.min(width, to); x++) {
        const at = apply(back, { x: x + 0.5, y: row + 0.5 });
        const { luma, opacity } = shadeAt(stops, rampAt(ramp, at.x, at.y));
        const is = decision(luma, opacity * piece.mark.opacity * shows);
        if (is !== undefined && (mask?.at(x, row) ?? true)) this.sheet.set(x, row, is);
      }
    });
  }

  private tile({ width, height, rgba }: Pixels, left: number, top: number, shows: number): void {
    const scale = this.map[0];
    const { sheet } = this;
    const [x0, y0] = [Math.max(0, Math.ceil(left * scale - 0.5)), Math.max(0, Math.ceil(top * scale - 0.5))];
    const x1 = Math.min(sheet.width, Math.ceil((left + WASH_SIDE) * scale - 0.5));
    const y1 = Math.min(sheet.height, Math.ceil((top + WASH_SIDE) * scale - 0.5));
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const column = Math.min(width - 1, Math.floor((x + 0.5) / scale - left));
        const row = Math.min(height - 1, Math.floor((y + 0.5) / scale - top));
        const k = 4 * (row * width + column);
        const is = decision(lumaOf([rgba[k], rgba[k + 1], rgba[k + 2]]), (shows * rgba[k + 3]) / 255);
        if (is !== undefined) sheet.set(x, y, is);
      }
  }

  /** What a clip lets through; those of the last few shapes are kept. */
  private clip(shape: MarkShape): BitSheet {
    const known = this.clips.get(shape);
    if (known) return known;
    const mask = new BitSheet(this.sheet.width, this.sheet.height);
    const rings = shape.rings(STRAY / this.map[0]);
    scanRings(rings, shape.rule, { map: this.map, height: mask.height, room: this.room }, (row, from, to) =>
      mask.span(row, from, to, true),
    );
    if (this.clips.size >= MOST_CLIPS) this.clips.delete([...this.clips.keys()][0]);
    this.clips.set(shape, mask);
    return mask;
  }
}

/** Marks after which it is told how far the work is. */
const MANY = 200;
/** Rows of a tone that are asked for at once. */
const ROWS = 64;
/** Clips that are kept at a time: each is as large as the sheet. */
const MOST_CLIPS = 12;

/** How light a gradient is at a share of its way, 0..255, and how much of it shows there. */
function shadeAt(stops: readonly GradientStop[], share: number): { readonly luma: number; readonly opacity: number } {
  const next = stops.findIndex(({ at }) => at > share);
  const [a, b] =
    next < 0 ? [stops[stops.length - 1], stops[stops.length - 1]] : [stops[Math.max(0, next - 1)], stops[next]];
  const t = b.at > a.at ? (share - a.at) / (b.at - a.at) : 0;
  const between = (from: number, to: number) => from + Math.max(0, t) * (to - from);
  return {
    luma: between(lumaOf(channelsOf(a.color)), lumaOf(channelsOf(b.color))),
    opacity: between(a.opacity ?? 1, b.opacity ?? 1),
  };
}

/** Whether something makes ink of a px, or white; nothing where what lies beneath shows through. */
function decision(luma: number, opacity: number): boolean | undefined {
  if (255 - opacity * (255 - luma) < HALF) return true;
  return opacity >= 0.5 ? false : undefined;
}
