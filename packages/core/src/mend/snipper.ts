import { courseOf, placeNumber, spineBox, STRIDE, widestOf } from '../curve';
import { boxOfPoints, growBox, type Box, type Point } from '../math';
import { replacedBy, type Edit } from '../page';
import type { EntityId } from '../kind';
import type { StrokeEntity } from '../stroke';
import { legCrossing } from './meetings';
import { keptPlace, type ShownLine } from './shownLine';
import { courseOfPiece, pieceAt, piecesOf, withoutPieces, type Pieces } from './snip';
import { nearestLine } from './touch';

export interface SnipOptions {
  /** How far ink may miss ink and still stop a line, page px. */
  readonly gap: number;
  /** Lines that may be cut; the others only stop them. All where none is given. */
  readonly mayCut?: (stroke: StrokeEntity) => boolean;
}

/** A piece of a line that can be taken. */
export interface FoundPiece {
  readonly stroke: StrokeEntity;
  readonly piece: number;
}

/** Numbers of pieces that are taken of a line, and what is left of it, once that is known. */
interface Taken {
  readonly pieces: ReadonlySet<number>;
  readonly left?: readonly StrokeEntity[];
}

/**
 * Snipping over a page that stands still: finds the piece under a hand, gathers pieces, and makes the edits that take them.
 * `near` answers the lines whose ink may lie in a box, those that only stop others too.
 */
export class Snipper {
  private readonly known = new Map<EntityId, Pieces<StrokeEntity>>();
  private readonly taken = new Map<EntityId, Taken>();
  /** Pieces as they are shown, by the line and the piece. */
  private readonly looks = new Map<string, StrokeEntity>();

  constructor(
    private readonly near: (box: Box) => readonly ShownLine[],
    private readonly options: SnipOptions,
  ) {}

  /** The piece of the nearest line within `reach` page px; a line that meets nothing has none to take. */
  under(at: Point, reach: number): FoundPiece | 'meets nothing' | undefined {
    const { mayCut = () => true } = this.options;
    const lines = this.near(growBox(boxOfPoints([at]), reach)).filter(({ kept }) => isCut(kept) && mayCut(kept));
    const best = nearestLine(lines, ({ shown }) => shown, at, reach);
    if (!best) return undefined;
    const pieces = this.piecesOf(best.line);
    if (!hasPieces(pieces)) return 'meets nothing';
    return { stroke: best.line.kept, piece: pieceAt(pieces, keptPlace(best.line, placeNumber(best))) };
  }

  /** The pieces that the way from one point to another goes across. */
  across(from: Point, to: Point): FoundPiece[] {
    const { mayCut = () => true } = this.options;
    const leap = Float64Array.of(from.x, from.y, 0, to.x, to.y, 0);
    return this.near(boxOfPoints([from, to])).flatMap((line) => {
      if (!isCut(line.kept) || !mayCut(line.kept)) return [];
      const { line: course, places } = courseOf(line.shown.spine);
      const found: FoundPiece[] = [];
      for (let leg = 0; leg + 1 < places.length; leg++) {
        const cross = legCrossing(course, STRIDE * leg, leap, 0);
        if (!cross) continue;
        const pieces = this.piecesOf(line);
        if (!hasPieces(pieces)) break;
        const place = places[leg] + cross[0] * (places[leg + 1] - places[leg]);
        found.push({ stroke: line.kept, piece: pieceAt(pieces, keptPlace(line, place)) });
      }
      return found;
    });
  }

  take({ stroke, piece }: FoundPiece): void {
    const known = this.taken.get(stroke.id);
    if (!known?.pieces.has(piece)) this.taken.set(stroke.id, { pieces: new Set([...(known?.pieces ?? []), piece]) });
  }

  get count(): number {
    return [...this.taken.values()].reduce((sum, { pieces }) => sum + pieces.size, 0);
  }

  /**
   * Works out what is left of lines, so that `edits` is quick when the hand lifts: of `most` of them. Answers whether that
   * was all.
   */
  prepare(most = Infinity): boolean {
    let done = 0;
    for (const [id, { pieces, left }] of this.taken) {
      const line = this.known.get(id);
      if (left || !line) continue;
      if (done++ === most) return false;
      this.taken.set(id, { pieces, left: withoutPieces(line, pieces) });
    }
    return true;
  }

  /** Pieces as lines of their own, to be shown before they go: those that were taken, or one. */
  shown(one?: FoundPiece): StrokeEntity[] {
    const found = one
      ? [one]
      : [...this.taken].flatMap(([id, { pieces }]) => {
          const stroke = this.known.get(id)?.stroke;
          return stroke ? [...pieces].map((piece) => ({ stroke, piece })) : [];
        });
    return found.flatMap(({ stroke, piece }) => this.lookOf(stroke, piece) ?? []);
  }

  private lookOf(stroke: StrokeEntity, piece: number): StrokeEntity | undefined {
    const key = `${stroke.id} ${piece}`;
    const known = this.looks.get(key);
    const pieces = this.known.get(stroke.id);
    if (known || !pieces) return known;
    const look: StrokeEntity = { ...stroke, spine: courseOfPiece(pieces, piece), ends: ['flat', 'flat'] };
    this.looks.set(key, look);
    return look;
  }

  /** The edits that take what was taken: the first run that is left of a line keeps its id. */
  edits(newId: () => EntityId): Edit[] {
    this.prepare();
    return [...this.taken].flatMap(([id, { left }]) => {
      const line = this.known.get(id);
      return line && left ? replacedBy(line.stroke, left, newId) : [];
    });
  }

  private piecesOf(line: ShownLine): Pieces<StrokeEntity> {
    const { kept, shown } = line;
    let pieces = this.known.get(kept.id);
    if (!pieces) {
      const others = this.near(growBox(spineBox(shown.spine), this.options.gap)).map((near) => near.shown);
      const among = others.filter(({ id }) => id !== kept.id);
      const stops = piecesOf(shown, among, this.options.gap).stops.map((stop) => ({
        ...stop,
        at: keptPlace(line, stop.at),
        ...(stop.other === shown && { other: kept, otherAt: keptPlace(line, stop.otherAt) }),
      }));
      pieces = {
        stroke: kept,
        stops,
        thickness: shown === kept ? 1 : widestOf(shown.spine) / Math.max(1e-6, widestOf(kept.spine)),
      };
      this.known.set(kept.id, pieces);
    }
    return pieces;
  }
}

/** Lines are cut, and closed outlines of what is filled. */
const isCut = ({ fills, spine }: StrokeEntity): boolean => !fills || spine.closed;

/** Whether something is parted: the outline of what is filled takes two places for that, or all of it would go. */
const hasPieces = ({ stroke, stops }: Pieces<StrokeEntity>): boolean => stops.length > (stroke.fills ? 1 : 0);

/** Takes the piece under a touch, and all that a drag from there goes across. `reach` in page px. */
export function snip(
  strokes: readonly StrokeEntity[],
  course: readonly Point[],
  { reach, newId, ...options }: SnipOptions & { readonly reach: number; readonly newId: () => EntityId },
): Edit[] {
  const lines = strokes.map((stroke) => ({ kept: stroke, shown: stroke }));
  const snipper = new Snipper(() => lines, options);
  const first = course.length > 0 ? snipper.under(course[0], reach) : undefined;
  if (first && first !== 'meets nothing') snipper.take(first);
  for (let k = 1; k < course.length; k++)
    snipper.across(course[k - 1], course[k]).forEach((found) => snipper.take(found));
  return snipper.edits(newId);
}
