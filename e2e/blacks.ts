import type { AreaEntity } from '@true-nib/core/area';
import { newLayer, ofKind, type Edit } from '@true-nib/core/page';
import { arcSpine } from '@true-nib/core/shapes';
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
