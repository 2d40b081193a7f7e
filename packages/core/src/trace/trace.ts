import { sameValue } from '../gate';
import type { Said, TraceSettings } from '../page';
import { linesOf } from './lines';
import { measuredLines, type MeasuredLines } from './measuredLines';
import { blacksOf } from './outlines';
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
  const skeleton = yield* shared(skeletonOf(picture, settings, said), 0, 0.55);
  const measured = yield* shared(measuredLines(skeleton), 0.55, 0.95);
  const solids = skeleton.solids.map(({ x, y, radius, isBlack, isUnsure }): Place => {
    const by = 1 / skeleton.scale;
    const at = { x: x * by, y: y * by };
    const choices = [
      { ...at, as: 'black' as const },
      { ...at, as: 'line' as const },
    ];
    return { kind: 'black', ...at, choice: isBlack ? 0 : 1, choices, isUnsure, radius: radius * by };
  });
  return { measured, solids };
}

/** What a tracing comes to as settings and the artist's word have it. Throws nothing; quick enough to be asked again and again. */
export function traced({ measured, solids }: Tracing, settings: TraceSettings, said: readonly Said[]): Traced {
  const { lines, places } = linesOf(measured, settings, said);
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

/** The lines and blacks of a picture in one go: for whoever need not wait in slices. */
export function centreLines(picture: InkRaster, settings: TraceSettings, said: readonly Said[] = []): Traced {
  const work = tracing(picture, settings, said);
  for (;;) {
    const step = work.next();
    if (step.done) return traced(step.value, settings, said);
  }
}

function* shared<T>(work: Generator<number, T>, from: number, to: number): Generator<number, T> {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    yield from + step.value * (to - from);
  }
}
