import { layersOf, READINGS } from '@true-nib/core/page';
import { fetchFolio } from '../../api';
import type { Board } from '../../board';
import {
  deliver,
  isBilevel,
  onLayers,
  preview,
  savedPage,
  useDeliverChoice,
  type DeliverChoice,
  type Delivered,
  type PageToDeliver,
} from '../../deliver';
import { sayError } from '../../look';
import { washingSlot } from '../../wash';
import { usePageDelivery } from './deliverStore';

/** Delivers the open page, or pages of its folio, as was chosen: as they are now, with all that was drawn on this one. */
export async function deliverFrom(board: Board): Promise<void> {
  try {
    const delivered = await toDeliver(board);
    if (delivered) await deliver(delivered);
  } catch (error) {
    sayError(error);
  }
}

/** Shows the very files that the open page would be delivered as; what a browser has no picture of is shown as one of the same px. */
export async function previewFrom(board: Board): Promise<void> {
  try {
    await board.of(washingSlot).settled();
    const { choice } = useDeliverChoice.getState();
    const { cuts } = usePageDelivery.getState();
    await preview(alone(board, cuts, shownAs(choice)));
  } catch (error) {
    sayError(error);
  }
}

const shownAs = (choice: DeliverChoice): DeliverChoice =>
  choice.as === 'tiff' || choice.as === 'ora'
    ? {
        ...choice,
        as: 'png',
        isOneBit: isBilevel(choice),
        ...(choice.as === 'ora' && { sizeBy: 'scale', scale: 1, isSliced: false }),
      }
    : choice;

const alone = (board: Board, cuts: readonly number[], choice: DeliverChoice): Delivered => ({
  ...{ title: board.session.card.name, choice, pages: [openPage(board, cuts)] },
  opening: { reads: READINGS[0], firstAlone: true },
});

/** What was chosen to be delivered; nothing, which is said, where no page was. */
async function toDeliver(board: Board): Promise<Delivered | undefined> {
  // Marks that are becoming pixels belong into the file.
  await board.of(washingSlot).settled();
  const { card } = board.session;
  const { choice } = useDeliverChoice.getState();
  const { pages, chosen, cuts } = usePageDelivery.getState();
  if (pages === 'this') return alone(board, cuts, choice);
  const folio = await fetchFolio(card.folioId);
  const wanted = pages === 'folio' ? folio.pages : folio.pages.filter(({ id }) => chosen.includes(id));
  if (wanted.length === 0) return void board.notice('Choose the pages first.');
  const open = openPage(board, cuts);
  return {
    ...{ title: folio.name, choice, opening: folio },
    pages: wanted.map((page): PageToDeliver =>
      page.id === card.id ? open : { title: page.name, size: page, open: () => savedPage(page.id) },
    ),
  };
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
