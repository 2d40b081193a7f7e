import type { Spine } from '../curve';
import type { EntityId, LaidBase } from '../kind';
import type { Matrix3x3 } from '../math';

/** A part of a text that looks alike. Lines that are broken by hand end with a line feed. */
export interface LetterRun {
  readonly text: string;
  readonly bold?: boolean;
  readonly italic?: boolean;
}

/** What bytes of fonts call themselves on their way: TTF, OTF or WOFF (RFC 8081). */
export const FONT_TYPE = 'font/sfnt';

/** A font by its bytes: a page names it by their SHA-256, and by what it calls itself. */
export interface FontRef {
  readonly sha256: string;
  readonly name: string;
}

/** The fonts of a text. Where there is none for bold or italic, the plain one is used. */
export interface FontFaces {
  readonly plain: FontRef;
  readonly bold?: FontRef;
  readonly italic?: FontRef;
  readonly boldItalic?: FontRef;
}

export const ALIGNS = ['left', 'middle', 'right'] as const;
export type LetterAlign = (typeof ALIGNS)[number];

/** How a text is set. Lengths in page px. */
export interface LetterStyle {
  readonly fonts: FontFaces;
  /** The height of an em: points at print size are 1/72 inch. */
  readonly size: number;
  /** From one base line to the next, as a share of the size. */
  readonly leading: number;
  /** Room added between letters, as a share of the size. */
  readonly tracking: number;
  readonly align: LetterAlign;
  /** All letters are capitals. */
  readonly capitals: boolean;
  /** `#rrggbb` */
  readonly color: string;
  /** A second colour round the letters. */
  readonly outline?: { readonly color: string; readonly width: number };
}

/** Letters as they stand, in px of their own: about the middle of the text, y down. */
export interface SetLetters {
  /** The outline of each letter that is used, in font units, y down: path data of absolute M, L, C and Z alone. */
  readonly glyphs: readonly string[];
  /** For each letter that stands somewhere its outline's number, and the six numbers of the map to where it stands. */
  readonly places: Float64Array;
  /** How wide and high the text is with its leading. */
  readonly width: number;
  readonly height: number;
}

/** What a text is fitted into. */
export type LetterFit =
  /** Lines as wide as that, page px; or as long as they come. */
  | { readonly as: 'free'; readonly width?: number }
  /** A body of a balloon, with so much air round the text. */
  | {
      readonly as: 'balloon';
      readonly balloonId: EntityId;
      readonly body: number;
      readonly air: number;
      readonly by: 'balloon' | 'letters';
    }
  /** Along a course, in px of its own. */
  | { readonly as: 'course'; readonly course: Spine }
  /** Bent up by so much of its width, below 0 down. */
  | { readonly as: 'arch'; readonly rise: number };

/** A text as a value. */
export interface Lettering {
  readonly runs: readonly LetterRun[];
  readonly style: LetterStyle;
  readonly fit: LetterFit;
  /** From its own px to the page: turned, sized, or laid on a plane. */
  readonly place: Matrix3x3;
  readonly set: SetLetters;
}

export interface LetteringEntity extends Lettering, LaidBase {
  readonly kind: 'lettering';
}
