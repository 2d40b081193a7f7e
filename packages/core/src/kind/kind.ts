import type { Fields } from '../gate';
import type { InkStyle } from '../nib';

export type EntityId = string;

export interface EntityBase {
  readonly id: EntityId;
}

/** What lies on a layer, in the layer's order (a fractional index; equal keys are tied by id). */
export interface LaidBase extends EntityBase {
  readonly layerId: EntityId;
  readonly order: string;
  /** The panel that it was begun in: only what lies in there shows. One that is gone counts as none. */
  readonly panelId?: EntityId;
}

/** Bytes by their SHA-256, in hex, and what they are taken for. */
export interface BlobRef {
  readonly sha256: string;
  readonly as: 'picture' | 'pixels' | 'font' | 'model';
}

/** What an entity refers to. */
export interface Refs {
  /** Entities without which it cannot lie on a page. */
  readonly needs?: readonly EntityId[];
  /** Entities that it only remembers: they may be gone. */
  readonly knows?: readonly EntityId[];
  /** Names that it has in common with others and no entity has: copies made together get new ones. */
  readonly shares?: readonly EntityId[];
  /** Bytes that are kept before it is. */
  readonly blobs?: readonly BlobRef[];
}

/**
 * What a kind of entity is, as the page, the gate, the journal and the wire ask for it. They go by these rows alone and name
 * no kind themselves. How a kind is drawn and handled says its row in `drawn`.
 */
export interface Kind<E extends EntityBase> {
  /** Whether a page may hold tens of thousands. Those of all other kinds are also kept apart, so that they are found at once. */
  readonly isMany: boolean;
  /** How many a page may hold, and what to say about more. */
  readonly most?: { readonly count: number; readonly inWords: string };
  /** The entity in fields that came from outside. Throws a PageError that names the field, what it needs and what came. */
  check(fields: Fields): E;
  refs(entity: E): Refs;
  /**
   * A copy under another id. `renamed` says what an entity that it refers to is called in the copy: its own id where it was
   * not copied.
   */
  remap(entity: E, copyId: EntityId, renamed: (id: EntityId) => EntityId): E;
  /** The entity as a layer's style shows it, laid down for good; as it is where styles do nothing to it. */
  laidDown?(entity: E, style: InkStyle | undefined): E;
}
