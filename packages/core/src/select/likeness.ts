import { colourOf, type DrawnEntity } from '../drawn';
import type { Stroke } from '../stroke';

/** The strokes drawn with the same nib as any of `like`, whatever its size and colour. */
export function sameNib<S extends Stroke>(strokes: Iterable<S>, like: Iterable<Stroke>): S[] {
  const names = new Set(Array.from(like, ({ nib }) => nib.name));
  return [...strokes].filter(({ nib }) => names.has(nib.name));
}

/** Lines and areas of the same colour as any of `like`; what takes ink away has none. */
export function sameColour(all: Iterable<DrawnEntity>, like: Iterable<DrawnEntity>): DrawnEntity[] {
  const colours = new Set(Array.from(like, (entity) => colourOf(entity)?.toLowerCase()));
  return [...all].filter((entity) => {
    const color = colourOf(entity)?.toLowerCase();
    return color !== undefined && colours.has(color);
  });
}
