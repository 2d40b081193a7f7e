import { alongAt, courseOf, lengthOf, type Spine } from '../curve';
import { clamp } from '../math';
import type { Edit } from '../page';
import type { Stroke, StrokeEntity } from '../stroke';
import { LineIndex } from './crossings';
import { editedWeight } from './edited';
import { angleBetween, stopsOf, type Stop } from './meetings';
import { asDrawn, type ShownAs } from './shownLine';
import { Widths } from './weights';

export interface PoolSettings {
  /** Page px along each line over which ink gathers. */
  readonly radius: number;
  /** −1..1: how much wider lines are where they meet; below 0 ends run thin as they come near another line. */
  readonly strength: number;
  /** Radians: only where lines meet at a sharper angle. */
  readonly angle: number;
}

/**
 * Gathers ink where lines meet at sharp angles, or thins their ends there. Kept as widths, so they can be edited on. `all`
 * are the lines that count as met; only `strokes` change. They meet where they are shown to.
 */
export function poolEdits(
  strokes: readonly StrokeEntity[],
  settings: PoolSettings,
  all: readonly StrokeEntity[] = strokes,
  shownAs: ShownAs = asDrawn,
): Edit[] {
  const index = new LineIndex(all.map(shownAs));
  return strokes.flatMap((stroke) => {
    const shown = shownAs(stroke);
    const others = index.near(shown, 0).filter(({ id }) => id !== stroke.id);
    const spine = pooled(stroke.spine, placesMet(shown, stopsOf(shown, others), settings.angle), settings);
    return spine === stroke.spine ? [] : [{ before: stroke, after: editedWeight(stroke, spine) }];
  });
}

/** Lengths along a line at which it meets others at a sharper angle, page px. */
const placesMet = ({ spine }: Stroke, stops: readonly Stop[], angle: number): number[] =>
  stops
    .filter(({ at, other, otherAt }) => angleBetween(spine, at, other.spine, otherAt) <= angle)
    .map(({ at }) => alongAt(courseOf(spine), at));

function pooled(spine: Spine, all: readonly number[], { radius, strength }: PoolSettings): Spine {
  const length = lengthOf(courseOf(spine));
  // Thin are only ends: a line that goes on through a crossing keeps its weight there.
  const met = all.filter((along) => strength > 0 || (!spine.closed && Math.min(along, length - along) < radius / 2));
  if (met.length === 0 || strength === 0) return spine;
  const places = spine.closed ? met.flatMap((along) => [along - length, along, along + length]) : met;
  const widths = new Widths(spine);
  widths.change(0, length, (along, width) => {
    const nearest = Math.min(...places.map((place) => Math.abs(place - along)));
    const near = clamp(1 - nearest / radius, 0, 1);
    return width * (1 + strength * near * near * (3 - 2 * near));
  });
  return widths.apply();
}
