import { emptyBox, type Box, type Matrix3x3, type Point } from '../math';
import { PageError } from '../gate';
import { laidDown, type Entity, type EntityKind, type EntityOf } from '../page';
import type { InkStyle } from '../nib';
import { drawnArea } from './area';
import { drawnBalloon } from './balloon';
import { drawnDots } from './dots';
import type { Drawn, MapOptions, Way } from './drawn';
import type { Mark } from './mark';
import { type Frames } from './framed';
import { drawnLettering } from './lettering';
import { drawnPanel } from './panel';
import { drawnStroke } from './stroke';

/** Pixels among the inks, painted by whoever knows their layer. */
const WASHED = 'washed';
/** Something to draw over: it is painted beside the inks. */
const UNDERLAID = 'underlaid';
/** Nothing that lies on the paper itself. */
const UNDRAWN = 'undrawn';
type Apart = typeof WASHED | typeof UNDERLAID | typeof UNDRAWN;

/** How each kind is drawn and handled: one row for each. */
export const DRAWN = {
  layer: UNDRAWN,
  stroke: drawnStroke,
  area: drawnArea,
  dots: drawnDots,
  panel: drawnPanel,
  balloon: drawnBalloon,
  lettering: drawnLettering,
  samples: UNDRAWN,
  picture: UNDERLAID,
  wash: WASHED,
  paper: UNDRAWN,
  sheet: UNDRAWN,
  guide: UNDRAWN,
  set: UNDRAWN,
  block: UNDRAWN,
  camera: UNDRAWN,
  stop: UNDRAWN,
  colour: UNDRAWN,
  silence: UNDRAWN,
} as const satisfies { readonly [K in EntityKind]: Drawn<EntityOf<K>> | Apart };

/** The kinds that lay marks on the paper. */
export type DrawnKind = {
  readonly [K in EntityKind]: (typeof DRAWN)[K] extends string ? never : K;
}[EntityKind];
export type DrawnEntity = EntityOf<DrawnKind>;

const rows: Readonly<Record<EntityKind, Drawn<DrawnEntity> | Apart>> = DRAWN;

function rowOf({ kind }: DrawnEntity): Drawn<DrawnEntity> {
  const row = rows[kind];
  if (typeof row === 'string') throw new RangeError(`Nothing of the kind "${kind}" lies on the paper as marks.`);
  return row;
}

/** Whether an entity lays marks on the paper. */
export const isDrawn = (entity: Entity | null | undefined): entity is DrawnEntity =>
  !!entity && typeof rows[entity.kind] === 'object';

/** Whether entities of a kind are among the inks: marks, and pixels of washes. */
export const isInkedKind = (kind: EntityKind): boolean => typeof rows[kind] === 'object' || rows[kind] === WASHED;

/** Whether with an entity changes what is seen of others, within its box. */
export const isFraming = (entity: DrawnEntity): boolean => rowOf(entity).frames === true;

/** Whether regions end at an entity. */
export const boundsRegions = (entity: DrawnEntity): boolean => rowOf(entity).bounds?.(entity) ?? false;

/** What an entity lays on the paper, lowest first; with the frames of a page, what is seen of that within them. */
export function marksOf(entity: DrawnEntity, frames?: Frames): readonly Mark[] {
  const row = rowOf(entity);
  const marks = row.marks(entity);
  return frames && !frames.isEmpty ? frames.framed(entity, marks, row) : marks;
}

/** What entities lay on the paper, one after the other. */
export function allMarks(entities: Iterable<DrawnEntity>, frames?: Frames): Mark[] {
  const all: Mark[] = [];
  for (const entity of entities) for (const mark of marksOf(entity, frames)) all.push(mark);
  return all;
}

/** Where its marks lie, page px. */
export const markBox = (entity: DrawnEntity): Box => rowOf(entity).box(entity);

/** Small boxes that together hold its marks. */
export function markPieces(entity: DrawnEntity): readonly Box[] {
  const row = rowOf(entity);
  return row.pieces?.(entity) ?? [row.box(entity)];
}

/** Small boxes that hold all in which an entity differs from what it was, if it was there. */
export function changedPieces(before: DrawnEntity | undefined, after: DrawnEntity | undefined): readonly Box[] {
  const changed = before && after && before.kind === after.kind ? rowOf(after).changed?.(before, after) : undefined;
  return changed ?? [before, after].flatMap((entity) => (entity ? markPieces(entity) : []));
}

/** By how much its marks reach beside its course, page px: layers that make lines wider make that more. */
export const reachOf = (entity: DrawnEntity): number => rowOf(entity).reach?.(entity) ?? 0;

/** The courses that decide whether it lies in an area. */
export const waysOf = (entity: DrawnEntity, tolerance: number): readonly Way[] => rowOf(entity).ways(entity, tolerance);

/** How far a hand's way passes from an entity's marks: 0 or less where it touches them, Infinity beyond `reach`. */
export const gapTo = (entity: DrawnEntity, from: Point, to: Point, reach: number): number =>
  rowOf(entity).gap(entity, from, to, reach);

/** What a hand takes hold of. */
export const holdOf = (entity: DrawnEntity): Box => rowOf(entity).hold(entity);

/** What a frame goes round that takes hold of some entities. */
export function holdOfAll(entities: Iterable<DrawnEntity>): Box {
  let { minX, minY, maxX, maxY } = emptyBox;
  // Tens of thousands at once: no box is made for each step.
  for (const entity of entities) {
    const own = holdOf(entity);
    if (own.minX < minX) minX = own.minX;
    if (own.minY < minY) minY = own.minY;
    if (own.maxX > maxX) maxX = own.maxX;
    if (own.maxY > maxY) maxY = own.maxY;
  }
  return { minX, minY, maxX, maxY };
}

/** An entity without what it refers to: another page has none of that. */
export const bareOf = (entity: DrawnEntity): DrawnEntity => rowOf(entity).bare(entity);

/** The colour that an entity has; nothing for one that takes ink away. */
export const colourOf = (entity: DrawnEntity): string | undefined => rowOf(entity).colour(entity);

/** An entity in another colour; the same where it has that one, or none. */
export function coloured<E extends DrawnEntity>(entity: E, color: string): E {
  const own = colourOf(entity);
  // A row answers an entity of its own kind.
  return own === undefined || own === color ? entity : (rowOf(entity).coloured(entity, color) as E);
}

/** An entity as a layer's style shows it. */
export function shownUnder(entity: DrawnEntity, style: InkStyle | undefined): DrawnEntity {
  if (!style) return entity;
  const shown = laidDown(entity, style);
  return isDrawn(shown) ? shown : entity;
}

/**
 * Entities under a map of the page, affine or projective. Throws a PageError for a map that flattens the plane or takes
 * something over its horizon, or too far off the page.
 */
export function mapped<E extends DrawnEntity>(entities: readonly E[], map: Matrix3x3, options: MapOptions): E[] {
  checkMap(map);
  // A row answers an entity of its own kind.
  return entities.map((entity) => rowOf(entity).map(entity, map, options) as E);
}

/** Throws a PageError for a map that flattens the plane. */
export function checkMap(map: Matrix3x3): void {
  if (!map.every(Number.isFinite)) throw new PageError('This transform has no numbers to go by.');
  const [a, b, c, d, e, f, g, h, i] = map;
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const size = Math.abs(i) || 1;
  if (!(Math.abs(determinant) / size ** 3 > 1e-8))
    throw new PageError('This would flatten the lines. Give them some width and height.');
}
