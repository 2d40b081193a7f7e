import { Zlib } from 'fflate';

const SIGNATURE = Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10);
const METRES_PER_INCH = 0.0254;
const RGB = { type: 2, channels: 3 } as const;
const RGB_ALPHA = { type: 6, channels: 4 } as const;
const GREY = 0;
const FILTER_NONE = 0;
const FILTER_UP = 2;
/** From this luma on a px is white where there is no grey. */
const HALF = 128;

export interface PngSize {
  readonly width: number;
  readonly height: number;
  /** Written as pHYs, in whole px per metre (ISO/IEC 15948, 11.3.5.3). */
  readonly ppi: number;
  /** Whether what shows the ground through is kept so; opaque when left out. */
  readonly transparent?: boolean;
  /** Every px is black or white, one bit each; what is half as dark as black, or more, is black. */
  readonly isOneBit?: boolean;
}

/**
 * Writes a PNG (ISO/IEC 15948) of 8 bits a channel, or of one bit a px, band by band, so that a large page is never in memory at once.
 * Each call answers the bytes that are ready; `finish` answers the last.
 */
export class PngWriter {
  private readonly deflate: Zlib;
  private ready: Uint8Array[] = [];
  private above: Uint8Array;
  private rows = 0;
  private readonly colour: typeof RGB | typeof RGB_ALPHA;

  constructor(private readonly size: PngSize) {
    const { width, height, ppi } = size;
    if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0))
      throw new RangeError(`A PNG needs whole px; ${width} × ${height} came.`);
    this.colour = size.transparent ? RGB_ALPHA : RGB;
    this.above = new Uint8Array(width * this.colour.channels);
    this.deflate = new Zlib({ level: 6 }, (bytes) => {
      if (bytes.length > 0) this.ready.push(chunk('IDAT', bytes));
    });
    const perMetre = Math.round(ppi / METRES_PER_INCH);
    this.ready.push(
      SIGNATURE,
      chunk(
        'IHDR',
        Uint8Array.of(
          ...[...big32(width), ...big32(height)],
          ...(size.isOneBit ? [1, GREY] : [8, this.colour.type]),
          ...[0, 0, 0],
        ),
      ),
      chunk('pHYs', Uint8Array.of(...big32(perMetre), ...big32(perMetre), 1)),
    );
  }

  /** Adds rows of RGBA bytes, from the top; an opaque picture leaves alpha out. Throws a RangeError for a part of a row, or too many. */
  add(rgba: Uint8Array | Uint8ClampedArray): Uint8Array[] {
    const { width, height } = this.size;
    const { channels } = this.colour;
    const count = rgba.length / (width * 4);
    if (!Number.isInteger(count) || this.rows + count > height)
      throw new RangeError(`Rows of ${width} px were expected, at most ${height}; ${this.rows} + ${count} came.`);
    this.rows += count;
    if (this.size.isOneBit) {
      this.deflate.push(bitRows(rgba, width, count), false);
      return this.taken();
    }
    const filtered = new Uint8Array(count * (width * channels + 1));
    let end = 0;
    for (let row = 0; row < count; row++) {
      filtered[end++] = FILTER_UP;
      for (let x = 0, i = row * width * 4, j = 0; x < width; x++, i += 4)
        for (let channel = 0; channel < channels; channel++, j++) {
          const value = rgba[i + channel];
          filtered[end++] = value - this.above[j];
          this.above[j] = value;
        }
    }
    this.deflate.push(filtered, false);
    return this.taken();
  }

  /** Adds rows of one bit a px, 1 for ink, each beginning with a byte of its own. Throws a RangeError for a part of a row, or too many. */
  addBits(bits: Uint8Array): Uint8Array[] {
    const { width, height, isOneBit } = this.size;
    const stride = Math.ceil(width / 8);
    const count = bits.length / stride;
    if (!isOneBit || !Number.isInteger(count) || this.rows + count > height)
      throw new RangeError(`Rows of ${stride} bytes were expected, at most ${height}; ${this.rows} + ${count} came.`);
    this.rows += count;
    const rows = new Uint8Array(count * (stride + 1));
    for (let row = 0; row < count; row++) {
      rows[row * (stride + 1)] = FILTER_NONE;
      // A PNG has 1 for white.
      for (let k = 0; k < stride; k++) rows[row * (stride + 1) + 1 + k] = ~bits[row * stride + k];
    }
    this.deflate.push(rows, false);
    return this.taken();
  }

  finish(): Uint8Array[] {
    if (this.rows !== this.size.height)
      throw new RangeError(`The PNG ends after ${this.rows} of ${this.size.height} rows.`);
    this.deflate.push(new Uint8Array(0), true);
    this.ready.push(chunk('IEND', new Uint8Array(0)));
    return this.taken();
  }

  private taken(): Uint8Array[] {
    const bytes = this.ready;
    this.ready = [];
    return bytes;
  }
}

/** Rows of one bit a px, 1 for white, eight to a byte from the left (ISO/IEC 15948, 7.2), each after its filter. */
function bitRows(rgba: Uint8Array | Uint8ClampedArray, width: number, count: number): Uint8Array {
  const stride = 1 + Math.ceil(width / 8);
  const rows = new Uint8Array(count * stride);
  for (let row = 0, i = 0; row < count; row++) {
    rows[row * stride] = FILTER_NONE;
    for (let x = 0; x < width; x++, i += 4) {
      const luma = 0.299 * rgba[i] + 0.587 * rgba[i + 1] + 0.114 * rgba[i + 2];
      if (luma >= HALF) rows[row * stride + 1 + (x >> 3)] |= 128 >> (x & 7);
    }
  }
  return rows;
}

/** A PNG chunk: length, type, data, and the CRC of type and data. */
export function chunk(type: string, data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(data.length + 12);
  bytes.set(big32(data.length));
  bytes.set(
    Array.from(type, (char) => char.charCodeAt(0)),
    4,
  );
  bytes.set(data, 8);
  bytes.set(big32(crc32(bytes.subarray(4, data.length + 8))), data.length + 8);
  return bytes;
}

const big32 = (value: number): number[] => [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);

const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let k = 0; k < 8; k++) crc = crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1;
  return crc;
});

/** The CRC of ISO 3309, as PNG uses it (ISO/IEC 15948, annex D). */
export function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) crc = CRC_TABLE[(crc ^ byte) & 255] ^ (crc >>> 8);
  return (crc ^ 0xffffffff) >>> 0;
}
