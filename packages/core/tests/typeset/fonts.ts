import { readFileSync } from 'node:fs';
import { readFont, type LetterFont } from '../../src/typeset';

/** The bytes of a font that ships with the app. */
export const fontBytes = (file: string): Uint8Array =>
  new Uint8Array(readFileSync(require.resolve(`@expo-google-fonts/${file}.ttf`)));

export const COMIC = 'comic-neue/400Regular/ComicNeue_400Regular';
export const COMIC_BOLD = 'comic-neue/700Bold/ComicNeue_700Bold';
export const LOUD = 'bangers/400Regular/Bangers_400Regular';

const read = new Map<string, LetterFont>();

export function fontNamed(file: string): LetterFont {
  const known = read.get(file) ?? readFont(fontBytes(file));
  read.set(file, known);
  return known;
}
