import type { Area, AreaEntity } from '../area';
import type { Dots, DotsEntity } from '../dots';
import type { LaidBase } from '../kind';
import type { Stroke, StrokeEntity } from '../stroke';

/** What can be drawn, as a value that lies on no page yet. */
export type Thing = Stroke | Area | Dots;

export const isAreaThing = (thing: Thing): thing is Area => 'rings' in thing;

export const isDotsThing = (thing: Thing): thing is Dots => 'dots' in thing;

export const isLineThing = (thing: Thing): thing is Stroke => 'spine' in thing;

/** The entity that a thing becomes where it is laid down. */
export function laidAs(thing: Stroke, place: LaidBase): StrokeEntity;
export function laidAs(thing: Area, place: LaidBase): AreaEntity;
export function laidAs(thing: Dots, place: LaidBase): DotsEntity;
export function laidAs(thing: Thing, place: LaidBase): StrokeEntity | AreaEntity | DotsEntity;
export function laidAs(thing: Thing, place: LaidBase): StrokeEntity | AreaEntity | DotsEntity {
  if (isAreaThing(thing)) return { kind: 'area', ...place, ...thing };
  return isDotsThing(thing) ? { kind: 'dots', ...place, ...thing } : { kind: 'stroke', ...place, ...thing };
}
