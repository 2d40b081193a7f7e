export { contrastOf, leastContrast } from './contrast';
export { letteringKind, LETTER_LIMITS } from './letteringKind';
export { glyphRings, letterRings, MOST_IN_PART } from './glyphs';
export { marked, runsFrom, typedFrom, type TypedText } from './markup';
export { foundIn, replacedIn, textOfRuns, type Sought, type Stretch } from './replaced';
export * from './types';
