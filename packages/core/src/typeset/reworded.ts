import { letteringOn } from '../comic';
import { foundIn, replacedIn, type FontFaces, type Sought } from '../lettering';
import { applyChange, draftChange, mergeEdits, nodeOf, type Edit, type Page } from '../page';
import { relettered } from './relettered';
import type { ReadFonts } from './words';

/** What came of words that were replaced. */
export interface Reworded {
  readonly edits: readonly Edit[];
  /** How often they were replaced. */
  readonly count: number;
  /** How often they stand on locked layers, where they were left. */
  readonly locked: number;
  /** Texts that do not fit any more. */
  readonly tight: number;
  /** Letters that the fonts do not have. */
  readonly missing: readonly string[];
}

/**
 * Replaces words in all texts of a page and sets those anew: balloons that go by their text fit it again. Throws a PageError for a
 * text that gets too long; nothing is done then.
 */
export function replaceWords(
  page: Page,
  sought: Sought,
  words: string,
  fontsOf: (faces: FontFaces) => ReadFonts,
): Reworded {
  let now = page;
  const edits: Edit[] = [];
  const missing = new Set<string>();
  let [count, locked, tight] = [0, 0, 0];
  for (const { id, layerId, runs, style } of letteringOn(page)) {
    const places = foundIn(runs, sought).length;
    if (places === 0) continue;
    if (nodeOf(page, layerId)?.isLocked) {
      locked += places;
      continue;
    }
    const change = { runs: replacedIn(runs, sought, words) };
    const { edits: own, setting } = relettered(now, id, change, fontsOf(style.fonts));
    // Texts of one balloon that was joined change it one after the other.
    now = applyChange(now, draftChange('Replace words', own));
    edits.push(...own);
    count += places;
    if (setting.overflows) tight++;
    for (const letter of setting.missing) missing.add(letter);
  }
  return { edits: mergeEdits(edits), count, locked, tight, missing: [...missing] };
}
