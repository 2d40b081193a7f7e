import { polylineSpine } from '../../src/shapes';
import type { AreaEntity } from '../../src/area';
import { drawStroke } from '../../src/ink';
import { applyChange, newPage, type Page, type SheetEntity } from '../../src/page';
import type { StrokeEntity } from '../../src/stroke';
import { brush, drawn, even, liner, tapered, wave, zigzag } from '../hands';
import { adding, change, layer } from '../page/entities';

// A page with all that files have to write: lines, blacks with nicks, soft nicks, gradients, tones, faded layers, groups.

const inked = (id: string, stroke: ReturnType<typeof drawStroke>, layerId = 'inks'): StrokeEntity => ({
  ...{ kind: 'stroke', id, layerId, order: id },
  ...stroke,
});

export const box = (x0: number, y0: number, x1: number, y1: number) =>
  polylineSpine(
    [
      { x: x0, y: y0 },
      { x: x1, y: y0 },
      { x: x1, y: y1 },
      { x: x0, y: y1 },
    ],
    true,
  );

export const area = (id: string, more: Partial<AreaEntity>): AreaEntity => ({
  ...{ kind: 'area', id, layerId: 'inks', order: id, rings: [box(0, 0, 10, 10)] },
  fill: { as: 'colour', color: '#000000' },
  ...more,
});

export const SIZE = { width: 700, height: 500, ppi: 350 } as const;

export const LINES = [
  inked('a0', drawStroke(drawn(wave, { tremor: 0.5 }), brush, even(30))),
  inked('a1', drawStroke(drawn(zigzag), liner, even(10))),
  inked('a2', drawStroke(drawn(wave), tapered, even(30))),
];

const sheet: SheetEntity = { kind: 'sheet', id: 'sheet', reads: 'left to right', bleed: 20, margin: 30 };

/** Black lines alone. */
export const inkPage = (): Page => applyChange(newPage(SIZE), change(adding(layer('inks'), sheet, ...LINES)));

/** Everything there is but pictures and pixels. */
export const fullSheet = (): Page =>
  applyChange(
    newPage(SIZE),
    change(
      adding(
        ...[sheet, layer('flats', 'Zz'), layer('inks', 'a0'), layer('faded', 'a1', 'ink', { opacity: 0.5 })],
        ...[layer('group', 'a2', 'group', { opacity: 0.6 }), layer('inner', 'a0', 'ink', { parentId: 'group' })],
        area('b0', { layerId: 'flats', rings: [box(40, 40, 300, 220)], fill: { as: 'colour', color: '#d08030' } }),
        area('b1', {
          ...{ layerId: 'flats', rings: [box(320, 40, 660, 220)] },
          fill: {
            as: 'gradient',
            ramp: { shape: 'straight', from: { x: 320, y: 40 }, to: { x: 660, y: 220 } },
            stops: [
              { at: 0, color: '#2060c0' },
              { at: 0.4, color: '#ffffff', opacity: 0.5 },
              { at: 1, color: '#c02020', opacity: 0 },
            ],
          },
        }),
        area('b2', {
          ...{ layerId: 'inks', rings: [box(60, 260, 320, 460)] },
          fill: {
            ...{ as: 'tone', color: '#000000', screen: 'dots', period: 12, angle: Math.PI / 4, share: 0.3 },
            at: { x: 0, y: 0 },
          },
        }),
        area('b3', { rings: [box(380, 260, 640, 460)] }),
        area('b4', { rings: [box(430, 300, 520, 420)], fill: { as: 'nothing' } }),
        ...LINES,
        area('b5', { layerId: 'faded', rings: [box(500, 100, 690, 300)], fill: { as: 'colour', color: '#108040' } }),
        area('b6', { layerId: 'faded', rings: [box(560, 150, 640, 250)], fill: { as: 'colour', color: '#000000' } }),
        area('b7', { layerId: 'inner', rings: [box(20, 430, 240, 490)], fill: { as: 'colour', color: '#602080' } }),
      ),
    ),
  );
