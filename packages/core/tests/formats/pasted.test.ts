import { drawStroke, outlineOf } from '../../src/ink';
import { spineBox, spineLength } from '../../src/curve';
import { PageError } from '../../src/gate';
import type { Nib } from '../../src/nib';
import type { StrokeEntity } from '../../src/stroke';
import { drawnToSvg, svgToDrawn } from '../../src/formats';
import { brush, drawn, even, laid, linesIn, liner, wave } from '../hands';

const svg = (inner: string, more = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"${more}>${inner}</svg>`;
const rough: Nib = { ...brush, edge: { kind: 'rough', amount: 0.4, grain: 6 } };
const line: StrokeEntity = {
  ...laid(drawStroke(drawn(wave, { tremor: 1 }), brush, even(30)), 'copied'),
  layerId: 'copied',
};

describe('strokes on the clipboard', () => {
  it('come back number for number', () => {
    const [back] = linesIn(drawnToSvg([line]), liner);
    expect(back).toEqual(line);
  });

  it.each([
    ['with an end cut slantwise', { ...line, ends: ['flat', { gone: Float64Array.of(0, 0, 40, 0, 0, 40) }] as const }],
    ['with a broken edge, which breaks where it did', { ...line, nib: rough, grain: { seed: 7, offset: 120 } }],
    ['as a blot', { ...line, fills: true as const }],
  ])('come back %s', (_how, stroke: StrokeEntity) => {
    const [back] = linesIn(drawnToSvg([stroke]), liner);
    expect(back).toEqual(stroke);
    expect(outlineOf(back)).toEqual(outlineOf(stroke));
  });

  it('come from any SVG: lines as wide and as coloured as they are', () => {
    const [straight, bent] = linesIn(
      svg(
        '<g stroke="#b8402a" stroke-width="3" transform="translate(10 20) scale(2)"><line x1="0" y1="0" x2="50" y2="0"/><path fill="none" d="M0 0q10 20 40 0"/></g>',
      ),
      liner,
    );
    expect(straight.nib).toMatchObject({ color: '#b8402a', size: 6 });
    expect(spineLength(straight.spine)).toBeCloseTo(100, 6);
    expect(straight.spine.points[0]).toBe(10);
    expect(straight.spine.points[1]).toBe(20);
    expect(bent.spine.points).toHaveLength(12);
  });

  it.each([
    ['crimson', '#dc143c'],
    ['rgb(10, 20, 30)', '#0a141e'],
    ['rgba(10 20 30 / 40%)', '#0a141e'],
    ['hsl(120, 100%, 25%)', '#008000'],
    ['#0f0', '#00ff00'],
    ['#00ff0080', '#00ff00'],
    ['url(#g)', liner.color],
    ['currentColor', liner.color],
    ['transparent', liner.color],
  ])('take their colour however it is written: %s (CSS Color Module Level 4)', (written, color) => {
    const [one] = linesIn(svg(`<path stroke="${written}" d="M0 0L90 10"/>`), liner);
    expect(one.nib.color).toBe(color);
  });

  it('shapes without a line become their contour, drawn with the nib in hand', () => {
    const [ring, box] = linesIn(
      svg('<circle cx="100" cy="100" r="50"/><rect x="1" y="2" width="30" height="40"/>'),
      liner,
    );
    expect(ring.nib.size).toBe(liner.size);
    expect(spineLength(ring.spine)).toBeCloseTo(2 * Math.PI * 50, 0);
    const { minX, maxX } = spineBox(ring.spine);
    expect(maxX - minX).toBeCloseTo(100 + liner.size, 0);
    expect(spineLength(box.spine)).toBeCloseTo(140, 6);
  });

  it('what is only kept for use elsewhere is not drawn', () => {
    expect(() => svgToDrawn(svg('<defs><path d="M0 0L9 9"/></defs><text>Hi</text>'), liner)).toThrow(/no lines/);
  });

  it.each([
    ['a script', svg('<script>alert(1)</script>'), /<script>/],
    ['a link to elsewhere', svg('<image href="https://example.org/x.png"/>'), /outside itself/],
    ['half a file', '<svg><path d="M0 0"', /damaged/],
    ['something else', '<html></html>', /not an SVG/],
    ['nesting without end', svg(`${'<g>'.repeat(90)}<path d="M0 0L9 9"/>${'</g>'.repeat(90)}`), /nested too deeply/],
    ['more shapes than a page holds', svg('<path d="M0 0L9 9"/>'.repeat(20_001)), /more than 20000 shapes/],
    ['a damaged line', svg('<path d="M0 0L10 10Lfoo 3"/>'), /is damaged/],
    ['a line without end', svg('<path d="M0 0L1e999 3"/>'), /no numbers/],
    ['damaged strokes of ours', svg('<g data-drawn="%7Bx"/>'), /damaged/],
    [
      'strokes of ours a million px away',
      svg(
        `<g data-drawn="${encodeURIComponent(JSON.stringify({ ...line, spine: { points: [1e9, ...new Array(11).fill(0)], closed: false } }))}"/>`,
      ),
      /1000000/,
    ],
  ])('%s is refused in a sentence', (_what, text, reason) => {
    expect(() => svgToDrawn(text, liner)).toThrow(reason);
    expect(() => svgToDrawn(text, liner)).toThrow(PageError);
  });
});
