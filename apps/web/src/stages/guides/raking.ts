import { asEntities, begunSlot, type drawnLayer, refuse, type Gesture, type Board, targetInHand } from '../../board';
import { seedNow } from '../../base';
import { selectionSlot } from '../../select';
import { flattenSpine } from '@true-nib/core/curve';
import { isField, type GuideEntity } from '@true-nib/core/guides';
import type { Point } from '@true-nib/core/math';
import type { Edit } from '@true-nib/core/page';
import { loopGesture } from '../../hand';
import { nibFor } from '../../nibs';
import { fieldInHand, useGuides, withCopies } from '../../guiding';

/** Lines that one rake may lay down, copies included. */
const MOST_RAKED = 20_000;

/** A loop on the board that is filled with lines along a field. */
export function beginRake(board: Board): Gesture {
  const { notice } = board;
  const target = targetInHand(board);
  if (typeof target === 'string') return refuse(notice, target);
  if (target.layer.medium !== 'ink') return refuse(notice, 'The rake draws lines: take an Ink layer in hand.');
  const field = fieldInHand(board);
  if (!field) return refuse(notice, 'The rake goes along a field: lay down Rails, Ripples, Rays or an Echo first.');
  return loopGesture(board, (loop) => void raked(board, field, loop, target));
}

async function raked(
  board: Board,
  { id, shape, name }: GuideEntity,
  loop: readonly Point[],
  { layer, edits }: Exclude<ReturnType<typeof drawnLayer>, string>,
): Promise<void> {
  const { session, picture, notice } = board;
  const { panelId } = board.of(begunSlot);
  if (!isField(shape)) return;
  const { spacing, jitter, ragged, calm } = useGuides.getState().rake;
  const settings = {
    nib: nibFor(session.page),
    guideId: id,
    ...{ spacing, jitter: jitter / 100, ragged: ragged / 100 },
    ...(shape.kind === 'rays' && middleOf(board, loop, calm / 100)),
  };
  try {
    const strokes = await picture.inks.beside.raked(shape, loop, settings, seedNow());
    if (strokes.length === 0) return notice(`No line of ${name} lies in this loop. Draw a larger one.`);
    const all = withCopies(session.page, layer.id, strokes);
    if (all.length > MOST_RAKED)
      return notice(`With all copies this would be ${all.length} lines. Make the spacing wider or the loop smaller.`);
    const place = { layerId: layer.id, top: picture.inks.index.topOrder(layer.id), panelId };
    const added = asEntities(all, place).map((after): Edit => ({
      before: null,
      after,
    }));
    session.commit(`Rake ${all.length} lines`, [...edits, ...added]);
  } catch (error) {
    notice(error instanceof Error ? error.message : 'This could not be raked.');
  }
}

/** The loop that stays free of focus lines: the selected line where there is one, else the loop itself made smaller. */
function middleOf(board: Board, loop: readonly Point[], share: number): { readonly middle?: readonly Point[] } {
  const [line] = board.of(selectionSlot).strokes;
  if (line) {
    const flat = flattenSpine(line.spine, 0.5);
    return { middle: Array.from({ length: flat.length / 3 }, (_, k) => ({ x: flat[3 * k], y: flat[3 * k + 1] })) };
  }
  return share > 0 ? { middle: shrunk(loop, share) } : {};
}

/** A loop made smaller about its middle. */
function shrunk(loop: readonly Point[], share: number): Point[] {
  const x = loop.reduce((sum, p) => sum + p.x, 0) / loop.length;
  const y = loop.reduce((sum, p) => sum + p.y, 0) / loop.length;
  return loop.map((p) => ({ x: x + (p.x - x) * share, y: y + (p.y - y) * share }));
}
