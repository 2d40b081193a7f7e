import { colour, list, number, oneOf, optional, PageError, place, record, within } from '../gate';
import { boxOfRings } from '../math';
import type { Ramp } from './ramp';
import { flatRing } from './rings';
import { SCREENS, type Area, type AreaFill, type GradientStop, type ToneFill } from './types';

/** Numbers that a tone may have; `period` in page px. */
export const TONE_LIMITS = { period: { least: 1, most: 2_000 } } as const;
/** Colours that one gradient goes through. */
const MOST_STOPS = 16;

const share = within(0, 1);

/** Dots that one tone may have. */
const MOST_DOTS = 4_000_000;

/** Throws a PageError for a tone that would have more dots or lines in its area than can be painted. */
export function checkTone({ period }: ToneFill, { rings }: Pick<Area, 'rings'>): void {
  const { minX, minY, maxX, maxY } = boxOfRings(rings.map((ring) => flatRing(ring)));
  const count = ((maxX - minX) * (maxY - minY)) / period ** 2;
  if (count > MOST_DOTS)
    throw new PageError(
      `This tone would have some ${Math.round(count / 1e6)} million dots. Take fewer lines per inch, or a smaller area.`,
    );
}

/** What fills an area, as it came from outside. Throws a PageError that names the field, what it needs and what came. */
export function checkFill(value: unknown): AreaFill {
  const fields = record(value, 'A fill');
  const as = oneOf(fields.as, 'as', ['colour', 'tone', 'gradient', 'nothing']);
  switch (as) {
    case 'nothing':
      return { as };
    case 'colour':
      return { as, color: colour(fields.color, 'color'), ...optional(fields, 'opacity', share) };
    case 'gradient':
      return { as, ramp: checkRamp(fields.ramp), stops: checkStops(fields.stops) };
    case 'tone': {
      const { least, most } = TONE_LIMITS.period;
      return {
        as,
        color: colour(fields.color, 'color'),
        screen: oneOf(fields.screen, 'screen', SCREENS),
        period: number(fields.period, 'period', least, most),
        angle: number(fields.angle, 'angle', -7, 7),
        at: place(record(fields.at, 'at')),
        share: share(fields.share, 'share'),
        ...optional(fields, 'ramp', (ramp) => ({
          ...checkRamp(ramp),
          share: share(record(ramp, 'A ramp').share, 'share'),
        })),
      };
    }
  }
}

/** A way along which something changes. Throws a PageError for one without a length. */
export function checkRamp(value: unknown): Ramp {
  const fields = record(value, 'A ramp');
  const [from, to] = [place(record(fields.from, 'from')), place(record(fields.to, 'to'))];
  if (!(Math.hypot(to.x - from.x, to.y - from.y) > 1e-6)) throw new PageError('A ramp goes from one place to another.');
  return { shape: oneOf(fields.shape, 'shape', ['straight', 'round']), from, to };
}

function checkStops(value: unknown): GradientStop[] {
  const stops = list(value, 'stops', MOST_STOPS).map((stop): GradientStop => {
    const fields = record(stop, 'A colour of a gradient');
    return {
      at: share(fields.at, 'at'),
      color: colour(fields.color, 'color'),
      ...optional(fields, 'opacity', share),
    };
  });
  if (stops.length < 2) throw new PageError('A gradient needs two colours at least.');
  if (stops.some(({ at }, k) => k > 0 && at < stops[k - 1].at))
    throw new PageError('The colours of a gradient come in their order along it.');
  return stops;
}
