import type { Area, AreaEntity } from '../area';
import type { LaidBase } from '../kind';
import type { Stroke, StrokeEntity } from '../stroke';

/** What can be drawn, as a value that lies on no page yet. */
export type Thing = Stroke | Area;

export const isAreaThing = (thing: Thing): thing is Area => 'rings' in thing;

/** The entity that a thing becomes where it is laid down. */
export function laidAs(thing: Stroke, place: LaidBase): StrokeEntity;
export function laidAs(thing: Area, place: LaidBase): AreaEntity;
export function laidAs(thing: Thing, place: LaidBase): StrokeEntity | AreaEntity;
export function laidAs(thing: Thing, place: LaidBase): StrokeEntity | AreaEntity {
  return isAreaThing(thing) ? { kind: 'area', ...place, ...thing } : { kind: 'stroke', ...place, ...thing };
}
