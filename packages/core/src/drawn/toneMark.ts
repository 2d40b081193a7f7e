import type { Area, ToneFill } from '../area';
import { tonePatches, toneRows, type Patch } from '../tone';
import type { Box } from '../math';
import { areaShape } from './areaShape';
import type { Mark, Shade } from './mark';

/** Device px from one dot to the next under which dots are not shown: the tone is the grey of its share there. */
const LEAST_PERIOD = 4;

/** The scale, device px per page px, from which on the dots of a tone are shown; at 1 they always are. */
export const dotsFrom = ({ period }: Pick<ToneFill, 'period'>): number => Math.min(1, LEAST_PERIOD / period);

/** What a tone lays on the paper: its dots or lines, and where these would be too small to be seen the grey of its share. */
export function toneMark(area: Area, fill: ToneFill, box: Box): Mark {
  const { color, share, ramp } = fill;
  let fine: readonly Mark[] | undefined;
  const marks = () => (fine ??= tonePatches(fill, area).map((patch) => patchMark(patch, color)));
  const shade: Shade | undefined = ramp && {
    ramp,
    stops: [
      { at: 0, color, opacity: share },
      { at: 1, color, opacity: ramp.share },
    ],
  };
  return {
    ...areaShape(area),
    box,
    color,
    opacity: ramp ? 1 : share,
    ...(shade && { shade }),
    finer: { from: dotsFrom(fill), marks, px: (rows) => toneRows(fill, rows, area) },
  };
}

const patchMark = (patch: Patch, color: string): Mark => ({
  of: [patch],
  rule: 'nonzero',
  rings: (tolerance) => patch.rings(tolerance),
  color,
  opacity: 1,
  box: patch.box,
});
