import { makeSpine } from '../../src/curve';
import { newLayer, type Change, type Edit, type LayerEntity, type PictureEntity } from '../../src/page';
import { packSamples } from '../../src/hand';
import type { SamplesEntity, StrokeEntity } from '../../src/stroke';
import { liner } from '../hands';

export const layer = (
  id: string,
  order = 'a0',
  medium: LayerEntity['medium'] = 'ink',
  more: Partial<LayerEntity> = {},
): LayerEntity => newLayer({ id, medium, name: `Layer ${id}`, order, ...more });

export const stroke = (id: string, x = 0, layerId = 'inks'): StrokeEntity => ({
  kind: 'stroke',
  id,
  layerId,
  order: 'a0',
  spine: makeSpine(Float64Array.of(x, 0, 10, x + 30, 0, 10, x + 60, 20, 10, x + 90, 20, 10)),
  nib: liner,
  ends: ['round', 'round'],
});

export const samples = (id: string): SamplesEntity => ({
  kind: 'samples',
  id,
  packed: packSamples([
    { x: 1, y: 2, pressure: 0.5 },
    { x: 1.5, y: 2.25, pressure: 1, time: 8 },
  ]),
});

export const picture = (id: string, layerId = 'rough'): PictureEntity => ({
  kind: 'picture',
  id,
  layerId,
  order: 'a0',
  blob: 'ab'.repeat(32),
  width: 400,
  height: 300,
  placement: { x: 500, y: 400, scale: 1, angle: 0 },
  opacity: 0.5,
  tint: 'blue',
});

let count = 0;
export const change = (edits: readonly Edit[], more: Partial<Change> = {}): Change => ({
  id: `change-${++count}`,
  by: 'me',
  label: 'Test',
  at: 1,
  needs: [],
  edits,
  ...more,
});
export const adding = (...entities: readonly NonNullable<Edit['after']>[]): Edit[] =>
  entities.map((after) => ({ before: null, after }));
