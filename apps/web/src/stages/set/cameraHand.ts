import { boxMiddle, carriedBy, minus, scaled, sum, type Vector } from '@true-nib/core/math';
import {
  ahead,
  movedCamera,
  orbited,
  pointsOf,
  scaleAt,
  turnedEye,
  viewOf,
  withPoints,
  type CameraEntity,
  type Eye,
} from '@true-nib/core/set';
import { windowOf } from '@true-nib/core/staging';
import { refuse, type Board, type Gesture, type Press } from '../../board';
import { zoomOf } from '../../render';
import { keepTurned, pivotOf } from './cameraDeeds';
import { cameraInHand } from './inHand';
import { useSets, type CameraDeed } from './setStore';
import type { SetView } from './setView';

/** Radians per CSS px of a drag, and the part of the way to the pivot. */
const TURN = 0.006;
const WAY = 0.004;

export const CAMERA_LABELS: Readonly<Record<CameraDeed, string>> = {
  orbit: 'Orbit',
  move: 'Move',
  dolly: 'Dolly',
  turn: 'Turn',
  roll: 'Roll',
};

interface Turning {
  readonly camera: CameraEntity;
  readonly pivot: Vector;
  /** CSS px. */
  readonly dx: number;
  readonly dy: number;
  readonly board: Board;
}

const TURNS: Readonly<Record<CameraDeed, (turning: Turning) => Eye>> = {
  orbit: ({ camera, pivot, dx, dy, board }) => {
    const turned = orbited(camera, pivot, { yaw: -dx * TURN, tilt: -dy * TURN });
    if (pointsOf(camera) === 3) return turned;
    // Upright lines stay upright: the lens is shifted.
    return withPoints(turned, 2, pivot, boxMiddle(windowOf(board.session.page, camera)));
  },
  move: ({ camera, pivot, dx, dy, board }) => {
    const px = scaleAt(camera, pivot) / zoomOf(board.picture.view);
    return movedCamera(camera, [-dx * px, -dy * px, 0]);
  },
  dolly: ({ camera, pivot, dy }) => {
    const by = Math.exp(dy * WAY);
    return { look: camera.look, eye: sum(pivot, scaled(minus(camera.eye, pivot), by)) };
  },
  turn: ({ camera, dx, dy }) => turnedEye(camera, { yaw: -dx * TURN * 0.5, tilt: dy * TURN * 0.5 }),
  roll: ({ camera, dx }) => turnedEye(camera, { roll: dx * TURN * 0.5 }),
};

/** Turns the camera in hand as a drag goes; it is kept when the hand lifts. */
export function beginCamera(board: Board, view: SetView, { place }: Press): Gesture | undefined {
  const { page } = board.session;
  const camera = cameraInHand(page);
  if (!camera) return refuse(board.notice, 'There is no set on this page yet: build one first.');
  const { cameraDeed } = useSets.getState();
  const pivot = pivotOf(board, camera);
  // What lies behind the eye is no place to go round.
  const isAhead = carriedBy(viewOf(camera).map, pivot)[2] > 0.5;
  const about: Vector = isAhead ? pivot : sum(camera.eye, scaled(ahead(camera), 5));
  const { view: shown } = board.picture;
  const start = place;
  let eye: Eye | undefined;
  return {
    move: (samples) => {
      const to = samples.at(-1);
      if (!to) return;
      const [dx, dy] = [
        shown[0] * to.x + shown[2] * to.y + shown[4] - start.x,
        shown[1] * to.x + shown[3] * to.y + shown[5] - start.y,
      ];
      if (!eye && Math.hypot(dx, dy) < 3) return;
      eye = TURNS[cameraDeed]({ camera, pivot: about, dx, dy, board });
      view.hold({ camera: { id: camera.id, eye } });
    },
    end: () => {
      if (!eye) return;
      const kept = eye;
      void keepTurned(board, camera.id, kept, `${CAMERA_LABELS[cameraDeed]} the camera`).finally(() => view.hold({}));
    },
    cancel: () => view.hold({}),
  };
}
