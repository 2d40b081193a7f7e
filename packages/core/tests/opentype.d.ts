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
  interface Path {
    readonly commands: readonly { readonly type: string }[];
    toPathData(decimals: number): string;
  }
  namespace opentype {
    interface Font {
      readonly unitsPerEm: number;
      charToGlyph(letter: string): Glyph;
      getKerningValue(left: Glyph, right: Glyph): number;
      getPath(text: string, x: number, y: number, size: number): Path;
    }
  }
  const opentype: { parse(bytes: ArrayBuffer): opentype.Font };
  export default opentype;
}
