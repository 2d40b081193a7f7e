import type { HandCalmer } from './handCalmer';
import type { Calm, PenSample } from '../hand';
import { EvenCalmer } from './even';
import { SprungCalmer } from './sprung';
import { TowCalmer } from './tow';

/** Lengths of the ways at strength 100, screen px (page px where the calm says so). */
const FULL = { evenReach: 40, slack: 60, towLag: 40, weightReach: 40, trailWeight: 20 } as const;
/** The time in which a spring at strength 100 comes back by a factor of e, ms. */
const FULL_SPRING = 120;
/** What a line that trails behind the pen smooths its weight by where nothing else is said. */
const TRAIL_WEIGHT = 20;

const perPagePx = (calm: Calm, zoom: number): number => (calm.byPage ? 1 : 1 / zoom);

/** Page px that *Even* averages on either side of a point. `zoom` is screen px per page px. */
export const calmReach = (calm: Calm, zoom: number): number =>
  calm.way === 'even' ? (FULL.evenReach * calm.strength * perPagePx(calm, zoom)) / 100 : 0;

/** Page px of slack on which *Tow* pulls the line. */
export const calmSlack = (calm: Calm, zoom: number): number =>
  calm.way === 'tow' ? (FULL.slack * calm.strength * perPagePx(calm, zoom)) / 100 : 0;

/** What calms a hand in the way asked for. `expected`: how many points to make room for. */
export function calmerFor(calm: Calm, zoom: number, expected = 256): HandCalmer {
  const px = perPagePx(calm, zoom);
  const seen = 1 / zoom;
  const isAverage = calm.way === 'even' || calm.way === 'raw';
  if (isAverage) {
    const reach = calmReach(calm, zoom);
    const weightReach = calm.weight === undefined ? reach : (FULL.weightReach * calm.weight * px) / 100;
    return new EvenCalmer({ reach, weightReach, seen: px, stops: calm.stops === true }, expected);
  }
  const weightLag = (FULL.trailWeight * (calm.weight ?? TRAIL_WEIGHT) * px) / 100;
  const trail = { seen, weightLag, stops: calm.stops === true };
  return calm.way === 'tow'
    ? new TowCalmer({ ...trail, slack: calmSlack(calm, zoom), lag: (FULL.towLag * calm.lag * px) / 100 })
    : new SprungCalmer({ ...trail, time: (FULL_SPRING * calm.strength) / 100, drag: calm.drag / 100 });
}

/** A way of calming that takes samples as they come and hands on those that are settled. */
export interface SampleCalmer {
  /** Takes further samples, page px; answers those of the calmed hand that will not change any more. */
  push(samples: readonly PenSample[]): PenSample[];
  /** The rest, once the pen is lifted. */
  finish(): PenSample[];
}

/** Calms samples as they come. All that `push` and `finish` answer, one after another, is `calmed` of all the samples. */
export function makeCalmer(calm: Calm, zoom = 1): SampleCalmer {
  const calmer = calmerFor(calm, zoom);
  const isOneToOne = calm.way === 'raw' || calm.way === 'even';
  const taken: PenSample[] = [];
  let given = 0;
  const give = (to: number): PenSample[] => {
    const { points } = calmer;
    const part: PenSample[] = [];
    for (; given < to; given++) {
      const place = { x: points[given * 3], y: points[given * 3 + 1], pressure: points[given * 3 + 2] };
      part.push(isOneToOne ? { ...taken[given], ...place } : place);
    }
    return part;
  };
  return {
    push(samples) {
      for (const sample of samples) {
        if (isOneToOne) taken.push(sample);
        calmer.add(sample.x, sample.y, sample.pressure, sample.time ?? 0);
      }
      calmer.update();
      return give(calmer.settled(0, given));
    },
    finish: () => give(calmer.size),
  };
}

/**
 * The samples after calming, with place and pressure calmed: as many as came from *Raw* and *Even*, and along the trail's
 * own way from *Tow* and *Sprung*. `zoom` is screen px per page px.
 */
export function calmed(samples: readonly PenSample[], calm: Calm, zoom = 1): PenSample[] {
  const calmer = makeCalmer(calm, zoom);
  return [...calmer.push(samples), ...calmer.finish()];
}
