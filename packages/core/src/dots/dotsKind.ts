import { checkFill } from '../area';
import { STRIDE } from '../curve';
import { numbers, PageError, type Fields } from '../gate';
import { checkLaid, laidCopy, laidRefs, type Kind } from '../kind';
import { NIB_LIMITS, type InkStyle } from '../nib';
import type { DotsEntity } from './types';

/** Dots that one thing may have. */
export const MOST_DOTS = 200_000;

/** What a thing of many dots is. */
export const dotsKind: Kind<DotsEntity> = {
  isMany: true,
  check: checkDots,
  refs: laidRefs,
  remap: laidCopy,
  laidDown: styledDots,
};

function checkDots(fields: Fields): DotsEntity {
  const dots = numbers(fields.dots, 'dots', MOST_DOTS * STRIDE);
  if (dots.length === 0 || dots.length % STRIDE !== 0)
    throw new PageError(`Dots come as x, y and width in turn, one at least; ${dots.length} numbers came.`);
  const { least, most } = NIB_LIMITS;
  for (let i = 2; i < dots.length; i += STRIDE)
    if (!(dots[i] >= least && dots[i] <= most))
      throw new PageError(`A dot is ${least} to ${most} px wide; ${dots[i]} came.`);
  const fill = checkFill(fields.fill);
  if (fill.as !== 'colour' && fill.as !== 'nothing') throw new PageError('Dots have a colour, or take ink away.');
  return { kind: 'dots', ...checkLaid(fields), dots, fill };
}

const shown = new WeakMap<DotsEntity, { readonly style: InkStyle; readonly dots: DotsEntity }>();

/** Dots under a layer's style: in its colour, and as much wider as its lines. The ones last asked for are kept. */
function styledDots(entity: DotsEntity, style: InkStyle | undefined): DotsEntity {
  if (!style || (style.color === undefined && style.widthFactor === 1)) return entity;
  const known = shown.get(entity);
  if (known?.style === style) return known.dots;
  const { fill } = entity;
  const dots: DotsEntity = {
    ...entity,
    dots: style.widthFactor === 1 ? entity.dots : widened(entity.dots, style.widthFactor),
    fill: fill.as === 'colour' && style.color !== undefined ? { ...fill, color: style.color } : fill,
  };
  shown.set(entity, { style, dots });
  return dots;
}

function widened(dots: Float64Array, factor: number): Float64Array {
  const wide = dots.slice();
  for (let i = 2; i < wide.length; i += STRIDE) wide[i] *= factor;
  return wide;
}
