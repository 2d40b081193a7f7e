import { SEGMENT, spineLength, splitSpine, STRIDE, type Spine } from '../curve';
import type { InkStyle, LayerEntity, Nib, Stroke } from './entity';
import { pressureFor, taperAt, taperLengths, widthUnder } from './nib';

/** Lines as they were drawn. */
export const PLAIN_STYLE: InkStyle = { widthFactor: 1, edge: 'soft' };

/** Pieces that a taper is cut into, so that its widths follow the nib's law. */
const TAPER_PIECES = 4;

const standingIn = new WeakMap<LayerEntity, InkStyle>();

/** How a layer's lines are shown: by its style, and in its stand-in colour where that is asked for. */
export function shownStyle(layer: LayerEntity, withStandIns: boolean): InkStyle | undefined {
  if (!withStandIns || layer.standIn === undefined) return layer.style;
  let style = standingIn.get(layer);
  if (!style) standingIn.set(layer, (style = { ...(layer.style ?? PLAIN_STYLE), color: layer.standIn }));
  return style;
}

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

function styledSpine({ spine, nib }: Stroke, style: InkStyle): Spine {
  const law = styledWidth(nib, style);
  if (!law) return spine;
  const wide = withWidths(spine, law);
  return style.nib && !spine.closed ? tapered(wide, style.nib) : wide;
}

function withWidths({ points, closed }: Spine, law: (width: number) => number): Spine {
  const changed = points.slice();
  for (let i = 2; i < changed.length; i += STRIDE) changed[i] = law(Math.max(0, points[i]));
  return { points: changed, closed };
}

/** The spine with a nib's tapers laid over its widths; nodes are added where the tapers bend. */
function tapered(spine: Spine, nib: Nib): Spine {
  const length = spineLength(spine);
  const [swell, runOut] = taperLengths(nib, length);
  if (swell + runOut === 0 || length === 0) return spine;
  const marks = [
    ...Array.from({ length: swell > 0 ? TAPER_PIECES : 0 }, (_, k) => (swell * (k + 1)) / TAPER_PIECES),
    ...Array.from({ length: runOut > 0 ? TAPER_PIECES : 0 }, (_, k) => length - runOut * (1 - k / TAPER_PIECES)),
  ];
  const cut = cutAt(spine, marks);
  const points = cut.points.slice();
  let along = 0;
  let before = taperAt(nib, 0, length);
  points[2] *= before;
  for (let i = 0; i + SEGMENT < points.length; i += SEGMENT) {
    along += spineLength({ points: cut.points.subarray(i, i + SEGMENT + STRIDE), closed: false });
    const after = taperAt(nib, Math.min(along, length), length);
    points[i + 5] *= before + (after - before) / 3;
    points[i + 8] *= before + (2 * (after - before)) / 3;
    points[i + 11] *= after;
    before = after;
  }
  return { points, closed: false };
}

/** The same course with further nodes at these lengths along it, rising, page px. */
function cutAt(spine: Spine, lengths: readonly number[]): Spine {
  const done: number[] = [];
  let rest = spine;
  let gone = 0;
  for (const mark of lengths) {
    let segment = 0;
    let start = gone;
    let own = segmentLength(rest, 0);
    while (start + own < mark && (segment + 1) * SEGMENT + STRIDE < rest.points.length) {
      start += own;
      own = segmentLength(rest, ++segment);
    }
    // Along a segment of a fitted spine the parameter runs nearly evenly.
    const t = own > 0 ? (mark - start) / own : 0;
    if (t < 0.02 || t > 0.98) continue;
    const [head, tail] = splitSpine(rest, { segment, t });
    done.push(...head.points.subarray(0, head.points.length - STRIDE));
    gone += spineLength(head);
    rest = tail;
  }
  return done.length === 0 ? rest : { points: Float64Array.of(...done, ...rest.points), closed: false };
}

const segmentLength = ({ points }: Spine, segment: number): number =>
  spineLength({ points: points.subarray(segment * SEGMENT, (segment + 1) * SEGMENT + STRIDE), closed: false });
