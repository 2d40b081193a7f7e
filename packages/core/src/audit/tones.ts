import type { AreaEntity, ToneFill } from '../area';
import { markBox } from '../drawn';
import { boxesMeet, boxMiddle } from '../math';
import type { Page } from '../page';
import type { Finding, PressSettings } from './finding';

interface Toned {
  readonly area: AreaEntity;
  readonly fill: ToneFill;
}

/** Screens that lie over each other interfere unless they are turned by at least this (common practice: 30°). */
const APART = (25 * Math.PI) / 180;
/** Periods that differ by less than this share are the same screen. */
const SAME = 0.01;

/** Tones that are too fine to print at this size, and those that make waves where they lie over each other. */
export function* tones(
  page: Page,
  areas: readonly AreaEntity[],
  { scale, finestLpi }: PressSettings,
): Generator<Finding> {
  const toned = areas.flatMap((area): Toned[] => (area.fill.as === 'tone' ? [{ area, fill: area.fill }] : []));
  for (const { area, fill } of toned) {
    const lpi = page.size.ppi / fill.period / scale;
    if (lpi > finestLpi + 0.5)
      yield {
        ...{ id: `fine tone:${area.id}`, kind: 'fine tone', at: boxMiddle(markBox(area)) },
        words: `A tone has ${Math.round(lpi)} lines an inch at this size; more than ${finestLpi} fill in.`,
      };
  }
  for (const [k, one] of toned.entries())
    for (const other of toned.slice(k + 1))
      if (boxesMeet(markBox(one.area), markBox(other.area)) && interfere(one.fill, other.fill))
        yield {
          ...{ id: `moiré:${one.area.id}+${other.area.id}`, kind: 'moiré', at: boxMiddle(markBox(other.area)) },
          words: 'Two tones lie over each other at nearly one angle: they make waves. Turn one by 30°.',
        };
}

function interfere(one: ToneFill, other: ToneFill): boolean {
  // Dots and crossed lines look alike after a quarter turn, lines after a half.
  const turn = one.screen === 'lines' && other.screen === 'lines' ? Math.PI : Math.PI / 2;
  const apart = Math.abs(one.angle - other.angle) % turn;
  const angle = Math.min(apart, turn - apart);
  const isSame = angle < 1e-3 && Math.abs(one.period / other.period - 1) < SAME;
  return !isSame && angle < APART;
}
