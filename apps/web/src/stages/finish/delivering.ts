import { layersOf, READINGS } from '@true-nib/core/page';
import { fetchFolio } from '../../api';
import type { Board } from '../../board';
import { deliver, onLayers, savedPage, useDeliverChoice, type PageToDeliver } from '../../deliver';
import { sayError } from '../../look';
import { washingSlot } from '../../wash';
import { usePageDelivery } from './deliverStore';

/** Delivers the open page, or all pages of its folio, as was chosen: as they are now, with all that was drawn on this one. */
export async function deliverFrom(board: Board): Promise<void> {
  try {
    // Marks that are becoming pixels belong into the file.
    await board.of(washingSlot).settled();
    const { card } = board.session;
    const { choice } = useDeliverChoice.getState();
    const { pages, cuts } = usePageDelivery.getState();
    const open = openPage(board, cuts);
    if (pages === 'this')
      return await deliver({
        title: card.name,
        choice,
        pages: [open],
        opening: { reads: READINGS[0], firstAlone: true },
      });
    const folio = await fetchFolio(card.folioId);
    await deliver({
      ...{ title: folio.name, choice, opening: folio },
      pages: folio.pages.map((page): PageToDeliver =>
        page.id === card.id ? open : { title: page.name, size: page, open: () => savedPage(page.id) },
      ),
    });
  } catch (error) {
    sayError(error);
  }
}

function openPage(board: Board, cuts: readonly number[]): PageToDeliver {
  const { session } = board;
  const { chosenLayers } = useDeliverChoice.getState().choice;
  const { layerId, chosenLayers: chosen } = board.desk();
  const known = new Set(layersOf(session.page).map(({ id }) => id));
  const ids = new Set([...chosen, layerId].filter((id) => id !== undefined && known.has(id)));
  const page =
    chosenLayers && ids.size > 0 ? onLayers(session.page, new Set([...ids].flatMap((id) => id ?? []))) : session.page;
  return {
    ...{ title: session.card.name, size: page.size, cuts },
    open: () => Promise.resolve({ title: session.card.name, page, bytes: (blob) => session.blob(blob) }),
  };
}
