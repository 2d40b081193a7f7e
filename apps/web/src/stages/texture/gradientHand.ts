import { areaWithin, type AreaFill, type GradientFill } from '@true-nib/core/area';
import { distance, type Point } from '@true-nib/core/math';
import { polylineSpine } from '@true-nib/core/shapes';
import { refuse, targetInHand, type Board, type Gesture, type Press } from '../../board';
import { layDown, type LineTarget } from '../../hand';
import { nibFor } from '../../nibs';
import { zoomOf } from '../../render';
import { areaAt, outlineAt } from './bounds';
import { useTexture } from './textureStore';

/** CSS px that a gradient is long at least. */
const LEAST = 8;

/** The gradient that is set, along a way over the page. */
function gradientAlong({ session }: Board, from: Point, to: Point): GradientFill {
  const { shape, to: others, isFading } = useTexture.getState().gradient;
  const colours = [nibFor(session.page).color, ...others];
  const last = colours.length - 1;
  return {
    as: 'gradient',
    ramp: { shape, from: { x: from.x, y: from.y }, to: { x: to.x, y: to.y } },
    stops: colours.map((color, k) => ({ at: k / last, color, ...(isFading && k === last && { opacity: 0 }) })),
  };
}

/** Drags a gradient over what it begins on: an area of an Ink layer, the region there, or all of a Wash layer. */
export function beginGradient(board: Board, { at }: Press): Gesture {
  const { picture, session, notice } = board;
  const target = targetInHand(board);
  if (typeof target === 'string') return refuse(notice, target);
  const { layer } = target;
  const area = layer.medium === 'ink' ? areaAt(board, layer.id, at) : undefined;
  const least = LEAST / zoomOf(picture.view);
  let to = at;
  const isDrawn = () => distance(at, to) >= least;
  const filled = (fill: AreaFill) => area && { ...area, fill };
  const clear = () => {
    picture.setSketch(undefined);
    picture.endLive();
  };
  return {
    move(samples) {
      to = samples.at(-1) ?? to;
      if (!isDrawn()) return;
      const fill = gradientAlong(board, at, to);
      const shown = filled(fill) ?? (layer.medium === 'wash' ? wholePage(board, fill) : undefined);
      if (shown) picture.showThings([{ rings: shown.rings, fill }], layer.id);
    },
    end() {
      if (!isDrawn()) {
        clear();
        return notice('Drag a gradient: it goes from where the pen comes down to where it lifts.');
      }
      const fill = gradientAlong(board, at, to);
      const after = filled(fill);
      if (area && after) {
        picture.layDownLive(() => session.commit('Gradient', [{ before: area, after }]));
        return clear();
      }
      if (layer.medium === 'wash') return layDown(board, target, 'Gradient', [wholePage(board, fill)]);
      session.waitFor(inRegion(board, at, target, fill));
    },
    cancel: clear,
  };
}

async function inRegion(board: Board, at: Point, target: LineTarget, fill: AreaFill): Promise<void> {
  const rings = await outlineAt(board, target.layer.id, at);
  if (!rings) return board.notice('There is nothing here to fill: begin on an area or in a region.');
  layDown(board, target, 'Gradient', [{ rings, fill }]);
}

/** All of a page as an area. */
function wholePage({ session }: Board, fill: AreaFill) {
  const { width, height } = session.page.size;
  const corners = [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ];
  return areaWithin([polylineSpine(corners, true)], fill);
}
