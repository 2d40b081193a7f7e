import { create, type Font, type Glyph } from 'fontkit';
import { PageError } from '../gate';

/** Bytes that a font may have. */
export const MOST_FONT_BYTES = 20_000_000;
/** Letters without which nothing can be lettered in the language of the interface. */
const LATIN = 'AEIOUaeiou';

/** A letter as a font shapes it. Lengths in font units. */
export interface ShapedLetter {
  /** The number of its outline in the font. */
  readonly glyph: number;
  /** How far the next letter stands, kerning included. */
  readonly advance: number;
  /** How far it stands off its own place: accents do. */
  readonly dx: number;
  readonly dy: number;
}

/** A font, read. Lengths in font units. */
export interface LetterFont {
  readonly name: string;
  readonly perEm: number;
  /** How high capitals are. */
  readonly capitals: number;
  /** Letters of a text from left to right. */
  shape(text: string): readonly ShapedLetter[];
  /** The outline of a letter, y down: absolute M, L, C and Z. */
  outline(glyph: number): string;
  /** Characters of a text that it has no letter for, each once. */
  missing(text: string): string[];
}

/**
 * Reads TrueType and OpenType fonts, WOFF included (by `fontkit`). Throws a PageError for what is no font, is damaged, is larger than
 * 20 MB, holds several fonts, or has no Latin letters.
 */
export function readFont(bytes: Uint8Array): LetterFont {
  if (bytes.byteLength > MOST_FONT_BYTES) throw new PageError('A font may have 20 MB at most.');
  const font = opened(bytes);
  if ([...LATIN].some((letter) => !font.hasGlyphForCodePoint(letter.charCodeAt(0))))
    throw new PageError('This font has no Latin letters.');
  return new ReadFont(font);
}

function opened(bytes: Uint8Array): Font {
  let font: ReturnType<typeof create>;
  try {
    font = create(bytes);
    // What is cut off shows only where letters are asked for.
    if (!('fonts' in font)) {
      for (const letter of LATIN) void font.glyphForCodePoint(letter.charCodeAt(0)).path.commands.length;
      void [font.layout(LATIN).glyphs.length, font.unitsPerEm, font.capHeight];
    }
  } catch {
    throw new PageError('This is no font that can be read: TTF, OTF and WOFF files can.');
  }
  if ('fonts' in font) throw new PageError('This file holds several fonts. Bring in one of them.');
  return font;
}

class ReadFont implements LetterFont {
  readonly name: string;
  readonly perEm: number;
  readonly capitals: number;
  private readonly glyphs = new Map<number, Glyph>();
  private readonly outlines = new Map<number, string>();
  private readonly shaped = new Map<string, readonly ShapedLetter[]>();

  constructor(private readonly font: Font) {
    this.name = (font.fullName ?? font.familyName ?? '').trim().slice(0, 100) || 'Own font';
    this.perEm = font.unitsPerEm;
    this.capitals = font.capHeight || 0.7 * font.unitsPerEm;
  }

  shape(text: string): readonly ShapedLetter[] {
    const known = this.shaped.get(text);
    if (known) return known;
    const { glyphs, positions } = this.font.layout(text);
    const letters = glyphs.map((glyph, k): ShapedLetter => {
      this.glyphs.set(glyph.id, glyph);
      const { xAdvance, xOffset, yOffset } = positions[k];
      return { glyph: glyph.id, advance: xAdvance, dx: xOffset, dy: -yOffset };
    });
    if (this.shaped.size > MOST_WORDS) this.shaped.clear();
    this.shaped.set(text, letters);
    return letters;
  }

  outline(id: number): string {
    let outline = this.outlines.get(id);
    if (outline === undefined) {
      const glyph = this.glyphs.get(id);
      this.outlines.set(id, (outline = glyph ? pathData(glyph) : ''));
    }
    return outline;
  }

  missing(text: string): string[] {
    return [...new Set(text)].filter(
      (one) => !UNWRITTEN.test(one) && !this.font.hasGlyphForCodePoint(one.codePointAt(0) ?? 0),
    );
  }
}

/** Words whose letters are kept. */
const MOST_WORDS = 5_000;
/** What is not written itself: spaces, breaks, joiners, marks of direction, soft hyphens. */
const UNWRITTEN = /[\s\u00ad\u200b-\u200f\u2028-\u202e\u2060-\u2069\ufe00-\ufe0f]/u;

function pathData({ path }: Glyph): string {
  let [x, y] = [0, 0];
  const n = (value: number) => Math.round(value * 10) / 10;
  const words = path.commands.map(({ command, args }): string => {
    const [a, b, c, d, e, f] = args;
    const [u, v] = [x, y];
    [x, y] = args.length > 1 ? args.slice(-2) : [x, y];
    switch (command) {
      case 'moveTo':
        return `M${n(a)} ${n(-b)}`;
      case 'lineTo':
        return `L${n(a)} ${n(-b)}`;
      case 'bezierCurveTo':
        return `C${n(a)} ${n(-b)} ${n(c)} ${n(-d)} ${n(e)} ${n(-f)}`;
      case 'quadraticCurveTo': {
        // A quadratic as the cubic that it is.
        const [px, py] = [u + (2 / 3) * (a - u), v + (2 / 3) * (b - v)];
        const [qx, qy] = [c + (2 / 3) * (a - c), d + (2 / 3) * (b - d)];
        return `C${n(px)} ${n(-py)} ${n(qx)} ${n(-qy)} ${n(c)} ${n(-d)}`;
      }
      case 'closePath':
        return 'Z';
    }
  });
  return words.join('');
}
