import { segmentCount } from '../curve';
import { checkSpine, list, oneOf, optional, PageError, place, record, type Fields } from '../gate';
import { checkLaid, laidCopy, laidRefs, type Kind } from '../kind';
import type { InkStyle } from '../nib';
import { checkFill, checkTone } from './checkFill';
import type { AreaEntity, Pour } from './types';

/** Rings that one area may have: far beyond honest work. */
export const MOST_RINGS = 4_000;
/** Cubics that its rings may have together. */
const MOST_CUBICS = 100_000;

/** What an area is. */
export const areaKind: Kind<AreaEntity> = {
  isMany: true,
  check: checkArea,
  refs: laidRefs,
  remap: laidCopy,
  laidDown: styledArea,
};

function checkArea(fields: Fields): AreaEntity {
  const rings = list(fields.rings, 'rings', MOST_RINGS).map(checkSpine);
  if (rings.length === 0 || rings.some(({ closed }) => !closed))
    throw new PageError('An area needs closed rings, one at least.');
  if (rings.reduce((sum, ring) => sum + segmentCount(ring), 0) > MOST_CUBICS)
    throw new PageError(`The rings of an area have at most ${MOST_CUBICS.toLocaleString('en-GB')} cubics.`);
  const fill = checkFill(fields.fill);
  if (fill.as === 'tone') checkTone(fill, { rings });
  return {
    kind: 'area',
    ...checkLaid(fields),
    rings,
    fill,
    ...optional(fields, 'poured', checkPour),
  };
}

function checkPour(value: unknown): Pour {
  const fields = record(value, 'A pour');
  return {
    ...place(fields),
    by: oneOf(fields.by, 'by', ['hand', 'page']),
  };
}

const shown = new WeakMap<AreaEntity, { readonly color: string; readonly area: AreaEntity }>();

/** An area under a layer's style: in its colour, if it has one. The one last asked for is kept. */
function styledArea(area: AreaEntity, style: InkStyle | undefined): AreaEntity {
  const color = style?.color;
  if (color === undefined || !('color' in area.fill)) return area;
  const known = shown.get(area);
  if (known?.color === color) return known.area;
  const styled: AreaEntity = { ...area, fill: { ...area.fill, color } };
  shown.set(area, { color, area: styled });
  return styled;
}
