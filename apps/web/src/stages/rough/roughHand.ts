import { scaleOf, type Point } from '@true-nib/core/math';
import { find, type PictureEntity } from '@true-nib/core/page';
import { draggedPlacement, gripAt } from '@true-nib/core/tools';
import { STEM } from '../../render';
import { refuse, type Gesture, type Board } from '../../board';

/** Drags the picture in hand by what lies under the pointer; nothing when that is not the picture. */
export function beginPlacing(
  { picture, session, notice }: Board,
  id: string,
  at: Point,
  upright: () => boolean,
): Gesture | undefined {
  const start = find(session.page, 'picture', id);
  const layer = start && find(session.page, 'layer', start.layerId);
  if (!start || !layer) return undefined;
  const pxPerCss = 1 / scaleOf(picture.view);
  const grip = gripAt(start.placement, start, at, 22 * pxPerCss, STEM * pxPerCss);
  if (!grip) return undefined;
  if (layer.locked) return refuse(notice, 'The rough is locked. Unlock it to move it.');
  let now: PictureEntity = start;
  const show = (after: PictureEntity) => {
    picture.preview([{ before: now, after }]);
    picture.setGrips(after);
    now = after;
  };
  const letBe = () => {
    picture.letBe([{ before: start, after: null }]);
    picture.setGrips(find(session.page, 'picture', id));
  };
  return {
    move(samples) {
      const to = samples.at(-1);
      if (to) show({ ...start, placement: draggedPlacement(start.placement, grip, at, to, upright()) });
    },
    end() {
      const label = { move: 'Move the rough', size: 'Size the rough', turn: 'Turn the rough' }[grip];
      if (now !== start && !session.commit(label, [{ before: start, after: now }])) letBe();
    },
    cancel: letBe,
  };
}
