import type { Entity, EntityId } from './entity';

const WIDTH = 128;

type Bucket = ReadonlyMap<EntityId, Entity>;
type Shelf = readonly (Bucket | undefined)[];

/**
 * A map of entities that is a value: `with` and `without` answer a new map and share all but 260 slots with the old one,
 * so an edit costs the same on a page of fifty strokes and on one of fifty thousand.
 */
export class EntityMap implements Iterable<Entity> {
  static readonly empty = new EntityMap([], 0);

  private constructor(
    private readonly shelves: readonly (Shelf | undefined)[],
    readonly size: number,
  ) {}

  /** A map of many entities at once; a later one replaces an earlier one of the same id. */
  static of(entities: Iterable<Entity>): EntityMap {
    const shelves: Map<EntityId, Entity>[][] = [];
    let size = 0;
    for (const entity of entities) {
      const [high, low] = slots(entity.id);
      const bucket = ((shelves[high] ??= [])[low] ??= new Map());
      if (!bucket.has(entity.id)) size++;
      bucket.set(entity.id, entity);
    }
    return new EntityMap(shelves, size);
  }

  get(id: EntityId): Entity | undefined {
    const [high, low] = slots(id);
    return this.shelves[high]?.[low]?.get(id);
  }

  with(entity: Entity): EntityMap {
    const bucket = new Map(this.bucket(entity.id));
    const size = this.size + (bucket.has(entity.id) ? 0 : 1);
    bucket.set(entity.id, entity);
    return this.replaced(entity.id, bucket, size);
  }

  without(id: EntityId): EntityMap {
    const old = this.bucket(id);
    if (!old?.has(id)) return this;
    const bucket = new Map(old);
    bucket.delete(id);
    return this.replaced(id, bucket, this.size - 1);
  }

  *[Symbol.iterator](): Iterator<Entity> {
    for (const shelf of this.shelves) if (shelf) for (const bucket of shelf) if (bucket) yield* bucket.values();
  }

  private bucket(id: EntityId): Bucket | undefined {
    const [high, low] = slots(id);
    return this.shelves[high]?.[low];
  }

  private replaced(id: EntityId, bucket: Bucket, size: number): EntityMap {
    const [high, low] = slots(id);
    const shelf = this.shelves[high]?.slice() ?? [];
    shelf[low] = bucket;
    const shelves = this.shelves.slice();
    shelves[high] = shelf;
    return new EntityMap(shelves, size);
  }
}

/** Two slot numbers from an id by FNV-1a (Fowler, Noll, Vo 1991). */
function slots(id: EntityId): readonly [number, number] {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return [(hash >>> 4) % WIDTH, (hash >>> 14) % WIDTH];
}
