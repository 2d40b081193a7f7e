import type { Page } from '@true-nib/core/page';
import { useEffect, useState } from 'react';
import { useBoard, usePage, type Board } from '../../board';
import { sayError } from '../../look';

/** ms without an edit after which it is worked out anew. */
const REST_MS = 400;

/**
 * What `work` answers for the page as it is, once the hand rests; what it answered before until then. It is done anew when the page or
 * `by` changes. `work` answers nothing where it was overtaken.
 */
export function useWhilePageRests<T>(
  work: (board: Board, page: Page) => Promise<T | undefined>,
  by: string,
): T | undefined {
  const board = useBoard();
  const page = usePage(board);
  const [known, setKnown] = useState<T>();
  useEffect(() => {
    let isGone = false;
    const timer = setTimeout(() => {
      work(board, page)
        .then((answer) => {
          if (!isGone && answer !== undefined) setKnown(answer);
        })
        .catch(sayError);
    }, REST_MS);
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
    // What is worked out hangs on the page and on what `by` says.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [board, page, by]);
  return known;
}
