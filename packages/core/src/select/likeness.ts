import type { Stroke } from '../stroke';

/** The strokes drawn with the same nib as any of `like`, whatever its size and colour. */
export function sameNib<S extends Stroke>(strokes: Iterable<S>, like: Iterable<Stroke>): S[] {
  const names = new Set(Array.from(like, ({ nib }) => nib.name));
  return [...strokes].filter(({ nib }) => names.has(nib.name));
}

/** The strokes of the same colour as any of `like`. */
export function sameColour<S extends Stroke>(strokes: Iterable<S>, like: Iterable<Stroke>): S[] {
  const colours = new Set(Array.from(like, ({ nib }) => nib.color.toLowerCase()));
  return [...strokes].filter(({ nib }) => colours.has(nib.color.toLowerCase()));
}
