import { flag, list, number, oneOf, place, record } from '../../gate';
import type { Point } from '../../math';

/** Colours that can be dropped from paper: blue pencil, and rulings in print. */
export const HUES = ['blue', 'red', 'green'] as const;
export type Hue = (typeof HUES)[number];

/** What is taken off a picture of paper before it is seen. */
export interface LightSettings {
  /** Shadows and the tint of the paper go. */
  readonly evened: boolean;
  /** Colours that go. */
  readonly drop: readonly Hue[];
}

/** Four corners, from the upper left one clockwise as the sheet is read. */
export type Corners = readonly [Point, Point, Point, Point];

/** What is made of a picture of paper before it is seen. The picture itself stays as it was taken. */
export interface Scan extends LightSettings {
  /** How large it is as it was taken, px. */
  readonly taken: { readonly width: number; readonly height: number };
  /** The corners of the sheet in it, px; without them the whole of it is seen. */
  readonly corners?: Corners;
}

/** The longest side of a picture, px. */
const MOST_SIDE = 40_000;

export function checkScan(value: unknown): Scan {
  const fields = record(value, 'A scan');
  const taken = record(fields.taken, 'The size of a scan');
  return {
    taken: {
      width: number(taken.width, 'width', 1, MOST_SIDE),
      height: number(taken.height, 'height', 1, MOST_SIDE),
    },
    ...(fields.corners !== undefined && { corners: checkCorners(fields.corners) }),
    evened: flag(fields.evened, 'evened'),
    drop: list(fields.drop, 'drop', HUES.length).map((hue) => oneOf(hue, 'drop', HUES)),
  };
}

function checkCorners(value: unknown): Corners {
  const [a, b, c, d] = list(value, 'corners', 4);
  const corner = (one: unknown): Point => place(record(one, 'A corner'));
  return [corner(a), corner(b), corner(c), corner(d)];
}
