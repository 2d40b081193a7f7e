import { rigidOf, type Rigid } from '../math';
import { rowOf } from './blocks/table';
import { courseUnder, solidUnder, type Course, type Solid } from './solid';
import type { StandingBlock } from './scene';
import { solidOfModel, type Model } from './model';
import type { BlockEntity, BlockPlace, BlockShape, MeshBlock } from './types';

/** The models that blocks are made of, by the SHA-256 of their bytes. */
export type Models = ReadonlyMap<string, Model>;

const none: Models = new Map();

/** The map from a block's own space to that of its set. */
export const placeMap = ({ at, turn }: BlockPlace): Rigid => rigidOf(turn, at);

const own = new WeakMap<BlockShape, Solid>();

/** The surfaces and edges of a shape about its own origin, m; nothing for a model that is not there. */
export function solidOf(shape: BlockShape, models: Models = none): Solid | undefined {
  const known = own.get(shape);
  if (known) return known;
  const made = shape.kind === 'mesh' ? modelSolid(shape, models) : rowOf(shape.kind).solid(shape);
  if (made) own.set(shape, made);
  return made;
}

function modelSolid({ blob, scale }: MeshBlock, models: Models): Solid | undefined {
  const model = models.get(blob);
  return model && solidOfModel(model, scale);
}

const stood = new WeakMap<BlockEntity, StandingBlock>();

/** A block where it stands in its set; nothing for a model that is not there. Kept as long as the block stays as it is. */
function standing(block: BlockEntity, models: Models): StandingBlock | undefined {
  const known = stood.get(block);
  if (known) return known;
  const solid = solidOf(block.shape, models);
  if (!solid) return undefined;
  const map = placeMap(block);
  const marks = (block.marks ?? []).map(({ course }) => courseUnder(map, chainOf(course)));
  const made = { id: block.id, solid: solidUnder(map, solid), lines: block.lines, marks };
  stood.set(block, made);
  return made;
}

const chainOf = (course: readonly number[]): Course => ({
  kind: 'chain',
  points: Array.from({ length: course.length / 3 }, (_, k) => [course[3 * k], course[3 * k + 1], course[3 * k + 2]]),
});

/** The solids of a set: those of its blocks that are not hidden. */
export const solidsOf = (blocks: readonly BlockEntity[], models: Models = none): StandingBlock[] =>
  blocks.flatMap((block) => (block.hidden ? [] : (standing(block, models) ?? [])));
