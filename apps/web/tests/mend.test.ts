import { applyChange, draftChange, newLayer, newPage, type LayerEntity, type Page } from '@true-nib/core/page';
import { useDesk } from '../src/board/desk';
import { inPagePx } from '../src/stages/mend/mendStore';
import { reachedLayers } from '../src/hand/reach';

const layer = (id: string, order: string, change: Partial<LayerEntity> = {}): LayerEntity => ({
  ...newLayer({ id, medium: 'ink', name: id, order }),
  ...change,
});

const pageOf = (...layers: LayerEntity[]): Page =>
  applyChange(
    newPage({ width: 800, height: 600, ppi: 300 }),
    draftChange(
      'layers',
      layers.map((after) => ({ before: null, after })),
    ),
  );

describe('what mending reaches', () => {
  beforeEach(() => useDesk.setState({ layerId: 'b', chosenLayers: [] }));

  const page = pageOf(
    layer('a', 'a0'),
    layer('b', 'a1'),
    layer('locked', 'a2', { locked: true }),
    layer('hidden', 'a3', { hidden: true }),
    layer('wash', 'a4', { medium: 'wash' }),
  );

  it('is the layer in hand, all Ink layers, or those chosen; locked ones are met, hidden ones are not', () => {
    expect(reachedLayers(page, 'layer')).toEqual({ changing: ['b'], met: ['b'] });
    expect(reachedLayers(page, 'inks')).toEqual({ changing: ['a', 'b'], met: ['a', 'b', 'locked'] });
    useDesk.setState({ chosenLayers: ['a', 'locked', 'hidden', 'wash'] });
    expect(reachedLayers(page, 'chosen')).toEqual({ changing: ['a', 'b'], met: ['a', 'b', 'locked'] });
  });

  it('says why there is nothing to mend', () => {
    for (const [layerId, reason] of [
      ['locked', 'locked is locked.'],
      ['hidden', 'hidden is hidden.'],
      ['wash', 'Lines are mended on Ink layers: take one in hand.'],
    ]) {
      useDesk.setState({ layerId });
      expect(reachedLayers(page, 'layer')).toBe(reason);
    }
    expect(reachedLayers(pageOf(layer('only', 'a0', { locked: true })), 'inks')).toBe(
      'Every Ink layer is locked or hidden.',
    );
  });

  it('is told in px or mm', () => {
    expect(inPagePx(25.4, 'mm', 300)).toBeCloseTo(300, 9);
    expect(inPagePx(40, 'px', 300)).toBe(40);
  });
});
