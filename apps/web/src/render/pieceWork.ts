import type { AreaEntity } from '@true-nib/core/area';
import { laidAs, type DrawnEntity } from '@true-nib/core/drawn';
import { laidOf, type EntityId } from '@true-nib/core/kind';
import { boxOfPoints, boxOfRings, type Box, type Point } from '@true-nib/core/math';
import { byOrder } from '@true-nib/core/page';
import {
  colourRegions,
  inkAsArea,
  inkMap,
  inkOfEach,
  sidesOf,
  specksOf,
  withoutPieces,
  type Piece,
  type Speck,
} from '@true-nib/core/regions';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { LeftOf } from '@true-nib/core/tools';
import { inSlices } from '../base/breath';
import type { InkDesk } from './inkDesk';

/** A piece of ink, and a number for its colour, other than that of the pieces beside it. */
export interface ShownPiece extends Pick<Piece, 'rings' | 'area'> {
  readonly box: Box;
  readonly colour: number;
}

/** Takes ink apart, in a worker. */
export class PieceWork {
  private asked = 0;

  constructor(private readonly desk: InkDesk) {}

  /** The pieces that the ink of a layer makes in a loop. */
  pieces(layerId: EntityId, loop: readonly Point[]): ShownPiece[] {
    const pieces = inkMap(this.wholeOn(layerId, boxOfPoints(loop)), loop);
    const colours = colourRegions(sidesOf(pieces));
    return pieces.map(({ rings, area }, k) => ({ rings, area, box: boxOfRings(rings), colour: colours.get(k) ?? 0 }));
  }

  /** What is left of all that has ink in some rings (page px, non-zero rule) on a layer. */
  without(layerId: EntityId, rings: readonly Float64Array[], box: Box): LeftOf[] {
    return this.onLayer(layerId, box).flatMap((entity): LeftOf[] => {
      const { id } = entity;
      if (!isPieced(entity) || (entity.kind === 'area' && entity.fill.as === 'nothing')) return [];
      const left =
        entity.kind === 'area'
          ? withoutPieces(entity, rings)
          : withoutPieces(entity, rings, (line) => this.desk.index.styled(line));
      return left ? [{ id, left: left.map((thing) => laidAs(thing, laidOf(entity))) }] : [];
    });
  }

  /** Lines as areas of the same ink. */
  async areas(ids: readonly EntityId[]): Promise<LeftOf[]> {
    const { index } = this.desk;
    return (await inSlices(asAreas(ids.flatMap((id) => index.get(id) ?? [])))) ?? [];
  }

  /** Ink of a layer of fewer page px² that touches no other; nothing where they were asked for anew meanwhile. */
  specks(layerId: EntityId, most: number): Promise<Speck[] | undefined> {
    const own = ++this.asked;
    return inSlices(specksOf(inkOfEach(this.wholeOn(layerId)), most), { isWanted: () => own === this.asked });
  }

  /** The lines and areas of a layer, as it shows them, lowest first. */
  private wholeOn(layerId: EntityId, box?: Box): (StrokeEntity | AreaEntity)[] {
    return this.onLayer(layerId, box).flatMap((entity) => {
      const shown = this.desk.index.shown(entity);
      return isPieced(shown) ? [shown] : [];
    });
  }

  /** What lies on a layer, lowest first. */
  private onLayer(layerId: EntityId, box?: Box): DrawnEntity[] {
    const { index } = this.desk;
    return (box ? index.onLayer(layerId, box) : index.unorderedOn(layerId)).sort(byOrder);
  }
}

/** Whether the ink of something is parted where other ink runs over it: neither that of dots nor a border. */
const isPieced = (entity: DrawnEntity): entity is StrokeEntity | AreaEntity =>
  entity.kind === 'stroke' || entity.kind === 'area';

function* asAreas(entities: readonly DrawnEntity[]): Generator<number, LeftOf[]> {
  const areas: LeftOf[] = [];
  for (const [k, line] of entities.entries()) {
    yield k / entities.length;
    if (line.kind !== 'stroke') continue;
    areas.push({ id: line.id, left: [laidAs(inkAsArea(line), laidOf(line))] });
  }
  return areas;
}
