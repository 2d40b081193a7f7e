// What we use of libraries that ship no types, or types of another platform.
declare module 'fontkit' {
  interface PathCommand {
    readonly command: 'moveTo' | 'lineTo' | 'quadraticCurveTo' | 'bezierCurveTo' | 'closePath';
    readonly args: readonly number[];
  }
  export interface Glyph {
    readonly id: number;
    readonly advanceWidth: number;
    readonly path: { readonly commands: readonly PathCommand[] };
  }
  interface Position {
    readonly xAdvance: number;
    readonly xOffset: number;
    readonly yOffset: number;
  }
  export interface Font {
    readonly fullName: string | null;
    readonly familyName: string | null;
    readonly unitsPerEm: number;
    readonly capHeight: number;
    readonly numGlyphs: number;
    hasGlyphForCodePoint(code: number): boolean;
    glyphForCodePoint(code: number): Glyph;
    layout(text: string): { readonly glyphs: readonly Glyph[]; readonly positions: readonly Position[] };
  }
  export function create(bytes: Uint8Array): Font | { readonly fonts: readonly Font[] };
}
declare module 'linebreak' {
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { readonly position: number; readonly required: boolean } | null;
  }
}
declare module 'bidi-js' {
  interface Levels {
    readonly levels: Uint8Array;
  }
  export default function bidi(): {
    getEmbeddingLevels(text: string): Levels;
    getReorderSegments(text: string, levels: Levels): [from: number, to: number][];
  };
}
