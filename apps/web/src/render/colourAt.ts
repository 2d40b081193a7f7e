import type { Point } from '@true-nib/core/math';
import { ground } from './ground';
import type { InkIndex } from './inkIndex';
import { paintStack } from './stackPaint';

/** Device px per page px that a place is looked at with: the colour of a thin line is not mixed with the paper beside it. */
const CLOSE = 8;
/** How much must be covered for a place to have a colour, 0..255. */
const LEAST = 64;

/** The colour, `#rrggbb`, that all that is seen at a place of a page shows together; nothing on bare paper. */
export function colourAt(index: InkIndex, { x, y }: Point): string | undefined {
  const context = ground(1, 1);
  paintStack(context, index, [CLOSE, 0, 0, CLOSE, 0.5 - CLOSE * x, 0.5 - CLOSE * y], {
    ...{ minX: 0, minY: 0, maxX: 1, maxY: 1 },
  });
  const [red, green, blue, alpha] = context.getImageData(0, 0, 1, 1).data;
  return alpha < LEAST
    ? undefined
    : `#${[red, green, blue].map((part) => part.toString(16).padStart(2, '0')).join('')}`;
}
