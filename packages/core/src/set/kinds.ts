import { flag, id, list, number, oneOf, optional, PageError, record, text, within, type Fields } from '../gate';
import type { Camera } from '../guides';
import type { Kind } from '../kind';
import { cross, dot, lengthOfVector, type Vector } from '../math';
import { checkNib, type Nib } from '../nib';
import { BLOCK_LIMITS, checkShape } from './blocks/table';
import {
  LINE_SORTS,
  LINES_OF_BLOCK,
  type BlockEntity,
  type CameraEntity,
  type FaceMark,
  type LineSort,
  type Pulled,
  type PullSettings,
  type SetEntity,
} from './types';

const { most } = BLOCK_LIMITS.length;
const MOST = { blocks: 2_000, sets: 50, cameras: 200, marks: 500, places: 6_000 } as const;
/** Page px. */
const FOCAL = { least: 1, most: 1e7 } as const;
const PLACE = 1e7;
/** How far axes may be from square and of length 1. */
const SQUARE = 1e-6;

/** What a set is. */
export const setKind: Kind<SetEntity> = {
  isMany: false,
  most: { count: MOST.sets, inWords: `A page holds at most ${MOST.sets} sets.` },
  check: (fields) => {
    const light = record(fields.light, 'Light');
    return {
      kind: 'set',
      id: id(fields.id, 'id'),
      order: id(fields.order, 'order'),
      name: text(fields.name, 'name'),
      light: {
        round: number(light.round, 'round', -10, 10),
        above: number(light.above, 'above', -Math.PI / 2, Math.PI / 2),
      },
    };
  },
  refs: () => ({}),
  remap: (set, copyId) => ({ ...set, id: copyId }),
};

/** What a block is: it stands in a set, and a model's bytes are a blob. */
export const blockKind: Kind<BlockEntity> = {
  isMany: false,
  most: {
    count: MOST.blocks,
    inWords: `A page holds at most ${MOST.blocks} blocks. Delete some, or hide a set away in the library.`,
  },
  check: checkBlock,
  refs: ({ setId, shape, group }) => ({
    needs: [setId],
    ...(group !== undefined && { shares: [group] }),
    ...(shape.kind === 'mesh' && { blobs: [{ sha256: shape.blob, as: 'model' as const }] }),
  }),
  remap: (block, copyId, renamed) => ({
    ...block,
    id: copyId,
    setId: renamed(block.setId),
    ...(block.group !== undefined && { group: renamed(block.group) }),
  }),
};

/** What a camera is: it looks at a set. The panel in which it is seen, its frame and the layer of its lines may be gone. */
export const cameraKind: Kind<CameraEntity> = {
  isMany: false,
  most: { count: MOST.cameras, inWords: `A page holds at most ${MOST.cameras} cameras.` },
  check: checkCamera,
  refs: ({ setId, panelId, frameId, pulled }) => ({
    needs: [setId],
    knows: [panelId, frameId, pulled?.layerId].filter((known) => known !== undefined),
  }),
  remap: (camera, copyId, renamed) => ({
    ...camera,
    id: copyId,
    setId: renamed(camera.setId),
    ...(camera.panelId !== undefined && { panelId: renamed(camera.panelId) }),
    ...(camera.frameId !== undefined && { frameId: renamed(camera.frameId) }),
    ...(camera.pulled && { pulled: { ...camera.pulled, layerId: renamed(camera.pulled.layerId) } }),
  }),
};

function vector(value: unknown, name: string, far: number): Vector {
  const [x, y, z] = list(value, name, 3);
  return [number(x, name, -far, far), number(y, name, -far, far), number(z, name, -far, far)];
}

function checkBlock(fields: Fields): BlockEntity {
  const [x, y, z, w] = list(fields.turn, 'turn', 4).map((value) => number(value, 'turn', -2, 2));
  const size = Math.hypot(x, y, z, w);
  if (!(Math.abs(size - 1) < SQUARE)) throw new PageError('"turn" needs a quaternion of length 1.');
  return {
    kind: 'block',
    id: id(fields.id, 'id'),
    setId: id(fields.setId, 'setId'),
    order: id(fields.order, 'order'),
    name: text(fields.name, 'name'),
    shape: checkShape(fields.shape),
    at: vector(fields.at, 'at', most),
    turn: [x, y, z, w],
    hidden: flag(fields.hidden, 'hidden'),
    locked: flag(fields.locked, 'locked'),
    lines: oneOf(fields.lines, 'lines', LINES_OF_BLOCK),
    ...optional(fields, 'group', id),
    ...optional(fields, 'marks', (value) => list(value, 'marks', MOST.marks).map(checkMark)),
  };
}

function checkMark(value: unknown): FaceMark {
  const { course } = record(value, 'A mark');
  const places = list(course, 'course', 3 * MOST.places).map((one) => number(one, 'course', -most, most));
  if (places.length < 6 || places.length % 3 !== 0)
    throw new PageError('A mark needs two places or more, x, y and z in turn.');
  return { course: places };
}

function checkCamera(fields: Fields): CameraEntity {
  return {
    kind: 'camera',
    id: id(fields.id, 'id'),
    setId: id(fields.setId, 'setId'),
    order: id(fields.order, 'order'),
    name: text(fields.name, 'name'),
    eye: vector(fields.eye, 'eye', 10 * most),
    look: checkLook(fields.look),
    seen: flag(fields.seen, 'seen'),
    opacity: number(fields.opacity, 'opacity', 0, 1),
    ...optional(fields, 'panelId', id),
    ...optional(fields, 'frameId', id),
    ...optional(fields, 'pulled', checkPulled),
  };
}

function checkLook(value: unknown): Camera {
  const fields = record(value, 'A look');
  const centre = record(fields.centre, 'A centre');
  const axes = record(fields.axes, 'Axes');
  const [right, left, height] = [axes.right, axes.left, axes.height].map((axis) => vector(axis, 'axes', 2));
  const isSquare =
    [right, left, height].every((axis) => Math.abs(lengthOfVector(axis) - 1) < SQUARE) &&
    Math.abs(dot(right, left)) < SQUARE &&
    dot(cross(right, left), height) > 1 - SQUARE;
  if (!isSquare)
    throw new PageError('The axes of a camera are three unit vectors at right angles that turn as x, y, z do.');
  return {
    centre: { x: number(centre.x, 'x', -PLACE, PLACE), y: number(centre.y, 'y', -PLACE, PLACE) },
    focal: number(fields.focal, 'focal', FOCAL.least, FOCAL.most),
    // As they came, to the last digit: what a tab has and what the server has must be the same.
    axes: { right, left, height },
  };
}

function checkPulled(value: unknown): Pulled {
  const fields = record(value, 'What is pulled');
  return { settings: checkPullSettings(fields.settings), layerId: id(fields.layerId, 'layerId') };
}

/** Settings for pulling lines. Throws a PageError that names the field. */
export function checkPullSettings(value: unknown): PullSettings {
  const fields = record(value, 'Settings of lines');
  const given = record(fields.nibs, 'nibs');
  const nibs: Partial<Record<LineSort, Nib>> = {};
  for (const sort of LINE_SORTS) if (given[sort] !== undefined) nibs[sort] = checkNib(given[sort]);
  return {
    nibs,
    crease: within(0, Math.PI)(fields.crease, 'crease'),
    fall: within(0, 2)(fields.fall, 'fall'),
    over: within(-200, 200)(fields.over, 'over'),
    halo: within(0, 200)(fields.halo, 'halo'),
    dash: within(0.5, 2_000)(fields.dash, 'dash'),
  };
}

/** The turn of a block about z, radians. */
export const turnedRound = (angle: number): BlockEntity['turn'] => [0, 0, Math.sin(angle / 2), Math.cos(angle / 2)];
