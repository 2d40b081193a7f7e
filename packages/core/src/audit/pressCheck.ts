import type { AreaEntity } from '../area';
import { framesOf, isDrawn, markBox } from '../drawn';
import type { LetteringEntity } from '../lettering';
import { ofKind, type Page } from '../page';
import type { StrokeEntity } from '../stroke';
import { speck, unseen } from './crumbs';
import { BREATH, type Finding, type Placed, type PressSettings } from './finding';
import { letters } from './letters';
import { looseEnds, type KnownEnds } from './looseEnds';
import { seenOn } from './seen';
import { thinLines } from './thinLines';
import { tones } from './tones';
import { shortBleed, wholePage } from './wholePage';

/** Findings of one kind that are told: who has more mends some first. */
const MOST = 200;

/**
 * Looks for what is wrong with a page before it is printed, what is quick to find first. It yields findings as they come, and nothing now and
 * then, so that it can be let go of. Things are looked at as their layers show them. What was looked at once is known again as long as it is the
 * very same, with `known` also how things lie to each other. What is silenced is passed over.
 */
export function* pressChecking(
  page: Page,
  settings: PressSettings,
  known: KnownEnds = {},
): Generator<Finding | undefined, void> {
  const silences = new Set(ofKind(page, 'silence').map(({ about }) => about));
  const seenAs = seenOn(page);
  const placed: Placed[] = [];
  const strokes: StrokeEntity[] = [];
  const areas: AreaEntity[] = [];
  const texts: LetteringEntity[] = [];
  for (const kept of page.entities) {
    const entity = isDrawn(kept) && seenAs(kept);
    if (!entity) continue;
    if (placed.length % BREATH === BREATH - 1) yield undefined;
    placed.push({ entity, box: markBox(entity) });
    if (entity.kind === 'stroke') strokes.push(entity);
    else if (entity.kind === 'area') areas.push(entity);
    else if (entity.kind === 'lettering') texts.push(entity);
  }
  const isHeard = ({ id }: Finding) => !silences.has(id);
  for (const some of [
    wholePage(page, placed, settings),
    letters(page, texts, settings),
    tones(page, areas, settings),
    upTo(MOST, thinLines(page, strokes, settings), isHeard),
    misplaced(page, placed, settings),
    upTo(MOST, looseEnds(page, placed, settings, known), isHeard),
  ])
    yield* heard(some, isHeard);
}

/** What is not silenced, of each kind so many at most. */
function* heard(
  some: Generator<Finding | undefined, void>,
  isHeard: (finding: Finding) => boolean,
): Generator<Finding | undefined, void> {
  const counts = new Map<string, number>();
  for (const finding of some) {
    if (finding && !isHeard(finding)) continue;
    const count = finding ? (counts.get(finding.kind) ?? 0) + 1 : 0;
    if (finding) counts.set(finding.kind, count);
    if (count <= MOST) yield finding;
  }
}

/** What comes until so many were heard: nothing else is looked for. */
function* upTo(
  most: number,
  some: Generator<Finding | undefined, void>,
  isHeard: (finding: Finding) => boolean,
): Generator<Finding | undefined, void> {
  let count = 0;
  for (const finding of some) {
    yield finding;
    if (finding && isHeard(finding) && ++count === most) return;
  }
}

/** What is wrong with where single things lie, and how large they are. */
function* misplaced(
  page: Page,
  placed: readonly Placed[],
  settings: PressSettings,
): Generator<Finding | undefined, void> {
  const frames = framesOf(page);
  const looks = [shortBleed(page, settings), speck(page, settings), unseen(page, frames)];
  for (const [k, one] of placed.entries()) {
    if (k % BREATH === BREATH - 1) yield undefined;
    for (const look of looks) {
      const finding = look(one);
      if (finding) yield finding;
    }
  }
}

/** All that is wrong with a page at once. */
export function pressCheck(page: Page, settings: PressSettings): Finding[] {
  const found: Finding[] = [];
  for (const finding of pressChecking(page, settings)) if (finding) found.push(finding);
  return found;
}
