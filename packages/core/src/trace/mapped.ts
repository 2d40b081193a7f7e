import { mapSpine } from '../curve';
import { apply, scaleOf, type Matrix } from '../math';
import type { Said, TraceSettings } from '../page';
import type { Place, Traced } from './types';

// A tracing, what it was made by and what was said of it, under maps that move, turn and size alone.

/** A tracing in other px. */
export function mapTraced({ lines, blacks, places }: Traced, map: Matrix): Traced {
  const factor = scaleOf(map);
  return {
    lines: lines.map(({ key, spine }) => ({ key, spine: mapSpine(spine, map, factor) })),
    blacks: blacks.map(({ key, rings }) => ({ key, rings: rings.map((ring) => mapSpine(ring, map)) })),
    places: places.map((place) => mapPlace(place, map)),
  };
}

/** A place with all that can be said of it. */
export const mapPlace = (place: Place, map: Matrix): Place => ({
  ...place,
  ...apply(map, place),
  radius: place.radius * scaleOf(map),
  choices: mapSaid(place.choices, map),
});

/** What was said; the directions of branches turn with their junction. */
export function mapSaid(said: readonly Said[], map: Matrix): Said[] {
  const turn = Math.atan2(map[1], map[0]);
  return said.map((one) => {
    const at = apply(map, one);
    if (one.as !== 'junction' || turn === 0) return { ...one, ...at };
    return { ...one, ...at, pairs: one.pairs.map(([p, q]) => [p + turn, q + turn] as const) };
  });
}

/** Settings for a picture with so many times the px each way. */
export const scaledSettings = (settings: TraceSettings, by: number): TraceSettings => ({
  ...settings,
  smallMarks: settings.smallMarks * by,
  smoothness: settings.smoothness * by,
  blackFrom: settings.blackFrom * by,
});
