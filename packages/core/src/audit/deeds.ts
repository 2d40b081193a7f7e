import { courseOf, evenlyWide, joinedSpines, lengthOf, STRIDE, widestOf, type Spine } from '../curve';
import { isDrawn } from '../drawn';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import { editedCourse, editedWeight, Widths } from '../mend';
import { applyChange, draftChange, find, layersOf, mergeEdits, nodeOf, ofKind, type Edit, type Page } from '../page';
import { lineSpine } from '../shapes';
import { keptWidth } from '../stroke';
import type { Finding, Mending } from './finding';

/** What a mending is called in the history. */
export const MENDING_WORDS: Readonly<Record<Mending['as'], string>> = {
  thicken: 'Thicken',
  drop: 'Drop',
  'plain colours': 'Own colours',
  'full strength': 'Full strength',
  reach: 'Reach',
};

/** Mends what was found. Throws a PageError where it lies on a locked layer or is there no more. */
export function mended(page: Page, mending: Mending): Edit[] {
  switch (mending.as) {
    case 'thicken': {
      const before = freeStroke(page, mending.id);
      // What is seen is as wide as that: its layer may show lines wider or finer than they are kept.
      const least = keptWidth(before.nib, find(page, 'layer', before.layerId)?.style, mending.width);
      return [{ before, after: editedWeight(before, thickened(before.spine, least)) }];
    }
    case 'drop': {
      const before = page.entities.get(mending.id);
      if (!isDrawn(before)) throw gone();
      requireFree(page, before.layerId);
      return [{ before, after: null }];
    }
    case 'plain colours':
      return layersOf(page).flatMap((before): Edit[] => {
        const { standIn, ...after } = before;
        return standIn === undefined ? [] : [{ before, after }];
      });
    case 'full strength': {
      const before = find(page, 'layer', mending.id);
      if (!before) throw gone();
      return [{ before, after: { ...before, opacity: 1 } }];
    }
    case 'reach': {
      const before = freeStroke(page, mending.id);
      const { points } = before.spine;
      const at = mending.end === 0 ? 0 : points.length - STRIDE;
      // Somebody has moved it since.
      if (points[at] !== mending.from.x || points[at + 1] !== mending.from.y) throw gone();
      return [{ before, after: editedCourse(before, reaching(before.spine, mending)) }];
    }
  }
}

/** Mends many findings as one deed; what can no longer be mended is left as it is. Throws the reason where none can be. */
export function mendedAll(page: Page, mendings: readonly Mending[]): Edit[] {
  let after = page;
  let refused: unknown;
  const edits: Edit[] = [];
  for (const mending of mendings)
    try {
      const own = mended(after, mending);
      after = applyChange(after, draftChange(MENDING_WORDS[mending.as], own));
      edits.push(...own);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      refused = error;
    }
  if (edits.length === 0 && refused) throw refused;
  return mergeEdits(edits);
}

/** Edits that silence a finding, or let all that were silenced be heard again. */
export const silenced = (finding: Finding, id: EntityId): Edit[] => [
  { before: null, after: { kind: 'silence', id, about: finding.id } },
];

export const heardAgain = (page: Page): Edit[] => ofKind(page, 'silence').map((before) => ({ before, after: null }));

const gone = (): PageError => new PageError('It is not there any more. Look once more.');

function requireFree(page: Page, layerId: EntityId): void {
  const node = nodeOf(page, layerId);
  if (node?.isLocked) throw new PageError(`${node.layer.name} is locked. Unlock it to mend what is on it.`);
}

function freeStroke(page: Page, id: EntityId) {
  const stroke = find(page, 'stroke', id);
  if (!stroke) throw gone();
  requireFree(page, stroke.layerId);
  return stroke;
}

/** The share of a line over which one that runs out to a point grows to its full width. */
const TAPER = 1 / 4;
/** Page px by which widths that are drawn anew may stray. */
const STRAY = 0.1;

/** A spine that is nowhere thinner than `least` page px, but for tips that run out to a point: these still do. */
function thickened(spine: Spine, least: number): Spine {
  const { points, closed } = spine;
  const length = lengthOf(courseOf(spine));
  const widest = widestOf(spine);
  const [isFirst, isLast] = [points[2], points[points.length - 1]].map(
    (width) => !closed && width < Math.min(least, widest) / 2,
  );
  const share = (along: number, isPoint: boolean) => (isPoint ? Math.min(1, along / (TAPER * length)) : 1);
  const widths = new Widths(spine);
  widths.change(0, length, (along, width) =>
    Math.max(width, (least + STRAY) * Math.min(share(along, isFirst), share(length - along, isLast))),
  );
  return widths.apply();
}

/** A spine that goes on straight from one of its ends, as wide as it is there. */
function reaching(spine: Spine, { end, from, to }: Extract<Mending, { as: 'reach' }>): Spine {
  const { points } = spine;
  if (end === 0) return joinedSpines([evenlyWide(lineSpine(to, from), points[2]), spine]);
  return joinedSpines([spine, evenlyWide(lineSpine(from, to), points[points.length - 1])]);
}
