import { squaredDepths } from '../../src/trace/depths';
import { dropSpecks, inkedFrom, usualWidth, type Inked } from '../../src/trace/inked';
import { thinned } from '../../src/trace/thin';
import { iconsOf, scanned } from './icons';

/** How many pieces hang together, eight neighbours to a px: by colouring one after the other. */
function pieces({ width, on }: Inked): number {
  const left = new Set<number>();
  on.forEach((value, i) => value && left.add(i));
  let count = 0;
  for (const start of left) {
    count++;
    const list = [start];
    left.delete(start);
    for (const at of list)
      for (const step of [-1, 1, -width, width, -width - 1, -width + 1, width - 1, width + 1])
        if (left.delete(at + step)) list.push(at + step);
  }
  return count;
}

describe('Thinning', () => {
  it('leaves as many pieces as there were, a px wide (Guo & Hall 1989)', async () => {
    for (const icon of iconsOf('even', 40)) {
      const inked = inkedFrom(await scanned(icon, { line: 6, width: 1, wear: 'noise' }), 0.5);
      const skeleton = thinned(inked);
      expect(pieces(skeleton)).toBe(pieces(inked));
      // No px is left that could go from a solid square without parting anything: four in a square are few.
      const { width, on } = skeleton;
      let squares = 0;
      on.forEach((value, i) => (squares += value && on[i + 1] && on[i + width] && on[i + width + 1] ? 1 : 0));
      expect(squares).toBeLessThanOrEqual(4);
    }
  });

  it('goes by depths that are those of every px, one by one', async () => {
    const [icon] = iconsOf('even', 200);
    const inked = inkedFrom(await scanned(icon, { line: 6, width: 3, wear: 'clean' }), 0.5);
    const depths = squaredDepths(inked);
    const { width, height, on } = inked;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let least = on[y * width + x] ? Infinity : 0;
        for (let v = 0; v < height && least > 0; v++)
          for (let u = 0; u < width; u++) if (!on[v * width + u]) least = Math.min(least, (u - x) ** 2 + (v - y) ** 2);
        expect(depths[y * width + x]).toBe(least);
      }
  });

  it('finds how wide most lines are, whatever way they go, and lets small marks be', async () => {
    for (const icon of iconsOf('even', 100)) {
      const inked = inkedFrom(await scanned(icon, { line: 6, width: 0.5, wear: 'clean' }), 0.5);
      expect(Math.abs(usualWidth(inked) - 6)).toBeLessThanOrEqual(1);
    }
    const on = new Uint8Array(100);
    on.fill(1, 22, 26);
    on[57] = 1;
    const marks: Inked = { width: 10, height: 10, on };
    dropSpecks(marks, 3);
    expect(on.reduce((sum, value) => sum + value, 0)).toBe(4);
  });
});
