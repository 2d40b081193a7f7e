import { isDrawn, isFraming } from '@true-nib/core/drawn';
import type { Box } from '@true-nib/core/math';
import { editedId, tileBox, type Edit, type Entity, type Page } from '@true-nib/core/page';

// What an edit of the inks does to what is shown of them.

/** Whether a layer shows all that lies on it in another way. A layer that comes or goes brings or takes its strokes itself. */
export const changesLooks = ({ before, after }: Edit): boolean => before?.kind === 'layer' && after?.kind === 'layer';

const isFrame = (entity: Entity | null): boolean => isDrawn(entity) && isFraming(entity);

/** Whether with edits that led to `page` panels come or go that something lies in: it is seen beyond their boxes from now on, or no longer. */
export function changesFrames(page: Page, edits: readonly Edit[]): boolean {
  const turned = edits.filter(({ before, after }) => isFrame(before) !== isFrame(after)).map(editedId);
  if (turned.length === 0) return false;
  const ids = new Set<string | undefined>(turned);
  for (const entity of page.entities)
    if (isDrawn(entity) && entity.panelId !== undefined && ids.has(entity.panelId)) return true;
  return false;
}

/** Where an edit changes pixels of wash, page px. */
export function washBoxes({ before, after }: Edit): Box[] {
  const tile = [after, before].find((one) => one?.kind === 'wash');
  return tile?.kind === 'wash' ? [tileBox(tile)] : [];
}

/** The bytes of the pixels that an edit lays down, by their SHA-256. */
export const washBlobs = ({ after }: Edit): string[] => (after?.kind === 'wash' ? [after.blob] : []);

/** Where strokes are seen before they are part of the page: on a canvas of their own, or where they will be kept. */
export type Shown = HTMLCanvasElement | 'in place';

/** How edits are shown that lay down what is seen already, or change less than they touch. */
export interface EditLook {
  readonly shown?: Shown;
  readonly within?: Box;
}

/** What the edits of a commit take the place of: where they are seen already, and the marks that become pixels by them. */
export interface HandOver {
  readonly shown: Shown | undefined;
  readonly marks: readonly Edit[];
}
export const NOTHING: HandOver = { shown: undefined, marks: [] };

/** Edits that wait for a breath. */
export interface LateEdits {
  readonly page: Page;
  readonly ink: readonly Edit[];
  readonly look: EditLook;
}
