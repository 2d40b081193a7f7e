import { sameValue } from '../gate';
import { asPart, inOneGo, scaling } from '../math';
import type { Said, TraceSettings } from '../page';
import { linesOf } from './lines';
import { mapPlace } from './mapped';
import { measuredLines, type MeasuredLines } from './measuredLines';
import { blacksOf, outlinesOf } from './outlines';
import { skeletonOf } from './skeleton';
import type { InkRaster, Place, Traced, TracedBlack } from './types';

/** A picture taken for lines, up to what settings and the artist's word choose among. */
export interface Tracing {
  readonly measured: MeasuredLines;
  readonly solids: readonly Place[];
}

/**
 * Takes a picture for lines: ink, blacks, thinned lines, their middles and widths, and how they can go on at junctions. Slow:
 * it yields how far it has come, 0..1, and can be let go of at any of these. What was said of blacks counts from here on.
 */
export function* tracing(
  picture: InkRaster,
  settings: TraceSettings,
  said: readonly Said[],
): Generator<number, Tracing> {
  const skeleton = yield* asPart(skeletonOf(picture, settings, said), 0, 0.6);
  const measured = yield* asPart(measuredLines(skeleton), 0.6, 1);
  const back = scaling(1 / skeleton.scale);
  const solids = skeleton.solids.map(({ x, y, radius, isBlack, isUnsure }): Place => {
    const choices: Said[] = [
      { x, y, as: 'black' },
      { x, y, as: 'line' },
    ];
    return mapPlace({ kind: 'black', x, y, choice: isBlack ? 0 : 1, choices, isUnsure, radius }, back);
  });
  return { measured, solids };
}

/** What a tracing comes to as settings and the artist's word have it: quick where little has changed. Yields how far it has come, 0..1. */
export function* tracedOf(
  { measured, solids }: Tracing,
  settings: TraceSettings,
  said: readonly Said[],
): Generator<number, Traced> {
  const { lines, places } = yield* linesOf(measured, settings, said);
  return { lines, blacks: knownBlacks(measured, settings), places: [...solids, ...places] };
}

/** Whether a tracing stands as well for other settings and words: those that only `traced` asks for are others. */
export const isSameTracing = (
  one: TraceSettings,
  two: TraceSettings,
  said: readonly Said[],
  other: readonly Said[],
): boolean =>
  one.darkness === two.darkness &&
  one.smallMarks === two.smallMarks &&
  one.blackFrom === two.blackFrom &&
  sameValue(said.filter(isOfBlack), other.filter(isOfBlack));

const isOfBlack = ({ as }: Said): boolean => as === 'black' || as === 'line';

const blacks = new WeakMap<MeasuredLines, { readonly as: string; readonly blacks: readonly TracedBlack[] }>();

function knownBlacks(measured: MeasuredLines, settings: TraceSettings): readonly TracedBlack[] {
  const as = `${settings.darkness} ${settings.smallMarks} ${settings.corners} ${settings.smoothness}`;
  const known = blacks.get(measured);
  if (known?.as === as) return known.blacks;
  const found = blacksOf(measured.skeleton, settings);
  blacks.set(measured, { as, blacks: found });
  return found;
}

/** The lines and blacks of a picture in one go, with the places that can be decided about: for whoever need not wait in slices. */
export const centreLines = (picture: InkRaster, settings: TraceSettings, said: readonly Said[] = []): Traced =>
  inOneGo(tracedOf(inOneGo(tracing(picture, settings, said)), settings, said));

/** The ink of a picture as areas in one go. */
export const outlines = (picture: InkRaster, settings: TraceSettings): TracedBlack[] =>
  inOneGo(outlinesOf(picture, settings));

/** The blacks of a picture alone, without its lines. */
export const solids = (picture: InkRaster, settings: TraceSettings, said: readonly Said[] = []): TracedBlack[] =>
  blacksOf(inOneGo(skeletonOf(picture, settings, said)), settings);
