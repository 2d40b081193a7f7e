import fc from 'fast-check';
import paper from 'paper';
import { flatRing, nested, type Area } from '../../src/area';
import { evenlyWide, nodeCount, widestOf } from '../../src/curve';
import { isAreaThing } from '../../src/drawn';
import { boxOfFlat, ringArea, withoutRings, windingOf, type Point } from '../../src/math';
import {
  bridgeOver,
  colourRegions,
  faceArea,
  inkAsArea,
  inkMap,
  inkOfEach,
  isInPiece,
  planarMap,
  type PlanarMap,
  ringsRound,
  sidesOf,
  withoutPieces,
} from '../../src/regions';
import { chordArcSpine, ellipseSpine, lineSpine, polylineSpine } from '../../src/shapes';
import type { Stroke } from '../../src/stroke';
import { drawStroke } from '../../src/ink';
import { brush, drawn, raw, wave } from '../hands';
import { circle } from '../mend/lines';
import { stroke } from '../page/entities';

const line = (from: Point, to: Point, width: number): Stroke => ({
  ...stroke('one'),
  spine: evenlyWide(lineSpine(from, to), width),
  ends: ['round', 'round'],
});
const disc = (x: number, y: number, r: number): Area => ({
  rings: nested([ellipseSpine({ centre: { x, y }, rx: r, ry: r })]),
  fill: { as: 'colour', color: '#14161a' },
});
const inkOf = (things: readonly (Stroke | Area)[]): number => totalOf(withoutRings(inkOfEach(things).flat(), []));
const totalOf = (rings: readonly Float64Array[]): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0);

/** How long the edge of some rings is. */
const edgeOf = (rings: readonly Float64Array[]): number =>
  rings.reduce((sum, ring) => {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      sum += Math.hypot(ring[i] - ring[j], ring[i + 1] - ring[j + 1]);
    return sum;
  }, 0);

/** Euler's formula for plane graphs, and each edge having one face on either side. */
function isWhole({ vertices, edges, faces, components }: PlanarMap): void {
  expect(vertices - edges + faces.length).toBe(1 + components);
  const areas = faces.flatMap(({ rings }) => rings.map(ringArea));
  expect(Math.abs(areas.reduce((sum, area) => sum + area, 0))).toBeLessThan(1e-6);
}

/** A place within a face, not on its edge: beside the middle of an edge, to its left. */
function placeIn(ring: Float64Array, away = 1 / 64): Point | undefined {
  for (let i = 0; i < ring.length; i += 2) {
    const j = (i + 2) % ring.length;
    const [dx, dy] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]];
    const length = Math.hypot(dx, dy);
    if (length < 1) continue;
    const at = {
      x: (ring[i] + ring[j]) / 2 - (dy / length) * away,
      y: (ring[i + 1] + ring[j + 1]) / 2 + (dx / length) * away,
    };
    if (windingOf(ring, at) > 0) return at;
  }
  return undefined;
}

describe('a planar map', () => {
  const coordinate = fc.integer({ min: 0, max: 12 }).map((n) => 5 * n);
  const exact = fc.double({ min: 0, max: 60, noNaN: true });
  const ringOf = (at: fc.Arbitrary<number>) =>
    fc.array(fc.tuple(at, at), { minLength: 3, maxLength: 9 }).map((points) => Float64Array.from(points.flat()));
  const sources = fc.array(fc.array(fc.oneof(ringOf(coordinate), ringOf(exact)), { minLength: 1, maxLength: 2 }), {
    minLength: 1,
    maxLength: 6,
  });

  it('keeps Euler’s formula, and its faces leave nothing out, however lines cross, touch and lie on one another', () => {
    fc.assert(
      fc.property(sources, (shapes) => {
        const map = planarMap(shapes);
        isWhole(map);
        // Twice over is the same: what is split is clean.
        const again = planarMap(map.faces.slice(1).map(({ rings }) => rings));
        expect(again.faces).toHaveLength(map.faces.length);
        expect([again.vertices, again.edges]).toEqual([map.vertices, map.edges]);
      }),
      { numRuns: 200 },
    );
  });

  it('says of each face which sources fill it: the winding number of each there (Sunday 2001)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(ringOf(coordinate), { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 5 }),
        (shapes) => {
          for (const { rings, of } of planarMap(shapes).faces.slice(1)) {
            const at = placeIn(rings[0]);
            if (!at || rings.slice(1).some((hole) => windingOf(hole, at) !== 0)) continue;
            const there = shapes.flatMap((own, k) =>
              own.reduce((sum, ring) => sum + windingOf(ring, at), 0) !== 0 ? [k] : [],
            );
            expect(of).toEqual(there);
          }
        },
      ),
      { numRuns: 100 },
    );
  });

  it('puts what hangs on nothing into the face that it lies in', () => {
    const square = (x: number, y: number, side: number) =>
      Float64Array.from([x, y, x + side, y, x + side, y + side, x, y + side]);
    const map = planarMap([[square(0, 0, 100)], [square(10, 10, 30)], [square(15, 15, 5)], [square(60, 10, 30)]]);
    isWhole(map);
    expect(map.components).toBe(4);
    const areas = map.faces.map(({ rings, of }) => `${of.join('')}: ${rings.length} ${faceArea({ rings })}`).sort();
    expect(areas).toEqual(['012: 1 25', '01: 2 875', '03: 1 900', '0: 3 8200', ': 1 -10000']);
  });
});

describe('an ink map', () => {
  const cross = [line({ x: 10, y: 50 }, { x: 90, y: 50 }, 8), line({ x: 50, y: 10 }, { x: 50, y: 90 }, 8)];

  it('two lines that cross make five pieces, of which one is of both', () => {
    const pieces = inkMap(cross);
    expect(pieces.map(({ of }) => of.join('+')).sort()).toEqual(['0', '0', '0+1', '1', '1']);
    expect(pieces.find(({ of }) => of.length === 2)?.area).toBeCloseTo(64, 1);
  });

  it('its pieces are the parts of the plane that paper.js finds, px² for px²', () => {
    paper.setup(new paper.Size(100, 100));
    const things = [disc(40, 40, 25), disc(60, 45, 22), disc(50, 62, 18), line({ x: 5, y: 5 }, { x: 95, y: 95 }, 6)];
    const paths = inkOfEach(things).map((rings) => {
      const path = new paper.CompoundPath({ fillRule: 'nonzero' });
      for (const ring of rings)
        path.addChild(
          new paper.Path({
            closed: true,
            segments: Array.from({ length: ring.length / 2 }, (_, k) => [ring[2 * k], ring[2 * k + 1]]),
          }),
        );
      return path as paper.PathItem;
    });
    const pieces = inkMap(things);
    for (let mask = 1; mask < 1 << things.length; mask++) {
      const [within, without] = [1, 0].map((bit) => paths.filter((_, k) => ((mask >> k) & 1) === bit));
      const common = within.slice(1).reduce((left, path) => left.intersect(path), within[0]);
      const left = without.reduce((kept, path) => kept.subtract(path), common) as paper.Path;
      const own = pieces.filter(({ of }) => of.reduce((sum, k) => sum | (1 << k), 0) === mask);
      expect(Math.abs(own.reduce((sum, { area }) => sum + area, 0) - Math.abs(left.area))).toBeLessThan(1);
    }
  });

  it('covers all the ink in its loop and nothing else, and what a nick takes is no piece', () => {
    const nick: Area = { ...disc(50, 50, 12), fill: { as: 'nothing' } };
    const things = [...cross, nick];
    const loop = [
      { x: 20, y: 20 },
      { x: 95, y: 20 },
      { x: 95, y: 95 },
      { x: 20, y: 95 },
    ];
    const pieces = inkMap(things, loop);
    expect(pieces).toHaveLength(4);
    expect(pieces.some((piece) => isInPiece(piece, { x: 50, y: 50 }))).toBe(false);
    const ring = Float64Array.from(loop.flatMap(({ x, y }) => [x, y]));
    const meant =
      totalOf(withoutRings(inkOfEach(things).flat(), [])) - totalOf(withoutRings(inkOfEach(things).flat(), [ring]));
    expect(Math.abs(pieces.reduce((sum, { area }) => sum + area, 0) - meant)).toBeLessThan(
      1 + 0.03 * edgeOf(pieces.flatMap(({ rings }) => rings)),
    );
  });

  it('is empty where there is no ink, and for a loop that goes round nothing', () => {
    expect(inkMap([])).toEqual([]);
    expect(inkMap(cross, [{ x: 1, y: 1 }])).toEqual([]);
    expect(
      inkMap(cross, [
        { x: 1, y: 1 },
        { x: 2, y: 1 },
        { x: 2, y: 2 },
      ]),
    ).toEqual([]);
  });
});

describe('pieces that are taken off', () => {
  const [across, down] = [line({ x: 10, y: 50 }, { x: 70, y: 46 }, 8), line({ x: 60, y: 10 }, { x: 58, y: 90 }, 7)];
  const overhang = () =>
    inkMap([across, down])
      .filter(({ of }) => of.join() === '0')
      .sort((a, b) => a.area - b.area)[0];

  it('an end that hangs over goes, the line stays a line and ends flush on the other', () => {
    const { rings, area } = overhang();
    const left = withoutPieces(across, rings);
    expect(left).toHaveLength(1);
    expect(left?.every(isAreaThing)).toBe(false);
    const less = inkOf([across, down]) - inkOf([...(left ?? []), down]);
    expect(Math.abs(less - area)).toBeLessThan(0.05 * edgeOf(rings));
    // It lies beside the other, not in it, and no hair of it is left.
    expect(withoutPieces(down, rings)).toBeUndefined();
    expect(
      inkMap([...(left ?? []), down])
        .map(({ of }) => of.join('+'))
        .sort(),
    ).toEqual(['0', '0+1', '1', '1']);
    expect(inkMap(left ?? [])).toHaveLength(1);
  });

  it('the middle of a line goes and leaves two lines; a bite out of its side makes it an area', () => {
    const middle = inkMap([across, down]).find(({ of }) => of.length === 2);
    expect(withoutPieces(across, middle?.rings ?? [])?.map(isAreaThing)).toEqual([false, false]);
    const bite = inkMap([across, disc(35, 44, 5)]).find(({ of }) => of.length === 2);
    const left = withoutPieces(across, bite?.rings ?? []);
    expect(left?.map(isAreaThing)).toEqual([true]);
    expect(inkOf([across]) - inkOf(left ?? [])).toBeCloseTo(bite?.area ?? 0, 0);
  });

  it('all pieces of a thing take it away', () => {
    const pieces = inkMap([across, down]).filter(({ of }) => of.includes(0));
    expect(
      withoutPieces(
        across,
        pieces.flatMap(({ rings }) => rings),
      ),
    ).toEqual([]);
  });

  it('leaves of any lines what a polygon library leaves, to a px², and 0.03 px along the edge of what becomes an area (clipper-lib)', () => {
    const at = fc.integer({ min: 5, max: 95 });
    const any = fc.tuple(at, at, at, at, fc.integer({ min: 1, max: 9 }));
    fc.assert(
      fc.property(fc.array(any, { minLength: 2, maxLength: 5 }), fc.nat(), (all, pick) => {
        const lines = all.map(([x, y, u, v, width]) => line({ x, y }, { x: u, y: v }, width));
        const pieces = inkMap(lines);
        const piece = pieces[pick % pieces.length];
        for (const one of lines) {
          const own = withoutRings(inkOfEach([one])[0], []);
          const meant = withoutRings(own, piece.rings);
          const left = withoutPieces(one, piece.rings) ?? [one];
          const real = withoutRings(inkOfEach(left).flat(), []);
          const most = left.some(isAreaThing) ? 1 + 0.03 * edgeOf(meant) : 1 + 0.02 * (totalOf(own) - totalOf(meant));
          expect(totalOf(withoutRings(real, meant)) + totalOf(withoutRings(meant, real))).toBeLessThan(most);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('a zigzag that crosses itself', () => {
  it('is one source: its own crossings make no pieces', () => {
    const zigzag: Stroke = {
      ...line({ x: 0, y: 0 }, { x: 1, y: 1 }, 5),
      spine: evenlyWide(
        polylineSpine(
          [
            { x: 10, y: 10 },
            { x: 90, y: 90 },
            { x: 90, y: 10 },
            { x: 10, y: 90 },
          ],
          false,
        ),
        5,
      ),
    };
    expect(inkMap([zigzag])).toHaveLength(1);
  });
});

describe('what lines go round', () => {
  it('is their inside and their ink as one: an open bow is closed by a straight line', () => {
    const [left, right] = [10, 90].map((x) => ({ x, y: 50 }));
    const bow: Stroke = { ...line(left, right, 6), spine: evenlyWide(chordArcSpine(left, right, 1), 6) };
    const rings = ringsRound([bow, disc(50, 80, 5)]);
    // Half a disc of 40, and half of the line's width beyond it; its ends reach a round tip below the chord.
    const meant = (Math.PI * 43 ** 2) / 2 + Math.PI * 3 ** 2 + Math.PI * 5 ** 2;
    expect(Math.abs(totalOf(rings.map((ring) => flatRing(ring))))).toBeCloseTo(meant, -1.3);
    expect(rings).toHaveLength(2);
  });
});

describe('a bridge over a gap', () => {
  const gap = [
    { x: 100, y: 50 },
    { x: 110, y: 50 },
  ] as const;
  const beside = (width: number) => ({ line: line({ x: 0, y: 50 }, { x: 100, y: 50 }, width), width });

  it('is as wide as the narrower of its lines, in the first one’s nib, and reaches into both', () => {
    const first = beside(8);
    const bridge = bridgeOver(gap, [first, beside(5)]);
    expect(bridge?.nib.name).toBe(first.line.nib.name);
    const { minX, maxX } = boxOfFlat(bridge?.spine.points ?? [], 3);
    expect([minX, maxX]).toEqual([100 - 5 * 0.35, 110 + 5 * 0.35]);
    expect(bridge && widestOf(bridge.spine)).toBe(5);
  });

  it('is none where there is no line, and a dot where the gap has no length', () => {
    expect(bridgeOver(gap, [])).toBeUndefined();
    expect(bridgeOver([gap[0], gap[0]], [beside(4)])?.spine.points.every(Number.isFinite)).toBe(true);
  });
});

describe('pieces that lie beside one another', () => {
  it('of a cross are the middle and each of its four arms, along the width of the arm', () => {
    const pieces = inkMap([line({ x: 10, y: 50 }, { x: 90, y: 50 }, 8), line({ x: 50, y: 10 }, { x: 50, y: 90 }, 8)]);
    const sides = sidesOf(pieces);
    const middle = pieces.findIndex(({ of }) => of.length === 2);
    for (const k of pieces.keys()) {
      const beside = [...(sides.get(k) ?? [])].map(([other, along]) => [other, Math.round(along)]);
      const arms = [...pieces.keys()].filter((one) => one !== middle);
      expect(beside.sort()).toEqual((k === middle ? arms : [middle]).map((one) => [one, 8]).sort());
    }
    const colours = colourRegions(sides);
    for (const [k, beside] of sides)
      for (const other of beside.keys()) expect(colours.get(k)).not.toBe(colours.get(other));
  });
});

describe('a line as an area', () => {
  it('has the same ink, its hole too, in few points, with the colour and how much of it shows', () => {
    const wavy = drawStroke(
      drawn(wave, { count: 80, pressure: (t) => 0.2 + t / 2 }),
      { ...brush, color: '#7a3b2e', opacity: 0.5 },
      raw,
    );
    for (const one of [wavy, circle(200, 200, 60, 14)]) {
      const area = inkAsArea(one);
      const [own, made] = [inkOfEach([one])[0], inkOfEach([area])[0]];
      expect(totalOf(withoutRings(own, made)) + totalOf(withoutRings(made, own))).toBeLessThan(0.03 * edgeOf(made));
      const points = area.rings.reduce((sum, ring) => sum + nodeCount(ring), 0);
      expect(points).toBeLessThan(own.reduce((sum, ring) => sum + ring.length / 2, 0) / 4);
    }
    expect(inkAsArea(wavy).fill).toEqual({ as: 'colour', color: '#7a3b2e', opacity: 0.5 });
    expect(inkAsArea(circle(200, 200, 60, 14)).rings).toHaveLength(2);
  });
});
