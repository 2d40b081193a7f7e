import { find, type Page } from '@true-nib/core/page';
import type { GuideEntity, GuideShape, WheelShape } from '@true-nib/core/guides';

const MM = 25.4;

/** The angle of a guide as drawn: up is positive, 0 points right, −180..180, degrees. */
export const degreesOf = (angle: number): number => {
  const degrees = (-angle * 180) / Math.PI;
  return degrees - 360 * Math.round(degrees / 360);
};

/** Angle and length of a straightedge, the angle of other guides that have one. */
export function lengthInWords(shape: GuideShape, ppi: number): string | undefined {
  if (shape.kind === 'straightedge')
    return `${degreesOf(shape.angle).toFixed(1)}° · ${Math.round(shape.length)} px · ${((shape.length * MM) / ppi).toFixed(1)} mm`;
  return 'angle' in shape ? `${degreesOf(shape.angle).toFixed(1)}°` : undefined;
}

/** What a wheel of so many draws, in words. */
export function wheelInWords({ sectors, reflects }: Pick<WheelShape, 'sectors' | 'reflects'>): string {
  const copies = sectors === 2 ? '1 copy' : `${sectors - 1} copies`;
  if (!reflects) return `One stroke and ${copies}: ${sectors} in all, turned by ${fraction(360 / sectors)}° each.`;
  const axes = sectors / 2;
  return `One stroke and ${copies}: ${sectors} in all, mirrored on ${axes === 1 ? '1 axis' : `${axes} axes`}.`;
}

const fraction = (value: number): string => String(Math.round(value * 10) / 10);

/** What a guide of a page does now, in a few words. */
export function stateInWords(guide: GuideEntity, guided: boolean, page: Page): string {
  const state = !guided ? 'waits: all is free' : guide.acting ? `acts on ${reachInWords(guide, page)}` : 'asleep';
  return `${state}${guide.seen ? '' : ' · unseen'}${guide.locked ? ' · locked' : ''}${guide.tethers ? ' · tethers' : ''}`;
}

function reachInWords({ reach }: GuideEntity, page: Page): string {
  if (reach === 'all') return 'all layers';
  const names = reach.flatMap((id) => find(page, 'layer', id)?.name ?? []);
  if (names.length === 0) return 'no layer: what it reached is gone';
  return names.length === 1 ? names[0] : `${names.length} layers`;
}
