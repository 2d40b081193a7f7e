import { areaKind } from '../area';
import { dotsKind } from '../dots';
import { PageError, record } from '../gate';
import { balloonKind } from '../balloon';
import { guideKind } from '../guides';
import type { EntityId, Kind, Refs } from '../kind';
import { letteringKind } from '../lettering';
import type { InkStyle } from '../nib';
import { panelKind } from '../panel';
import { blockKind, cameraKind, setKind } from '../set';
import { samplesKind, strokeKind } from '../stroke';
import { colourKind } from './kinds/colour';
import { layerKind } from './kinds/layer';
import { paperKind } from './kinds/paper';
import { pictureKind } from './kinds/picture';
import { sheetKind } from './kinds/sheet';
import { silenceKind } from './kinds/silence';
import { stopKind } from './kinds/stop';
import { washKind } from './kinds/wash';

/** What there can be on a page: one row for each kind. The types below are read off it. */
export const KINDS = {
  layer: layerKind,
  stroke: strokeKind,
  area: areaKind,
  dots: dotsKind,
  panel: panelKind,
  balloon: balloonKind,
  lettering: letteringKind,
  samples: samplesKind,
  picture: pictureKind,
  wash: washKind,
  paper: paperKind,
  sheet: sheetKind,
  guide: guideKind,
  set: setKind,
  block: blockKind,
  camera: cameraKind,
  stop: stopKind,
  colour: colourKind,
  silence: silenceKind,
} as const;

export type EntityKind = keyof typeof KINDS;
export type EntityOf<K extends EntityKind> = ReturnType<(typeof KINDS)[K]['check']>;
export type Entity = { readonly [K in EntityKind]: EntityOf<K> }[EntityKind];
/** What lies on a layer. */
export type LaidEntity = Extract<Entity, { readonly layerId: EntityId }>;

export const isKind = <K extends EntityKind>(entity: Entity, kind: K): entity is EntityOf<K> => entity.kind === kind;

export const isLaid = (entity: Entity): entity is LaidEntity => 'layerId' in entity;

/** The same rows, for whoever does not know the kind. */
const rows: Readonly<Record<EntityKind, Kind<Entity>>> = KINDS;

/** Whether a page may hold tens of thousands of a kind. */
export const isManyKind = (kind: EntityKind): boolean => rows[kind].isMany;

/**
 * The entity in `value`, with unknown fields left out and number lists as typed arrays.
 * Throws a PageError that names the field, what it needs and what came.
 */
export function checkEntity(value: unknown): Entity {
  const fields = record(value, 'An entity');
  const kind = String(fields.kind);
  if (!isKnown(kind))
    throw new PageError(`There is no kind of entity called ${JSON.stringify(fields.kind)?.slice(0, 60)}.`);
  return KINDS[kind].check(fields);
}

/** Whether there is such a kind. */
export const isKnown = (kind: string): kind is EntityKind => Object.hasOwn(KINDS, kind);

/** What an entity refers to. */
export const refsOf = (entity: Entity): Refs => rows[entity.kind].refs(entity);

/** A copy of an entity under another id; `renamed` says what those that it refers to are called in the copy. */
export const copyUnder = (entity: Entity, copyId: EntityId, renamed: (id: EntityId) => EntityId): Entity =>
  rows[entity.kind].remap(entity, copyId, renamed);

/** Something on a layer as the layer's style shows it, laid down for good. */
export function laidDown(entity: LaidEntity, style: InkStyle | undefined): LaidEntity {
  const down = rows[entity.kind].laidDown?.(entity, style);
  return down && isLaid(down) ? down : entity;
}

export interface KindLimit {
  readonly kind: EntityKind;
  readonly count: number;
  readonly inWords: string;
}

/** How many entities of a kind a page may hold, where that is limited. */
export function limitOf(kind: EntityKind): KindLimit | undefined {
  const { most } = rows[kind];
  return most && { kind, ...most };
}
