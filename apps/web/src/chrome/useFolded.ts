import { useEffect, useState } from 'react';
import { useDesk } from '../board';

/** Quick dabs leave the bench where it is; after a line it waits for the next one before it comes back. */
const FOLD_MS = 140;
const RETURN_MS = 650;

/** Whether the bench is out of the way because a line is being drawn. */
export function useFolded(): boolean {
  const isDrawing = useDesk((desk) => desk.isDrawing);
  const [isFolded, setFolded] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setFolded(isDrawing), isDrawing ? FOLD_MS : RETURN_MS);
    return () => clearTimeout(timer);
  }, [isDrawing]);
  return isFolded;
}
