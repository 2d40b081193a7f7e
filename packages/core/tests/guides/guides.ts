import { flattenSpine, pointAt, segmentCount, type Spine } from '../../src/curve';
import type { Courses } from '../../src/tethers';
import type { Point } from '../../src/math';
import { applyChange, draftChange, newPage, type Entity, type Page, type PageSize } from '../../src/page';
import type { GuideEntity, GuideShape } from '../../src/guides';

export const at = (x: number, y: number): Point => ({ x, y });

/** A page that holds some entities. */
export const pageOf = (size: PageSize, ...entities: Entity[]): Page =>
  applyChange(
    newPage(size),
    draftChange(
      'all',
      entities.map((after) => ({ before: null, after })),
    ),
  );

let count = 0;
export const guide = (shape: GuideShape, more: Partial<GuideEntity> = {}): GuideEntity => ({
  ...{ kind: 'guide', id: `guide-${++count}`, order: 'a0', name: shape.kind, seen: true, acting: true, locked: false },
  ...{ tethers: true, reach: 'all', hue: 0, shape, ...more },
});

/** Many places of a spine, nodes and what lies between. */
export const places = (spine: Spine, each = 32): Point[] =>
  Array.from({ length: segmentCount(spine) }, (_, segment) =>
    Array.from({ length: each + 1 }, (_, k) => pointAt(spine, { segment, t: k / each })),
  ).flat();

export const polyline = (spine: Spine, tolerance = 0.01): Point[] => {
  const flat = flattenSpine(spine, tolerance);
  return Array.from({ length: flat.length / 3 }, (_, k) => ({ x: flat[3 * k], y: flat[3 * k + 1] }));
};

export const bow: Spine = {
  closed: false,
  points: Float64Array.of(100, 300, 1, 200, 100, 1, 400, 100, 1, 500, 300, 1),
};

/** The lines of courses that are seen, node by node. */
export function waysIn({ counts, places: all }: Courses): Point[][] {
  let from = 0;
  return [...counts].flatMap((count) => {
    const way = Array.from({ length: count }, (_, k) => at(all[from + 2 * k], all[from + 2 * k + 1]));
    from += 2 * count;
    return count > 0 ? [way] : [];
  });
}
