import { DRAWN, type Drawn, type DrawnEntity, type Mark, type MarkShape } from '../../src/drawn';
import { checkProjective, colour, fingerprint, id, optional, PageError, text } from '../../src/gate';
import { checkLaid, type EntityId, type Kind, type LaidBase } from '../../src/kind';
import {
  afterwards,
  applyProjective,
  boxOfPoints,
  depthAt,
  isInRing,
  legsApart,
  type Box,
  type Matrix3x3,
  type Point,
} from '../../src/math';
import { KINDS, type Entity } from '../../src/page';

/**
 * A kind that exists in tests alone: a ring, wavy bars that only show inside it, a hole punched through all that lies
 * beneath, and a notch that goes no farther than its edge. It cancels a line, which it remembers, and has bytes of its own.
 */
export interface Postmark extends LaidBase {
  readonly kind: 'postmark';
  readonly town: string;
  readonly color: string;
  /** From its own px, in which its outer edge has the radius 100 about (0, 0), to the page. */
  readonly map: Matrix3x3;
  readonly cancels?: EntityId;
  readonly blob: string;
}

/** What a postmark is: the row in the table of kinds. */
const postmarkKind: Kind<Postmark> = {
  isMany: false,
  check: (fields) => ({
    kind: 'postmark',
    ...checkLaid(fields),
    town: text(fields.town, 'town'),
    color: colour(fields.color, 'color'),
    map: checkProjective(fields.map),
    blob: fingerprint(fields.blob),
    ...optional(fields, 'cancels', id),
  }),
  refs: ({ layerId, cancels, blob }) => ({
    needs: [layerId],
    knows: cancels === undefined ? [] : [cancels],
    blobs: [{ sha256: blob, as: 'picture' as const }],
  }),
  remap: (mark, copyId, renamed) => ({
    ...mark,
    id: copyId,
    layerId: renamed(mark.layerId),
    ...(mark.cancels !== undefined && { cancels: renamed(mark.cancels) }),
  }),
};

const POINTS = 96;
const circle = (radius: number, x = 0, y = 0): Point[] =>
  Array.from({ length: POINTS }, (_, k) => {
    const angle = (2 * Math.PI * k) / POINTS;
    return { x: x + radius * Math.cos(angle), y: y + radius * Math.sin(angle) };
  });
const bar = (y: number): Point[] => [
  { x: -140, y: y - 8 },
  { x: 140, y: y - 8 },
  { x: 140, y: y + 8 },
  { x: -140, y: y + 8 },
];

const ringOn = (map: Matrix3x3, own: readonly Point[]): Float64Array =>
  Float64Array.from(
    own.flatMap((p) => {
      const { x, y } = applyProjective(map, p.x, p.y);
      return [x, y];
    }),
  );

const shape = (map: Matrix3x3, name: string, rule: MarkShape['rule'], ...rings: readonly Point[][]): MarkShape => ({
  of: [map, name],
  rule,
  rings: () => rings.map((ring) => ringOn(map, ring)),
});

const outer = ({ map }: Postmark): Float64Array => ringOn(map, circle(100));

const marks = ({ map, color }: Postmark): readonly Mark[] => [
  { ...shape(map, 'ring', 'evenodd', circle(100), circle(80)), color, opacity: 1 },
  {
    ...shape(map, 'bars', 'nonzero', bar(-30), bar(0), bar(30)),
    clip: shape(map, 'inside', 'nonzero', circle(80)),
    color,
    opacity: 0.5,
  },
  { ...shape(map, 'hole', 'nonzero', circle(25, 60, 60)), color, opacity: 1, cuts: true },
  {
    ...shape(map, 'notch', 'nonzero', bar(75)),
    clip: shape(map, 'whole', 'nonzero', circle(100)),
    ...{ color, opacity: 1, cuts: true },
  },
];

const pointsOf = (ring: Float64Array): Point[] =>
  Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[2 * k], y: ring[2 * k + 1] }));

const boxOf = (mark: Postmark): Box => boxOfPoints(pointsOf(outer(mark)));

/** How it is drawn and handled: the row in the table of what is drawn. */
const drawnPostmark: Drawn<Postmark> = {
  marks,
  box: boxOf,
  hold: boxOf,
  ways: (mark) => [{ points: outer(mark), stride: 2 }],
  gap(mark, from, to) {
    const ring = outer(mark);
    if (isInRing(ring, from) || isInRing(ring, to)) return 0;
    let least = Infinity;
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      least = Math.min(least, legsApart(ring[j], ring[j + 1], ring[i], ring[i + 1], from.x, from.y, to.x, to.y));
    return Math.sqrt(least);
  },
  map(mark, map) {
    const corners = pointsOf(outer(mark));
    if (corners.some(({ x, y }) => depthAt(map, x, y) <= 0)) throw new PageError('Some would run over the horizon.');
    return { ...mark, map: afterwards(mark.map, map) };
  },
  colour: ({ color }) => color,
  coloured: (mark, color) => ({ ...mark, color }),
  bare: ({ cancels: _gone, ...mark }) => mark,
};

/** Gives both tables their row. Answers how to take them out again. */
export function issuePostmarks(): () => void {
  Object.assign(KINDS, { postmark: postmarkKind });
  Object.assign(DRAWN, { postmark: drawnPostmark });
  return () => {
    Reflect.deleteProperty(KINDS, 'postmark');
    Reflect.deleteProperty(DRAWN, 'postmark');
  };
}

/** A postmark, which only the tables know: to the types it is as good as any entity. */
export function postmark(more: Partial<Omit<Postmark, 'kind'>> = {}): DrawnEntity {
  const mark: Postmark = {
    kind: 'postmark',
    id: 'mark',
    layerId: 'inks',
    order: 'a5',
    town: 'Saltmarsh',
    color: '#b8402a',
    map: [1, 0, 200, 0, 1, 200, 0, 0, 1],
    blob: 'cd'.repeat(32),
    ...more,
  };
  return mark as unknown as DrawnEntity;
}

/** What is known of a postmark by a test. */
export const asPostmark = (entity: Entity | undefined | null): Postmark => {
  const mark: unknown = entity;
  if (typeof mark !== 'object' || mark === null || !('town' in mark)) throw new Error('This is no postmark.');
  return mark as Postmark;
};
