import { areaOfRings } from '../../src/math';
import { depthPicture, shadedRings, solidsOf, viewOf, type BlockEntity } from '../../src/set';
import { block, OVER, PAGE, straightScene } from './scenes';

const LIGHT = { from: [0.6, -0.2, 0.7], most: 0.25 } as const;

function shaded(blocks: readonly BlockEntity[]): Float64Array[] {
  const work = shadedRings(solidsOf(blocks), viewOf(OVER), LIGHT, PAGE);
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
}

/** Px of a picture by depth whose surface gets as little light. */
function darkPx(blocks: readonly BlockEntity[]): number {
  const sight = { left: 0, top: 0, scale: 1, width: 1600, height: 1000 };
  const size = Math.hypot(...LIGHT.from);
  const from = [LIGHT.from[0] / size, LIGHT.from[1] / size, LIGHT.from[2] / size] as const;
  const { ids, light } = depthPicture(solidsOf(blocks), viewOf(OVER), sight, from);
  return ids.reduce((sum, id, k) => sum + (id > 0 && light[k] / 255 < 0.5 + LIGHT.most / 2 ? 1 : 0), 0);
}

describe('tones of dark faces', () => {
  it('cover what a picture by depth has dark, whatever stands before it', () => {
    for (const seed of [1, 2, 3]) {
      const blocks = straightScene(12, seed);
      const [area, px] = [Math.abs(areaOfRings(shaded(blocks))), darkPx(blocks)];
      expect(px).toBeGreaterThan(2_000);
      expect(Math.abs(area - px) / px).toBeLessThan(0.02);
    }
  });

  it('leave a face free that the light falls on, and take the shaded side of a ball with a smooth edge', () => {
    const [ring, ...others] = shaded([block('ball', { kind: 'sphere', radius: 2 })]);
    expect(others).toHaveLength(0);
    const px = darkPx([block('ball', { kind: 'sphere', radius: 2 })]);
    expect(Math.abs(Math.abs(areaOfRings([ring])) - px) / px).toBeLessThan(0.04);
  });
});
