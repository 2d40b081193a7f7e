/** Where a JPEG's marks begin: after the two bytes that say that it is one. */
const HEAD = 2;

/** A JPEG with its px an inch written in, as JFIF has it (ISO/IEC 10918-5, 10.1). Throws a RangeError for what is no JPEG, or has that already. */
export function withDensity(jpeg: Uint8Array, ppi: number): Uint8Array {
  if (jpeg[0] !== 0xff || jpeg[1] !== 0xd8 || jpeg[3] === 0xe0)
    throw new RangeError('A JPEG without a JFIF head was expected.');
  const density = Math.min(65_535, Math.max(1, Math.round(ppi)));
  const [high, low] = [density >> 8, density & 255];
  // Version 1.02, density by the inch, no small picture.
  const head = Uint8Array.of(0xff, 0xe0, 0, 16, ...[0x4a, 0x46, 0x49, 0x46, 0], 1, 2, 1, high, low, high, low, 0, 0);
  const whole = new Uint8Array(jpeg.length + head.length);
  whole.set(jpeg.subarray(0, HEAD));
  whole.set(head, HEAD);
  whole.set(jpeg.subarray(HEAD), HEAD + head.length);
  return whole;
}
