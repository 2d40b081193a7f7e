import { nodeCount } from '../curve';
import type { Point } from '../math';
import { replacedBy, type Edit } from '../page';
import type { EntityId } from '../kind';
import type { StrokeEntity } from '../stroke';
import { bridgeEdits, bridgesAmong, endPoint, type BridgeOptions, type LineEnd } from './bridge';
import { ease, specksOf } from './ease';
import { editedCourse } from './edited';
import { Cover, cutUnder } from './mergeClean';
import { poolEdits, type PoolSettings } from './pool';
import { asDrawn, type ShownAs } from './shownLine';
import { tidying } from './tidy';

/** What is done to many lines at once. Lengths in page px, angles in radians. */
export type MendDeed =
  | { readonly deed: 'tidy'; readonly overshoot: number; readonly gap: number; readonly exceptions: readonly string[] }
  /** `specks`: lines shorter than this are dropped, 0 for none. */
  | {
      readonly deed: 'ease';
      readonly tolerance: number;
      readonly specks: number;
      readonly exceptions: readonly string[];
    }
  | (BridgeOptions & { readonly deed: 'bridge'; readonly exceptions: readonly string[] })
  | (PoolSettings & { readonly deed: 'pool' })
  /** Lines are cut where lines of the layer in front hide them. */
  | { readonly deed: 'clean'; readonly frontId: EntityId };

/** A place on the page at which something is done, or not: it can be made an exception by its key. */
export interface MendMark extends Point {
  readonly key: string;
  readonly isException: boolean;
}

/** What a deed would do: its edits, and what there is to see and count before it is done. */
export interface MendPlan {
  readonly edits: readonly Edit[];
  readonly marks: readonly MendMark[];
  /** Points of the lines that are changed, before and after. */
  readonly nodes: readonly [before: number, after: number];
}

/** Lines that are worked on between two breaths. */
const PART = 24;

/**
 * Works out a deed over lines: only those that `mayBeChanged` are changed, the others are met. In parts: it yields the share
 * that is done, so that whoever asked can stop it. New pieces get their ids from `newId`. `shownAs` says what lines are shown
 * as: it is the ink that is seen which meets, overshoots, hides and is bridged.
 */
export function* planning(
  strokes: readonly StrokeEntity[],
  mayBeChanged: (stroke: StrokeEntity) => boolean,
  deed: MendDeed,
  newId: () => EntityId,
  shownAs: ShownAs = asDrawn,
): Generator<number, MendPlan> {
  // A blot has no ends, no weight and no course of its own: it can only be eased.
  const mayChange = (stroke: StrokeEntity) => (deed.deed === 'ease' || !stroke.fills) && mayBeChanged(stroke);
  switch (deed.deed) {
    case 'tidy': {
      const exceptions = new Set(deed.exceptions);
      const { edits, report } = yield* tidying(strokes, { ...deed, exceptions, mayChange, shownAs });
      return planOf(edits, report);
    }
    case 'ease':
      return yield* easing(strokes.filter(mayChange), deed.tolerance, deed.specks, new Set(deed.exceptions));
    case 'bridge': {
      yield 0;
      const exceptions = new Set(deed.exceptions);
      const kept = new Map(strokes.map((stroke) => [stroke.id, stroke]));
      const asKept = ({ stroke, end }: LineEnd<StrokeEntity>) => ({ stroke: kept.get(stroke.id) ?? stroke, end });
      const among = bridgesAmong(strokes.filter(mayChange).map(shownAs), deed, strokes.map(shownAs));
      const found = among.map((one) => ({
        one: { ...one, a: asKept(one.a), b: asKept(one.b) },
        key: `${endKey(one.a)}|${endKey(one.b)}`,
      }));
      const marks = found.map(({ one: { a, b }, key }) => {
        const [p, q] = [endPoint(a), endPoint(b)];
        return { key, x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, isException: exceptions.has(key) };
      });
      return planOf(bridgeEdits(found.filter(({ key }) => !exceptions.has(key)).map(({ one }) => one)), marks);
    }
    case 'pool':
      yield 0;
      return planOf(poolEdits(strokes.filter(mayChange), deed, strokes, shownAs), []);
    case 'clean':
      return yield* cleaning(strokes, mayChange, deed.frontId, newId, shownAs);
  }
}

const endKey = ({ stroke, end }: LineEnd<StrokeEntity>): string => `${stroke.id}:${end}`;

function planOf(edits: readonly Edit[], marks: readonly MendMark[]): MendPlan {
  const nodesIn = (entity: Edit['before']) => (entity?.kind === 'stroke' ? nodeCount(entity.spine) : 0);
  const sum = (pick: 'before' | 'after') => edits.reduce((total, edit) => total + nodesIn(edit[pick]), 0);
  return { edits, marks, nodes: [sum('before'), sum('after')] };
}

function* easing(
  strokes: readonly StrokeEntity[],
  tolerance: number,
  specks: number,
  exceptions: ReadonlySet<string>,
): Generator<number, MendPlan> {
  const dropped = specks > 0 ? specksOf(strokes, specks) : [];
  const drop = new Set(dropped.filter(({ id }) => !exceptions.has(id)));
  const edits: Edit[] = [...drop].map((before) => ({ before, after: null }));
  for (const [k, stroke] of strokes.entries()) {
    if (k % PART === 0) yield k / strokes.length;
    if (drop.has(stroke)) continue;
    const spine = ease(stroke.spine, tolerance);
    if (spine !== stroke.spine) edits.push({ before: stroke, after: editedCourse(stroke, spine) });
  }
  const marks = dropped.map(({ id, spine: { points } }) => ({
    ...{ key: id, x: points[0], y: points[1] },
    isException: exceptions.has(id),
  }));
  return planOf(edits, marks);
}

function* cleaning(
  strokes: readonly StrokeEntity[],
  mayChange: (stroke: StrokeEntity) => boolean,
  frontId: EntityId,
  newId: () => EntityId,
  shownAs: ShownAs,
): Generator<number, MendPlan> {
  yield 0;
  const cover = new Cover(strokes.filter(({ layerId }) => layerId === frontId).map(shownAs));
  const back = strokes.filter((stroke) => stroke.layerId !== frontId && mayChange(stroke));
  const edits: Edit[] = [];
  for (const [k, stroke] of back.entries()) {
    if (k % PART === 0) yield k / back.length;
    const pieces = cutUnder(stroke, cover, shownAs(stroke));
    if (pieces) edits.push(...replacedBy(stroke, pieces, newId));
  }
  return planOf(edits, []);
}
