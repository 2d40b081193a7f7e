import { makeSpine, STRIDE, type Spine } from '../curve';
import { isDrawn } from '../drawn';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import type { Point } from '../math';
import { applyChange, draftChange, find, layersOf, mergeEdits, nodeOf, ofKind, type Edit, type Page } from '../page';
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
      return [{ before, after: { ...before, spine: thickened(before.spine, mending.width) } }];
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
      return [{ before, after: { ...before, spine: reaching(before.spine, mending.end, mending.to) } }];
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

/** A spine that is nowhere thinner than `least` page px, but for ends that are points. */
function thickened({ points, closed }: Spine, least: number): Spine {
  const to = Float64Array.from(points);
  const last = to.length - STRIDE;
  const isPoint = (at: number) => !closed && points[at + 2] < least / 2;
  for (let i = 0; i <= last; i += STRIDE) {
    // A tip that runs out to a point still does.
    if ((i === 0 && isPoint(0)) || (i === last && isPoint(last))) continue;
    to[i + 2] = Math.max(to[i + 2], least);
  }
  return makeSpine(to, closed);
}

/** A spine that goes on straight from one of its ends. */
function reaching({ points, closed }: Spine, end: 0 | 1, { x, y }: Point): Spine {
  const at = end === 0 ? 0 : points.length - STRIDE;
  const [u, v, w] = [points[at], points[at + 1], points[at + 2]];
  const out = [u + (x - u) / 3, v + (y - v) / 3, w, u + (2 * (x - u)) / 3, v + (2 * (y - v)) / 3, w, x, y, w];
  if (end === 1) return makeSpine(Float64Array.from([...points, ...out]), closed);
  const first = [x, y, w, u + (2 * (x - u)) / 3, v + (2 * (y - v)) / 3, w, u + (x - u) / 3, v + (y - v) / 3, w];
  return makeSpine(Float64Array.from([...first, ...points]), closed);
}
