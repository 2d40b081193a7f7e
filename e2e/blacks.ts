import { nested, type AreaEntity } from '@true-nib/core/area';
import { newLayer, ofKind, type Edit } from '@true-nib/core/page';
import { arcSpine, ellipseSpine, lineSpine } from '@true-nib/core/shapes';
import { inked, type StrokeEntity } from '@true-nib/core/stroke';
import { onServer } from './board';
import type { Desk } from './desk';

export const areasOn = async (desk: Desk, pageId: string): Promise<AreaEntity[]> =>
  ofKind(await onServer(desk, pageId), 'area');

const NIB = { name: 'Liner', size: 16, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' } as const;

/** A ring of ink on a layer of its own with one opening of so many page px. */
export function ringWithGap(centre: { readonly x: number; readonly y: number }, radius: number, gap: number): Edit[] {
  const half = Math.asin((gap + NIB.size) / 2 / radius);
  const layer = newLayer({ id: 'ringed', medium: 'ink', name: 'Ring', order: 'a7' });
  const ring: StrokeEntity = {
    ...{ kind: 'stroke', id: 'ring', layerId: layer.id, order: 'a0' },
    ...inked(arcSpine(centre, radius, half, 2 * Math.PI - 2 * half), NIB),
  };
  return [layer, ring].map((after) => ({ before: null, after }));
}

/** Page px of the heron page at a place of its board, and CSS px of a place of it: the page stands at 290, 62 there. */
const CLOSE = 2800 / 724;
export const onHeron = (x: number, y: number): readonly [number, number] => [290 + x / CLOSE, 62 + y / CLOSE];

/** Two lines that cross on a layer of their own, one of them overhanging at its left end, and two specks beside them. */
export function overhang(): Edit[] {
  const layer = newLayer({ id: 'crossed', medium: 'ink', name: 'Crossed', order: 'a7' });
  const course = { across: [1000, 1200, 1800, 1200], down: [1150, 900, 1150, 1700] } as const;
  const lines = Object.entries(course).map(([id, [x, y, u, v]], k): StrokeEntity => ({
    ...{ kind: 'stroke', id, layerId: layer.id, order: `a${k}` },
    ...inked(lineSpine({ x, y }, { x: u, y: v }), NIB),
  }));
  const specks = [1300, 1500].map((x, k): AreaEntity => ({
    ...{ kind: 'area', id: `speck-${k}`, layerId: layer.id, order: `a${2 + k}` },
    rings: nested([ellipseSpine({ centre: { x, y: 1400 }, rx: 2.5, ry: 2.5 })]),
    fill: { as: 'colour', color: NIB.color },
  }));
  return [layer, ...lines, ...specks].map((after) => ({ before: null, after }));
}
