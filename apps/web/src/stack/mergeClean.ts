import { mergedLayers, mergeEdits, mergeLayers, withTheOneBelow } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import { applyEdits } from '../render';
import { newId } from '../session';
import { useDesk, layerInHand, type Board } from '../board';

/**
 * Merges the layer in hand with the one below it; lines of the lower one are cut first where those of the upper one hide
 * them, so that the inked area stays as it is and no line lies under another. One change.
 */
export async function mergeClean({ session, picture, notice }: Board): Promise<boolean> {
  const { page } = session;
  try {
    const ids = withTheOneBelow(page, layerInHand(page, useDesk.getState().layerId)?.layer.id ?? '');
    const [back, front] = mergedLayers(page, ids);
    if (back.medium !== 'ink') throw new PageError('Merging clean cuts lines: take an Ink layer in hand.');
    notice('Cutting the lines below…');
    const answer = await picture.inks.beside.mend(
      { deed: { deed: 'clean', frontId: front.id }, changing: [back.id], met: [back.id, front.id] },
      (share) => notice(`Cutting the lines below: ${Math.round(100 * share)} %`),
    );
    if (!answer) return false;
    const cuts = await picture.inks.beside.mended(answer.count);
    if (session.page !== page) throw new PageError('The page changed meanwhile: nothing was merged. Try once more.');
    // What the page has stands for its copy in the worker.
    const own = cuts.map(({ before, after }) =>
      before
        ? { before: page.entities.get(before.id) ?? before, after }
        : { before, after: after && { ...after, id: newId() } },
    );
    const merging = mergeLayers(applyEdits(page, own), ids);
    const isDone = session.commit(`Merge clean into ${back.name}`, mergeEdits([...own, ...merging.edits]));
    if (isDone) notice(answer.count === 0 ? 'Merged: no line was hidden.' : `Merged: ${answer.count} pieces were cut.`);
    return isDone;
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    notice(error.message);
    return false;
  }
}
