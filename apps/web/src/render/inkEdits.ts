import type { Box } from '@true-nib/core/math';
import { tileBox, type Edit, type Page } from '@true-nib/core/page';

// What an edit of the inks does to what is shown of them.

/** Whether a layer shows all that lies on it in another way. A layer that comes or goes brings or takes its strokes itself. */
export const changesLooks = ({ before, after }: Edit): boolean => before?.kind === 'layer' && after?.kind === 'layer';

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

/** Edits that wait for a breath. */
export interface LateEdits {
  readonly page: Page;
  readonly ink: readonly Edit[];
  readonly look: EditLook;
}
