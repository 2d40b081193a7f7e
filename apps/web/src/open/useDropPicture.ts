import { useEffect, type RefObject } from 'react';
import type { PageSession } from '../session';
import { takeRough } from '../stack';

/** Lets a picture be dropped on the board. */
export function useDropPicture(ground: RefObject<HTMLElement | null>, session: PageSession): void {
  useEffect(() => {
    const element = ground.current;
    if (!element) return;
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (file) void takeRough(session, file);
    };
    element.addEventListener('dragover', over);
    element.addEventListener('drop', drop);
    return () => {
      element.removeEventListener('dragover', over);
      element.removeEventListener('drop', drop);
    };
  }, [ground, session]);
}
