import { applyChange, newLayer, newPage, type Entity, type LayerEntity, type Page } from '@true-nib/core/page';
import { ChangeLog } from '../src/render/changeLog';
import { flatsLayer } from '../src/stages/blacks/flatsLayer';

const pageOf = (...entities: Entity[]): Page =>
  applyChange(newPage({ width: 100, height: 100, ppi: 300 }), {
    ...{ id: 'c', by: 'a', label: 'Start', at: 0, needs: [] },
    edits: entities.map((after) => ({ before: null, after })),
  });
const inks = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a1' });
const flats = (more: Partial<LayerEntity> = {}) =>
  newLayer({ id: 'flats', medium: 'ink', name: 'Flats', order: 'a0', ...more });
describe('the layer that flats go to', () => {
  it('is made below the inks where there is none, in their group, and is the same the next time', () => {
    const group = newLayer({ id: 'group', medium: 'group', name: 'Group', order: 'a1' });
    const made = flatsLayer(pageOf(group, { ...inks, parentId: 'group' }));
    expect(made).toMatchObject({ layer: { medium: 'ink', name: 'Flats', parentId: 'group' } });
    const layer = typeof made === 'string' ? undefined : made.layer;
    expect(layer && layer.order < inks.order).toBe(true);
    expect(flatsLayer(pageOf(flats(), inks))).toMatchObject({ layer: { id: 'flats' }, edits: [] });
  });

  it('says why nothing can be poured: locked, hidden, or in a group that is', () => {
    expect(flatsLayer(pageOf(flats({ locked: true }), inks))).toBe('Flats is locked.');
    expect(flatsLayer(pageOf(flats({ hidden: true }), inks))).toMatch(/hidden/);
    const group = newLayer({ id: 'group', medium: 'group', name: 'Ground', order: 'a0', hidden: true });
    expect(flatsLayer(pageOf(group, flats({ parentId: 'group' }), inks))).toBe('Flats is hidden.');
    // A Wash of that name is none of ours.
    expect(flatsLayer(pageOf(flats({ medium: 'wash' }), inks))).toMatchObject({ edits: [{ before: null }] });
  });
});

describe('a log of changes', () => {
  const box = (x: number) => ({ minX: x, minY: 0, maxX: x + 1, maxY: 1 });

  it('tells where something changed since then, and that anything may have where it does not know', () => {
    const log = new ChangeLog();
    log.add([box(1)]);
    const then = log.count;
    expect(log.since(then)).toEqual([]);
    log.add([box(2), box(3)]);
    log.add([box(4)]);
    expect(log.since(then)).toEqual([box(2), box(3), box(4)]);
    log.add(undefined);
    expect(log.since(then)).toBeUndefined();
    expect(log.since(log.count)).toEqual([]);
    for (let k = 0; k < 5_000; k++) log.add([box(k)]);
    expect(log.since(then)).toBeUndefined();
    expect(log.since(log.count - 1)).toEqual([box(4_999)]);
  });
});
