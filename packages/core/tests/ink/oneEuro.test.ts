import { followShare, oneEuro } from '../oneEuro';

// The filter that docs/calm.md holds ours against must itself be right.
describe('the One Euro filter of the comparison', () => {
  it('follows by α = 0.049755 at 1 Hz and 120 Hz (Casiez, Roussel & Vogel 2012)', () => {
    expect(followShare(1, 120)).toBeCloseTo(0.049755, 6);
  });

  it('leaves a constant as it is', () => {
    const settings = { minCutoff: 1, beta: 0.007, derivativeCutoff: 1 };
    expect(oneEuro(new Array(50).fill(7.25), 120, settings)).toEqual(new Array(50).fill(7.25));
  });
});
