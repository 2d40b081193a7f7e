export { brokenInto, isWithin, lineWidth, type Lines } from './breaks';
export { fittedBody, type FittedBody } from './fit';
export { MOST_FONT_BYTES, readFont, type LetterFont, type ShapedLetter } from './font';
export { setLettering, type Setting, type Shape } from './set';
export { widthOf, wordsOf, type ReadFonts, type Word } from './words';
export { scriptToBalloons, type ScriptFonts } from './fromScript';
export { freeText, relettered, textInBody, type LaidText, type Text, type TextChange } from './relettered';
export { replaceWords, type Reworded } from './reworded';
export { readScript, type ScriptLine } from './script';
