import fc from 'fast-check';
import { contrastOf, leastContrast } from '../../src/lettering';

/** Source: WCAG 2.2, definitions of relative luminance and of contrast ratio. */
function ratio(a: readonly number[], b: readonly number[]): number {
  const luminance = (color: readonly number[]) => {
    const [r, g, blue] = color.map((part) => {
      const share = part / 255;
      return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r + 0.7152 * g + 0.0722 * blue;
  };
  const [lighter, darker] = [luminance(a), luminance(b)].sort((one, other) => other - one);
  return (lighter + 0.05) / (darker + 0.05);
}
const hex = (color: readonly number[]) => `#${color.map((part) => part.toString(16).padStart(2, '0')).join('')}`;

describe('the contrast of letters', () => {
  it('is what WCAG 2.2 says, for any two colours', () => {
    const color = fc.tuple(...Array.from({ length: 3 }, () => fc.integer({ min: 0, max: 255 })));
    fc.assert(
      fc.property(color, color, (a, b) => {
        // The package rounds down to hundredths.
        expect(Math.abs(contrastOf(hex(a), hex(b)) - ratio(a, b))).toBeLessThan(0.011);
      }),
    );
    expect(contrastOf('#000000', '#ffffff')).toBe(21);
  });

  // Source: WCAG 2.2, success criterion 1.4.3 and the definition of large scale.
  it.each([
    [8, false, 4.5],
    [17.9, false, 4.5],
    [18, false, 3],
    [14, true, 3],
    [13.9, true, 4.5],
  ])('of %p points, bold: %p, is to be %p', (points, isBold, least) =>
    expect(leastContrast(points, isBold)).toBe(least),
  );
});
