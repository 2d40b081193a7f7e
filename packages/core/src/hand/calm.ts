import { number, oneOf, optional, record, within } from '../gate';

/** What all ways of calming share. */
interface CalmBase {
  /** The weight is smoothed apart, 0..100; as the way does it where none is given. */
  readonly weight?: number;
  /** The line ends where it has got to when the pen lifts; it is drawn on to the pen otherwise. */
  readonly stops?: true;
  /** Lengths are page px at any zoom; screen px otherwise. */
  readonly byPage?: true;
}

/**
 * How the hand is calmed; `strength` is 0..100. *Raw* not at all. *Even* by a distance-weighted moving average over up to
 * 40 px on either side. *Tow* pulls the line behind the pen on a slack of up to 60 px; `lag` (0..100) makes it slow to
 * follow. *Sprung* hangs the line on a spring with a mass; `drag` 100 just keeps it from swinging.
 */
export type Calm = CalmBase &
  (
    | { readonly way: 'raw' }
    | { readonly way: 'even'; readonly strength: number }
    | { readonly way: 'tow'; readonly strength: number; readonly lag: number }
    | { readonly way: 'sprung'; readonly strength: number; readonly drag: number }
  );

/** The calm in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkCalm(value: unknown): Calm {
  const fields = record(value, 'A calm');
  const share = (name: string) => number(fields[name], name, 0, 100);
  const base = {
    ...optional(fields, 'weight', within(0, 100)),
    ...(fields.stops === true ? { stops: true as const } : {}),
    ...(fields.byPage === true ? { byPage: true as const } : {}),
  };
  switch (oneOf(fields.way, 'way', ['raw', 'even', 'tow', 'sprung'])) {
    case 'raw':
      return { ...base, way: 'raw' };
    case 'even':
      return { ...base, way: 'even', strength: share('strength') };
    case 'tow':
      return { ...base, way: 'tow', strength: share('strength'), lag: share('lag') };
    case 'sprung':
      return { ...base, way: 'sprung', strength: share('strength'), drag: share('drag') };
  }
}
