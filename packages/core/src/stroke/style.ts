import { STRIDE, type Spine } from '../curve';
import { pressureFor, profiled, tapered, widthUnder, type InkStyle, type Nib } from '../nib';
import type { Stroke } from './types';

const shown = new WeakMap<Stroke, { readonly style: InkStyle; readonly stroke: Stroke }>();

/** A stroke under a layer's style: the same course, another weight or colour. The one last asked for is kept. */
export function styledStroke<S extends Stroke>(stroke: S, style: InkStyle | undefined): S {
  if (!style || (style.color === undefined && style.widthFactor === 1 && !style.nib)) return stroke;
  const known = shown.get(stroke);
  // Only this function writes here, and what it writes is of the stroke's own kind.
  if (known?.style === style) return known.stroke as S;
  const nib = { ...(style.nib ?? stroke.nib), color: style.color ?? stroke.nib.color };
  const styled: S = { ...stroke, nib, spine: styledSpine(stroke, style) };
  shown.set(stroke, { style, stroke: styled });
  return styled;
}

/** What a style makes of the widths of a nib's lines; nothing when it leaves them. Tapers go by length, not by width. */
export function styledWidth(nib: Nib, style: InkStyle | undefined): ((width: number) => number) | undefined {
  if (!style || (!style.nib && style.widthFactor === 1)) return undefined;
  const { nib: other, widthFactor } = style;
  return (width) => widthFactor * (other ? widthUnder(other, pressureFor(nib, width)) : width);
}

/** The width that a line of a nib is kept with so that a style shows it as wide as `shown`, where that nib can. */
export function keptWidth(nib: Nib, style: InkStyle | undefined, shown: number): number {
  if (!style) return shown;
  const wide = shown / style.widthFactor;
  return style.nib ? widthUnder(nib, pressureFor(style.nib, wide)) : wide;
}

function styledSpine({ spine, nib }: Stroke, style: InkStyle): Spine {
  const law = styledWidth(nib, style);
  if (!law) return spine;
  const wide = withWidths(spine, law);
  return style.nib && !spine.closed ? profiled(tapered(wide, style.nib), style.nib) : wide;
}

function withWidths({ points, closed }: Spine, law: (width: number) => number): Spine {
  const changed = points.slice();
  for (let i = 2; i < changed.length; i += STRIDE) changed[i] = law(Math.max(0, points[i]));
  return { points: changed, closed };
}
