/** A sheet of px of one bit each, eight to a byte from the left, each row beginning with a byte of its own: 1 is ink. */
export class BitSheet {
  readonly stride: number;
  readonly bits: Uint8Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.stride = Math.ceil(width / 8);
    this.bits = new Uint8Array(this.stride * height);
  }

  at(x: number, y: number): boolean {
    return (this.bits[y * this.stride + (x >> 3)] & (128 >> (x & 7))) !== 0;
  }

  set(x: number, y: number, isInk: boolean): void {
    const k = y * this.stride + (x >> 3);
    const bit = 128 >> (x & 7);
    if (isInk) this.bits[k] |= bit;
    else this.bits[k] &= ~bit;
  }

  /** Inks, or clears, the px `from..to` of a row, `to` left out; where a mask is given, those alone that it has. */
  span(y: number, from: number, to: number, isInk: boolean, mask?: BitSheet): void {
    const start = Math.max(0, from);
    const end = Math.min(this.width, to);
    if (start >= end) return;
    const row = y * this.stride;
    const [first, last] = [start >> 3, (end - 1) >> 3];
    const head = 255 >> (start & 7);
    const tail = (255 << (7 - ((end - 1) & 7))) & 255;
    for (let k = first; k <= last; k++) {
      let byte = 255;
      if (k === first) byte &= head;
      if (k === last) byte &= tail;
      if (mask) byte &= mask.bits[row + k];
      if (isInk) this.bits[row + k] |= byte;
      else this.bits[row + k] &= ~byte;
    }
  }

  /** How many px are ink. */
  count(): number {
    let count = 0;
    for (const byte of this.bits) for (let rest = byte; rest > 0; rest &= rest - 1) count++;
    return count;
  }
}
