// What the tests use of a library that ships no types.
declare module 'opentype.js' {
  interface Box {
    readonly x1: number;
    readonly x2: number;
    readonly y1: number;
    readonly y2: number;
  }
  interface Glyph {
    readonly index: number;
    readonly advanceWidth?: number;
    getBoundingBox(): Box;
  }
  namespace opentype {
    interface Font {
      readonly unitsPerEm: number;
      charToGlyph(letter: string): Glyph;
      getKerningValue(left: Glyph, right: Glyph): number;
    }
  }
  const opentype: { parse(bytes: ArrayBuffer): opentype.Font };
  export default opentype;
}
