import type { AreaEntity } from '../area';
import { isDrawn } from '../drawn';
import { ofKind, type Page } from '../page';
import { specks, unseen } from './crumbs';
import type { Finding, PressSettings } from './finding';
import { letters } from './letters';
import { looseEnds } from './looseEnds';
import { seenOn } from './seen';
import { thinLines } from './thinLines';
import { tones } from './tones';
import { bleeds, wholePage } from './wholePage';

/** Findings of one kind that are told: who has more mends some first. */
const MOST = 200;

/**
 * Looks for what is wrong with a page before it is printed, what is quick to find first. It yields findings as they come, and nothing now and
 * then, so that it can be let go of. What was looked at once is known again as long as it is the very same. What is silenced is passed over.
 */
export function* pressChecking(page: Page, settings: PressSettings): Generator<Finding | undefined, void> {
  const silences = new Set(ofKind(page, 'silence').map(({ about }) => about));
  const isSeen = seenOn(page);
  const drawn = [...page.entities].filter(isDrawn).filter(isSeen);
  const strokes = ofKind(page, 'stroke').filter(isSeen);
  const areas: AreaEntity[] = ofKind(page, 'area').filter(isSeen);
  for (const some of [
    wholePage(page, settings),
    letters(page, ofKind(page, 'lettering').filter(isSeen), settings),
    tones(page, areas, settings),
    bleeds(page, drawn, settings),
    specks(page, drawn, settings),
    unseen(page, drawn),
    thinLines(page, strokes, settings),
    looseEnds(page, strokes, settings),
  ]) {
    let count = 0;
    for (const finding of some) {
      if (finding && silences.has(finding.id)) continue;
      yield finding;
      if (finding && ++count >= MOST) break;
    }
  }
}

/** All that is wrong with a page at once. */
export function pressCheck(page: Page, settings: PressSettings): Finding[] {
  const found: Finding[] = [];
  for (const finding of pressChecking(page, settings)) if (finding) found.push(finding);
  return found;
}
