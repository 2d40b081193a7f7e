import { deflateSync } from 'fflate';
import { PageError } from '../gate';
import { crc32 } from './png';

/** 1 January 1980, the earliest day that a ZIP can say: what is made twice is the same to the bit. */
const DAY = (1 << 5) | 1;
const VERSION = 20;
/** Names are UTF-8 (APPNOTE 4.4.4, bit 11). */
const UTF8 = 0x800;
const [STORED, DEFLATED] = [0, 8];
/** A ZIP without its 64-bit extension has no more bytes than this, and no more files than that. */
const MOST = { bytes: 0xffffffff, files: 0xffff } as const;

/**
 * Writes a ZIP (APPNOTE 6.3.10) file by file, so that it is never in memory at once. Sizes stand before each file, and not after it as in
 * ZIPs that are streamed: whoever reads from the front need not look for the end, which may seem to lie within. Each call answers bytes
 * that come next; `finish` answers the last.
 */
export class ZipWriter {
  private readonly entries: Uint8Array[] = [];
  private end = 0;

  /** Adds a file. What is packed already is `stored` as it is. Throws a PageError where a ZIP can hold no more. */
  add(name: string, bytes: Uint8Array, { stored = false }: { readonly stored?: boolean } = {}): Uint8Array[] {
    const called = new TextEncoder().encode(name);
    const packed = stored ? bytes : deflateSync(bytes, { level: 6 });
    const head = new DataView(new ArrayBuffer(26));
    head.setUint16(0, VERSION, true);
    head.setUint16(2, UTF8, true);
    head.setUint16(4, stored ? STORED : DEFLATED, true);
    head.setUint16(8, DAY, true);
    head.setUint32(10, crc32(bytes), true);
    head.setUint32(14, packed.length, true);
    head.setUint32(18, bytes.length, true);
    head.setUint16(22, called.length, true);
    const common = new Uint8Array(head.buffer);
    const place = new DataView(new ArrayBuffer(14));
    place.setUint32(10, this.end, true);
    this.entries.push(
      joined([Uint8Array.of(0x50, 0x4b, 1, 2, VERSION, 0), common, new Uint8Array(place.buffer), called]),
    );
    const local = joined([Uint8Array.of(0x50, 0x4b, 3, 4), common, called]);
    this.end += local.length + packed.length;
    if (this.end > MOST.bytes || this.entries.length > MOST.files)
      throw new PageError('This is more than one ZIP can hold: 4 GB, or 65,535 files. Deliver it in parts.');
    return [local, packed];
  }

  finish(): Uint8Array[] {
    const directory = joined(this.entries);
    const tail = new DataView(new ArrayBuffer(22));
    tail.setUint32(0, 0x06054b50, true);
    tail.setUint16(8, this.entries.length, true);
    tail.setUint16(10, this.entries.length, true);
    tail.setUint32(12, directory.length, true);
    tail.setUint32(16, this.end, true);
    return [directory, new Uint8Array(tail.buffer)];
  }
}

export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
