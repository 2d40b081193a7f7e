import type { EntityId } from '../kind';
import { isKind, isManyKind, type Entity, type EntityKind, type EntityOf } from './kinds';

const WIDTH = 128;

/** The few entities of one slot: quicker to look through, and to copy, than a map of them. */
type Bucket = readonly Entity[];
type Shelf = readonly (Bucket | undefined)[];
type Rare = ReadonlyMap<EntityId, Entity>;

/** Kinds of which there are few are also kept apart, so that they are found at once. */
const isRare = (entity: Entity): boolean => !isManyKind(entity.kind);

/**
 * A map of entities that is a value: `with` and `without` answer a new map and share all but 260 slots with the old one,
 * so an edit costs the same on a page of fifty strokes and on one of fifty thousand.
 */
export class EntityMap implements Iterable<Entity> {
  static readonly empty = new EntityMap([], 0, new Map());

  private constructor(
    private readonly shelves: readonly (Shelf | undefined)[],
    readonly size: number,
    private readonly rare: Rare,
  ) {}

  /** A map of many entities at once; a later one replaces an earlier one of the same id. */
  static of(entities: Iterable<Entity>): EntityMap {
    const shelves: Entity[][][] = [];
    const rare = new Map<EntityId, Entity>();
    let size = 0;
    for (const entity of entities) {
      const hash = hashOf(entity.id);
      const shelf = (shelves[high(hash)] ??= []);
      const bucket = (shelf[low(hash)] ??= []);
      const at = placeOf(bucket, entity.id);
      if (at < 0) size++;
      bucket[at < 0 ? bucket.length : at] = entity;
      if (isRare(entity)) rare.set(entity.id, entity);
      else rare.delete(entity.id);
    }
    return new EntityMap(shelves, size, rare);
  }

  get(id: EntityId): Entity | undefined {
    const hash = hashOf(id);
    const bucket = this.shelves[high(hash)]?.[low(hash)];
    return bucket?.[placeOf(bucket, id)];
  }

  with(entity: Entity): EntityMap {
    return this.edited([[entity.id, entity]]);
  }

  without(id: EntityId): EntityMap {
    return this.get(id) ? this.edited([[id, null]]) : this;
  }

  /**
   * The map after edits, one after another (null takes an entity out): every bucket that they touch is copied once. What
   * `check` throws, told what each edit finds there and which it is, leaves this map as it is.
   */
  edited(
    edits: Iterable<readonly [EntityId, Entity | null]>,
    check?: (present: Entity | undefined, index: number) => void,
  ): EntityMap {
    const shelves: (Shelf | undefined)[] = this.shelves.slice();
    const own = new Map<number, (Entity[] | undefined)[]>();
    let rare: Map<EntityId, Entity> | undefined;
    let { size } = this;
    let index = 0;
    for (const [id, entity] of edits) {
      const hash = hashOf(id);
      const bucket = this.ownBucket(hash, shelves, own);
      const at = placeOf(bucket, id);
      const present = bucket[at] as Entity | undefined;
      check?.(present, index++);
      if (entity) bucket[present ? at : bucket.length] = entity;
      else if (present) bucket.splice(at, 1);
      size += (entity ? 1 : 0) - (present ? 1 : 0);
      if ((entity && isRare(entity)) || (present && isRare(present))) {
        rare ??= new Map(this.rare);
        if (entity && isRare(entity)) rare.set(id, entity);
        else rare.delete(id);
      }
    }
    return own.size === 0 ? this : new EntityMap(shelves, size, rare ?? this.rare);
  }

  /** What stays the same object for as long as no entity of a rare kind changes: a key for what is derived from those. */
  get rareKinds(): object {
    return this.rare;
  }

  countOf(kind: EntityKind): number {
    return this.ofKind(kind).length;
  }

  /** All entities of a kind, in no order; those of rare kinds without looking at any other. */
  ofKind<K extends EntityKind>(kind: K): EntityOf<K>[] {
    const found: EntityOf<K>[] = [];
    for (const entity of isManyKind(kind) ? this : this.rare.values()) if (isKind(entity, kind)) found.push(entity);
    return found;
  }

  /** A bucket that may be written to: a copy, made when it is first asked for. */
  private ownBucket(
    hash: number,
    shelves: (Shelf | undefined)[],
    own: Map<number, (Entity[] | undefined)[]>,
  ): Entity[] {
    const [row, column] = [high(hash), low(hash)];
    let copies = own.get(row);
    if (!copies) {
      own.set(row, (copies = []));
      shelves[row] = shelves[row]?.slice() ?? [];
    }
    const known = copies[column];
    if (known) return known;
    const shelf = shelves[row] as (Bucket | undefined)[];
    const copy = shelf[column]?.slice() ?? [];
    copies[column] = shelf[column] = copy;
    return copy;
  }

  *[Symbol.iterator](): Iterator<Entity> {
    for (const shelf of this.shelves) for (const bucket of shelf ?? []) if (bucket) yield* bucket;
  }
}

/** Where the entity of that id is in a bucket; −1 where it is not. */
function placeOf(bucket: Bucket, id: EntityId): number {
  for (let k = 0; k < bucket.length; k++) if (bucket[k].id === id) return k;
  return -1;
}

/** FNV-1a (Fowler, Noll, Vo 1991). */
function hashOf(id: EntityId): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return hash;
}

/** Two slot numbers from different bits of a hash. */
const high = (hash: number): number => (hash >>> 4) % WIDTH;
const low = (hash: number): number => (hash >>> 14) % WIDTH;
