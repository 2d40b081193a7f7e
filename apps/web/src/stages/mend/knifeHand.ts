import type { AreaEntity } from '@true-nib/core/area';
import { dotsLeft, type DotsEntity } from '@true-nib/core/dots';
import type { DrawnEntity } from '@true-nib/core/drawn';
import { boxOfPoints, growBox, isInLoop, type Point } from '@true-nib/core/math';
import { cutByLoop, ringsWithin, ringsWithout } from '@true-nib/core/mend';
import { replacedBy, type Edit } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { newId } from '../../session';
import { refuse, type Gesture, type Board } from '../../board';
import { useMend } from './mendStore';
import { loopGesture, reachedLayers } from '../../hand';

/** A loop that cuts away what lies inside it, or outside of it, from the lines it goes over. */
export function beginKnife(board: Board): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  return loopGesture(board, (loop) => {
    if (loop.length < 3) return notice('Draw a loop: what lies inside it goes.');
    const { outside } = useMend.getState();
    const box = growBox(boxOfPoints(loop), 1);
    const edits = reached.changing
      .flatMap((layerId) => picture.drawnOn(layerId, box))
      .flatMap((drawn) => cut(drawn, loop, outside));
    if (edits.length === 0) return notice('No line lies under this loop.');
    session.commit('Pare with the knife', edits);
  });
}

function cut(drawn: DrawnEntity, loop: readonly Point[], outside: boolean): Edit[] {
  switch (drawn.kind) {
    case 'stroke':
      return cutLine(drawn, loop, outside);
    case 'area':
      return cutArea(drawn, loop, outside);
    case 'dots':
      return cutDots(drawn, loop, outside);
    case 'panel':
    case 'balloon':
    case 'lettering':
      return [];
  }
}

function cutDots(before: DotsEntity, loop: readonly Point[], outside: boolean): Edit[] {
  const left = dotsLeft(before, (x, y) => isInLoop(loop, { x, y }) !== outside);
  return left ? [{ before, after: left.dots.length > 0 ? left : null }] : [];
}

function cutLine(line: StrokeEntity, loop: readonly Point[], outside: boolean): Edit[] {
  const pieces = cutByLoop(line, loop, { outside });
  return pieces ? replacedBy(line, pieces, newId) : [];
}

function cutArea(before: AreaEntity, loop: readonly Point[], outside: boolean): Edit[] {
  const ring = [Float64Array.from(loop.flatMap(({ x, y }) => [x, y]))];
  const rings = outside ? ringsWithin(before, ring) : ringsWithout(before, ring);
  return rings ? [{ before, after: rings.length > 0 ? { ...before, rings } : null }] : [];
}
