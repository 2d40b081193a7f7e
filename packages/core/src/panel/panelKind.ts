import { flatRing } from '../area';
import { evenlyWide, reversedSpine, segmentCount, type Spine } from '../curve';
import { checkSpine, list, number, optional, PageError, record, within, type Fields } from '../gate';
import { checkLaid, laidCopy, laidRefs, type Kind } from '../kind';
import { ringArea } from '../math';
import { checkNib, type InkStyle } from '../nib';
import type { BorderGap, Panel, PanelBorder, PanelEntity } from './types';

/** Panels that one page may hold. */
export const MOST_PANELS = 150;
/** Sides that one panel may have, and gaps in its border. */
const MOST = { sides: 500, gaps: 200 } as const;
/** Page px. */
const WIDEST_GUTTER = 5_000;

/** What a panel is. */
export const panelKind: Kind<PanelEntity> = {
  isMany: false,
  most: {
    count: MOST_PANELS,
    inWords: `A page holds at most ${MOST_PANELS} panels. Take fewer rows or columns, or delete some panels first.`,
  },
  check: checkPanel,
  refs: laidRefs,
  remap: laidCopy,
  laidDown: styledPanel,
};

function checkPanel(fields: Fields): PanelEntity {
  const ring = checkSpine(fields.ring);
  if (!ring.closed) throw new PageError('A panel needs a closed ring.');
  if (segmentCount(ring) > MOST.sides) throw new PageError(`A panel has at most ${MOST.sides} sides.`);
  return {
    kind: 'panel',
    ...checkLaid(fields),
    ring: asPanelRing(ring),
    ...optional(fields, 'border', (value) => checkBorder(value, segmentCount(ring))),
    ...optional(fields, 'gutter', within(0, WIDEST_GUTTER)),
    ...optional(fields, 'reads', within(0, 1e6)),
  };
}

/** A closed course as panels keep theirs: without a weight, turning from x towards y. */
export function asPanelRing(course: Spine): Spine {
  return evenlyWide(ringArea(flatRing(course)) < 0 ? reversedSpine(course) : course, 0);
}

/** A panel with another ring. Gaps of its border stay where its sides are still those that they were. */
export function reshaped<P extends Panel>(panel: P, course: Spine): P {
  const { border, ring } = panel;
  const isSame = segmentCount(course) === segmentCount(ring);
  return {
    ...panel,
    ring: asPanelRing(course),
    ...(border && !isSame && { border: { nib: border.nib } }),
  };
}

/** A panel with another border, or none. */
export function withBorder(panel: PanelEntity, border: PanelBorder | undefined): PanelEntity {
  const { border: _before, ...bare } = panel;
  return border ? { ...bare, border } : bare;
}

/** A panel with so much bare paper round it where it lies over others, page px; 0 for none. */
export function withGutter(panel: PanelEntity, gutter: number): PanelEntity {
  const { gutter: _before, ...bare } = panel;
  return gutter > 0 ? { ...bare, gutter } : bare;
}

function checkBorder(value: unknown, sides: number): PanelBorder {
  const fields = record(value, 'A border');
  return {
    nib: checkNib(fields.nib),
    ...optional(fields, 'gaps', (gaps) => list(gaps, 'gaps', MOST.gaps).map((gap) => checkGap(gap, sides))),
  };
}

function checkGap(value: unknown, sides: number): BorderGap {
  const fields = record(value, 'A gap of a border');
  const side = number(fields.side, 'side', 0, sides - 1);
  const [from, to] = [number(fields.from, 'from', 0, 1), number(fields.to, 'to', 0, 1)];
  if (!Number.isInteger(side) || from >= to) throw new PageError('A gap goes along one side of a border.');
  return { side, from, to };
}

const shown = new WeakMap<PanelEntity, { readonly style: InkStyle; readonly panel: PanelEntity }>();

/** A panel under a layer's style: its border in the layer's colour and weight. The one last asked for is kept. */
function styledPanel(panel: PanelEntity, style: InkStyle | undefined): PanelEntity {
  if (!style || !panel.border || (style.color === undefined && style.widthFactor === 1)) return panel;
  const known = shown.get(panel);
  if (known?.style === style) return known.panel;
  const { nib } = panel.border;
  const styled: PanelEntity = {
    ...panel,
    border: {
      ...panel.border,
      nib: { ...nib, size: nib.size * style.widthFactor, color: style.color ?? nib.color },
    },
  };
  shown.set(panel, { style, panel: styled });
  return styled;
}
