import { boxOfPoints, growBox, type Point } from '@true-nib/core/math';
import { cutByLoop } from '@true-nib/core/mend';
import { replacedBy, type Edit } from '@true-nib/core/page';
import { newId } from '../../session';
import { refuse, type Gesture, type Board } from '../../board';
import { useMend } from './mendStore';
import { linesNear, reachedLayers } from '../../hand';

/** A loop that cuts away what lies inside it, or outside of it, from the lines it goes over. */
export function beginKnife(board: Board): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  const loop: Point[] = [];
  return {
    move: (samples) => {
      loop.push(...samples);
      picture.setArea(loop);
    },
    end: () => {
      picture.setArea(undefined);
      if (loop.length < 3) return notice('Draw a loop: what lies inside it goes.');
      const { outside } = useMend.getState();
      const lines = linesNear(board, reached.changing, growBox(boxOfPoints(loop), 1)).map(({ kept }) => kept);
      const edits = lines.flatMap((line): Edit[] => {
        const pieces = cutByLoop(line, loop, { outside });
        return pieces ? replacedBy(line, pieces, newId) : [];
      });
      if (edits.length === 0) return notice('No line lies under this loop.');
      session.commit('Pare with the knife', edits);
    },
    cancel: () => picture.setArea(undefined),
  };
}
