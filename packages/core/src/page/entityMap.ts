import type { Entity, EntityId, EntityKind } from './entity';

const WIDTH = 128;

type Bucket = ReadonlyMap<EntityId, Entity>;
type Shelf = readonly (Bucket | undefined)[];

/** Kinds of which a page may hold tens of thousands. All others are also kept apart, so that they are found at once. */
const COMMON: ReadonlySet<EntityKind> = new Set(['stroke', 'samples', 'wash']);
const isRare = (entity: Entity): boolean => !COMMON.has(entity.kind);

/**
 * A map of entities that is a value: `with` and `without` answer a new map and share all but 260 slots with the old one,
 * so an edit costs the same on a page of fifty strokes and on one of fifty thousand.
 */
export class EntityMap implements Iterable<Entity> {
  static readonly empty = new EntityMap([], 0, new Map());

  private constructor(
    private readonly shelves: readonly (Shelf | undefined)[],
    readonly size: number,
    private readonly rare: Bucket,
  ) {}

  /** A map of many entities at once; a later one replaces an earlier one of the same id. */
  static of(entities: Iterable<Entity>): EntityMap {
    const shelves: Map<EntityId, Entity>[][] = [];
    const rare = new Map<EntityId, Entity>();
    let size = 0;
    for (const entity of entities) {
      const [high, low] = slots(entity.id);
      const bucket = ((shelves[high] ??= [])[low] ??= new Map());
      if (!bucket.has(entity.id)) size++;
      bucket.set(entity.id, entity);
      if (isRare(entity)) rare.set(entity.id, entity);
      else rare.delete(entity.id);
    }
    return new EntityMap(shelves, size, rare);
  }

  get(id: EntityId): Entity | undefined {
    const [high, low] = slots(id);
    return this.shelves[high]?.[low]?.get(id);
  }

  with(entity: Entity): EntityMap {
    const bucket = new Map(this.bucket(entity.id));
    const size = this.size + (bucket.has(entity.id) ? 0 : 1);
    bucket.set(entity.id, entity);
    const rare = isRare(entity) ? new Map(this.rare).set(entity.id, entity) : withoutKey(this.rare, entity.id);
    return this.replaced(entity.id, bucket, size, rare);
  }

  without(id: EntityId): EntityMap {
    const old = this.bucket(id);
    if (!old?.has(id)) return this;
    return this.replaced(id, withoutKey(old, id), this.size - 1, withoutKey(this.rare, id));
  }

  /** The map after many edits at once (null takes an entity out): every bucket that they touch is copied once. */
  edited(edits: ReadonlyMap<EntityId, Entity | null>): EntityMap {
    if (edits.size === 0) return this;
    const shelves: (Shelf | undefined)[] = this.shelves.slice();
    const own = new Map<number, Map<EntityId, Entity>>();
    const ownShelves = new Map<number, (Bucket | undefined)[]>();
    let rare: Map<EntityId, Entity> | undefined;
    let { size } = this;
    for (const [id, entity] of edits) {
      const [high, low] = slots(id);
      let bucket = own.get(high * WIDTH + low);
      if (!bucket) {
        let shelf = ownShelves.get(high);
        if (!shelf) {
          shelf = this.shelves[high]?.slice() ?? [];
          ownShelves.set(high, shelf);
          shelves[high] = shelf;
        }
        bucket = new Map(shelf[low]);
        own.set(high * WIDTH + low, bucket);
        shelf[low] = bucket;
      }
      size += (entity ? 1 : 0) - (bucket.has(id) ? 1 : 0);
      if (entity) bucket.set(id, entity);
      else bucket.delete(id);
      if ((entity && isRare(entity)) || this.rare.has(id)) {
        rare ??= new Map(this.rare);
        if (entity && isRare(entity)) rare.set(id, entity);
        else rare.delete(id);
      }
    }
    return new EntityMap(shelves, size, rare ?? this.rare);
  }

  /** What stays the same object for as long as no entity of a rare kind changes: a key for what is derived from those. */
  get rareKinds(): object {
    return this.rare;
  }

  countOf(kind: EntityKind): number {
    let count = 0;
    for (const entity of this.ofKind(kind)) if (entity.kind === kind) count++;
    return count;
  }

  /** All entities of a kind, in no order; those of rare kinds without looking at any other. */
  *ofKind(kind: EntityKind): Generator<Entity> {
    for (const entity of COMMON.has(kind) ? this : this.rare.values()) if (entity.kind === kind) yield entity;
  }

  *[Symbol.iterator](): Iterator<Entity> {
    for (const shelf of this.shelves) if (shelf) for (const bucket of shelf) if (bucket) yield* bucket.values();
  }

  private bucket(id: EntityId): Bucket | undefined {
    const [high, low] = slots(id);
    return this.shelves[high]?.[low];
  }

  private replaced(id: EntityId, bucket: Bucket, size: number, rare: Bucket): EntityMap {
    const [high, low] = slots(id);
    const shelf = this.shelves[high]?.slice() ?? [];
    shelf[low] = bucket;
    const shelves = this.shelves.slice();
    shelves[high] = shelf;
    return new EntityMap(shelves, size, rare);
  }
}

function withoutKey(bucket: Bucket, id: EntityId): Bucket {
  if (!bucket.has(id)) return bucket;
  const copy = new Map(bucket);
  copy.delete(id);
  return copy;
}

/** Two slot numbers from an id by FNV-1a (Fowler, Noll, Vo 1991). */
function slots(id: EntityId): readonly [number, number] {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return [(hash >>> 4) % WIDTH, (hash >>> 14) % WIDTH];
}
