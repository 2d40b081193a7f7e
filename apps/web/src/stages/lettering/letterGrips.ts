import { awayFromBody, tailGrips, type BalloonEntity } from '@true-nib/core/balloon';
import { balloonsOn, letteringOn } from '@true-nib/core/comic';
import { gapTo } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import type { LetteringEntity } from '@true-nib/core/lettering';
import { distance, type Point } from '@true-nib/core/math';
import { byOrder, type Page } from '@true-nib/core/page';

/** What a hand takes hold of among the lettering of a page. */
export type Grip =
  | { readonly part: 'tip' | 'root' | 'bend'; readonly balloon: BalloonEntity; readonly tail: number }
  | { readonly part: 'edge'; readonly balloon: BalloonEntity; readonly body: number }
  | { readonly part: 'inside'; readonly id: EntityId };

/** What a drag of each is called. */
export const GRIP_DEEDS: Readonly<Record<Grip['part'], string>> = {
  tip: 'Move the tail',
  root: 'Slide the tail',
  bend: 'Bend the tail',
  edge: 'Size the balloon',
  inside: 'Move the lettering',
};

/** The grip of a chosen balloon that lies within `reach` of a place, page px; tails come before edges. */
export function gripAt(page: Page, chosen: readonly EntityId[], at: Point, reach: number): Grip | undefined {
  for (const balloon of balloonsOn(page).filter(({ id }) => chosen.includes(id))) {
    for (const [tail, one] of balloon.tails.entries()) {
      const grips = tailGrips(balloon.bodies[one.body], one);
      for (const part of ['tip', 'bend', 'root'] as const)
        if (distance(grips[part], at) < reach) return { part, balloon, tail };
    }
    for (const [body, one] of balloon.bodies.entries())
      if (awayFromBody(one, at) < reach / 2) return { part: 'edge', balloon, body };
  }
  return undefined;
}

/** The topmost balloon or free text at a place. */
export function letterAt(page: Page, at: Point): EntityId | undefined {
  const all = [...balloonsOn(page), ...letteringOn(page)].sort(byOrder);
  const found = all.findLast((one) => gapTo(one, at, at, 2) <= 0);
  return found && (found.kind === 'lettering' ? ownerOf(found) : found.id);
}

/** The text of a balloon in whose body a place lies. */
export const textAt = (page: Page, at: Point): EntityId | undefined =>
  letteringOn(page).findLast((text) => text.fit.as === 'balloon' && gapTo(text, at, at, 2) <= 0)?.id;

/** What is taken hold of with a text: its balloon, or itself. */
export const ownerOf = ({ id, fit }: LetteringEntity): EntityId => (fit.as === 'balloon' ? fit.balloonId : id);
