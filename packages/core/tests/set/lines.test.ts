import { ball, polygonOf } from './closedForms';
import { block, cameraAt, ends, OVER, PAGE, pulled } from './scenes';
import { segmentCount } from '../../src/curve';

const cube = block('cube', { kind: 'box', size: [2, 2, 2] });

describe('hidden lines of flat blocks', () => {
  // Appel, "The notion of quantitative invisibility and the machine rendering of solids" (1967).
  it('shows nine of the twelve edges of a cube in general position', () => {
    expect(pulled([cube])).toHaveLength(9);
    expect(pulled([cube], cameraAt([0, -10, 1], 0, 0))).toHaveLength(4);
  });

  it('shows the edges of an L-shaped solid that are seen, and no more', () => {
    // Six corners above and six below make 18 edges. Of its six upright sides two face who looks at its outer corner: their
    // three uprights and their two feet are seen, with all six edges of the top.
    const shape = {
      kind: 'extruded',
      rings: [[0, 0, 2, 0, 2, 1, 1, 1, 1, 2, 0, 2]],
      smooth: false,
      height: 1,
    } as const;
    expect(pulled([block('l', shape)], cameraAt([-5, -13, 8], 20, -28))).toHaveLength(6 + 3 + 2);
    // Into its notch four sides are seen: five uprights and four feet.
    expect(pulled([block('l', shape, [0, 0, 0], Math.PI)], cameraAt([-7, -13, 12], 20, -40))).toHaveLength(6 + 5 + 4);
  });

  it('tells contours from creases', () => {
    const sorts = pulled([cube]).map(({ sort }) => sort);
    expect(sorts.filter((sort) => sort === 'contour')).toHaveLength(6);
    expect(sorts.filter((sort) => sort === 'crease')).toHaveLength(3);
  });

  it('has no double lines where two blocks are one', () => {
    expect(pulled([cube, { ...cube, id: 'twin' }])).toHaveLength(9);
  });

  it('has no seam where two blocks stand flush: they look like one', () => {
    const half = { kind: 'box', size: [2, 2, 2] } as const;
    const two = pulled([block('a', half, [-1, 0, 0]), block('b', half, [1, 0, 0])]);
    const one = pulled([block('one', { kind: 'box', size: [4, 2, 2] })]);
    const length = (lines: typeof two) => lines.reduce((sum, line) => sum + long(ends(line)), 0);
    expect(length(two)).toBeCloseTo(length(one), 3);
  });

  it('draws where two blocks go through each other', () => {
    const post = block('post', { kind: 'box', size: [0.5, 0.5, 5] });
    const contacts = pulled([cube, post]).filter(({ sort }) => sort === 'contact');
    // On the top of the cube the two sides of the post that are seen.
    expect(contacts).toHaveLength(2);
  });

  it('draws no contact on the far side of a ball', () => {
    // Sunk into a corner: on the side wall the ball meets it behind itself.
    const sunk = block('ball', { kind: 'sphere', radius: 0.6 }, [-1, -1, 0.4]);
    const seen = pulled([cube, sunk], cameraAt([0.8, -12, 2], -4, -3)).filter(({ sort }) => sort === 'contact');
    expect(seen).toHaveLength(1);
  });

  it('shows a room from within', () => {
    const room = block('room', { kind: 'box', size: [8, 12, 3] });
    const lines = pulled([room], cameraAt([0, -4, 1.6], 10, 0));
    expect(lines.length).toBeGreaterThanOrEqual(5);
    expect(lines.every(({ sort }) => sort === 'crease')).toBe(true);
  });

  it('leaves a gap before the nearer contour that a line passes behind, and goes over corners', () => {
    const front = block('front', { kind: 'box', size: [1, 1, 4] }, [-1.5, -3, 0]);
    const behind = (halo: number, over = 0) =>
      pulled([cube, front], OVER, { halo, over }).filter((line) => line.block === 'cube');
    const sum = (lines: ReturnType<typeof pulled>) => lines.reduce((all, line) => all + long(ends(line)), 0);
    const gaps = Math.round((sum(behind(0)) - sum(behind(10))) / 10);
    expect(gaps).toBe(3);
    expect(sum(pulled([cube], OVER, { over: 5 })) - sum(pulled([cube]))).toBeCloseTo(9 * 2 * 5, 3);
  });

  it('draws hidden lines as dashes where they are wanted', () => {
    const nib = { name: 'Hidden', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
    const lines = pulled([cube], OVER, { nibs: { contour: nib, crease: nib, hidden: nib }, dash: 10 });
    const hidden = lines.filter(({ sort }) => sort === 'hidden');
    expect(new Set(hidden.map(({ key }) => key.split('#')[0])).size).toBe(3);
    expect(hidden.length).toBeGreaterThan(9);
  });

  it('gives a contour alone, or no lines, of blocks that want that, and still hides what lies behind', () => {
    const wall = block('wall', { kind: 'box', size: [3, 1, 3] }, [0, -3, 0]);
    expect(pulled([{ ...cube, lines: 'contour' }])).toHaveLength(6);
    expect(pulled([{ ...wall, lines: 'none' }])).toHaveLength(0);
    const length = (lines: ReturnType<typeof pulled>) => lines.reduce((sum, line) => sum + long(ends(line)), 0);
    expect(length(pulled([cube, { ...wall, lines: 'none' }]))).toBeLessThan(length(pulled([cube])) - 100);
  });

  it('grows thinner with distance where that is asked', () => {
    const row = [0, 10, 20].map((y) => block(`b${y}`, { kind: 'box', size: [1, 1, 2] }, [0, y, 0]));
    const widest = (id: string) =>
      Math.max(
        ...pulled(row, OVER, { fall: 1 })
          .filter((line) => line.block === id)
          .map(({ stroke }) => stroke.spine.points[2]),
      );
    expect(widest('b10')).toBeLessThan(0.75 * widest('b0'));
    expect(widest('b20')).toBeLessThan(0.8 * widest('b10'));
  });

  it('is not upset by blocks before, behind and around the eye, or by a view along a face', () => {
    const many = [cube, block('behind', { kind: 'box', size: [3, 3, 3] }, [-5, -16, 0])];
    expect(pulled(many)).toHaveLength(9);
    const along = cameraAt([-6, -1, 2], 90, 0);
    for (const { stroke } of pulled([cube, block('b', { kind: 'sphere', radius: 1 }, [2, -1, 2])], along))
      expect(stroke.spine.points.every(Number.isFinite)).toBe(true);
  });
});

const long = ([ax, ay, bx, by]: readonly number[]): number => Math.hypot(bx - ax, by - ay);

describe('contours of round blocks', () => {
  it('gives the contour of a ball as the ellipse of its tangent cone, in at most six cubics', () => {
    const [line] = pulled([block('ball', { kind: 'sphere', radius: 3 }, [0, 0, 0])]);
    expect(segmentCount(line.stroke.spine)).toBeLessThanOrEqual(6);
    // Of a ball: p is on the contour where (c·p)² = (c² − r²)·p², with p the direction of its picture (closed form).
    const worst = ball({ centre: [0, 0, 3], radius: 3 }, OVER).worstOff(polygonOf(line.stroke.spine));
    expect(worst).toBeLessThan(0.1);
  });

  it('gives a cylinder two lines and its rims: the upper whole, of the lower what is seen', () => {
    const lines = pulled([block('c', { kind: 'cylinder', radius: 1, height: 3 })]);
    const straight = lines.filter(({ stroke }) => isStraight(polygonOf(stroke.spine)));
    expect(straight).toHaveLength(2);
    expect(lines).toHaveLength(5);
    // The rims meet the two lines: ends that are shared.
    for (const line of straight) {
      const [x, y] = ends(line);
      const others = lines.filter((other) => other !== line).flatMap((other) => pairs(ends(other)));
      expect(Math.min(...others.map(([u, v]) => Math.hypot(u - x, v - y)))).toBeLessThan(0.01);
    }
  });

  it('joins the chords of a drawn-out curve to few curves', () => {
    const ring = Array.from({ length: 60 }, (_, k) => [Math.cos(k * 0.1047), Math.sin(k * 0.1047)]).flat();
    const lines = pulled([block('r', { kind: 'extruded', rings: [ring], smooth: true, height: 2 })]);
    expect(lines.length).toBeLessThanOrEqual(7);
    expect(lines.reduce((sum, { stroke }) => sum + segmentCount(stroke.spine), 0)).toBeLessThan(40);
  });
});

const pairs = ([a, b, c, d]: readonly number[]) => [
  [a, b],
  [c, d],
];

const isStraight = (places: readonly (readonly [number, number])[]): boolean => {
  const [[ax, ay]] = places;
  const [bx, by] = places[places.length - 1];
  const size = Math.hypot(bx - ax, by - ay);
  return places.every(([x, y]) => Math.abs((x - ax) * (by - ay) - (y - ay) * (bx - ax)) < 1e-6 * size);
};

it('keeps to its part of the page', () => {
  for (const line of pulled([block('floor', { kind: 'plane', size: [400, 400] })]))
    for (const [x, y] of pairs(ends(line))) {
      expect(x).toBeGreaterThan(PAGE.minX - 50);
      expect(x).toBeLessThan(PAGE.maxX + 50);
      expect(y).toBeGreaterThan(PAGE.minY - 50);
      expect(y).toBeLessThan(PAGE.maxY + 50);
    }
});
