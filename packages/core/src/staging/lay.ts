import { PageError } from '../gate';
import type { EntityId } from '../kind';
import { boxOfFlat, lengthOfVector, minus, turnedBack, type Box } from '../math';
import {
  byOrder,
  draftChange,
  find,
  freeName,
  ofKind,
  orderBetween,
  ordersBetween,
  type Change,
  type Edit,
  type Page,
} from '../page';
import {
  cameraFromFrame,
  firstCamera,
  type BlockEntity,
  type BlockPlace,
  type BlockShape,
  type CameraEntity,
  type Eye,
  type SetEntity,
  SHAPES,
} from '../set';
import type { FrameShape } from '../guides';

/** The sets of a page in the order of their list. */
export const setsOn = (page: Page): SetEntity[] => ofKind(page, 'set').sort(byOrder);

/** The blocks of a set in the order of their list. */
export const blocksOf = (page: Page, setId: EntityId): BlockEntity[] =>
  ofKind(page, 'block')
    .filter((block) => block.setId === setId)
    .sort(byOrder);

/** The cameras of a set in the order of their list. */
export const camerasOf = (page: Page, setId: EntityId): CameraEntity[] =>
  ofKind(page, 'camera')
    .filter((camera) => camera.setId === setId)
    .sort(byOrder);

/** Light from the right, over the shoulder of whoever looks. */
const LIGHT = { round: -1.1, above: 0.9 } as const;

/** The part of a page that a camera is for, page px: its panel, or all of it. */
export function windowOf(page: Page, { panelId }: Pick<CameraEntity, 'panelId'>): Box {
  const panel = panelId === undefined ? undefined : find(page, 'panel', panelId);
  return panel ? boxOfFlat(panel.ring.points, 3) : { minX: 0, minY: 0, maxX: page.size.width, maxY: page.size.height };
}

/** Lays a set on a page, with a camera that looks at nothing yet: as a frame of the page sees, where one is given. */
export function laySet(page: Page, newId: () => EntityId, frame?: FrameShape, panelId?: EntityId): Change {
  const name = freeName(
    setsOn(page).map((set) => set.name),
    'Set',
  );
  const set: SetEntity = {
    ...{ kind: 'set', id: newId(), name, light: LIGHT },
    order: orderBetween(setsOn(page).at(-1)?.order, undefined),
  };
  const camera: CameraEntity = {
    ...{ kind: 'camera', id: newId(), setId: set.id, order: orderBetween(undefined, undefined), name: 'Camera' },
    ...(frame ? matched(firstEye(page, panelId), frame, page) : firstEye(page, panelId)),
    ...{ seen: true, opacity: 0.6, ...(panelId !== undefined && { panelId }) },
  };
  return draftChange(
    'New set',
    [set, camera].map((after): Edit => ({ before: null, after })),
  );
}

function firstEye(page: Page, panelId: EntityId | undefined): Eye {
  const { minX, minY, maxX, maxY } = windowOf(page, panelId === undefined ? {} : { panelId });
  const { eye, look } = firstCamera({ width: maxX - minX, height: maxY - minY });
  return { eye, look: { ...look, centre: { x: look.centre.x + minX, y: look.centre.y + minY } } };
}

/**
 * A camera that sees as a frame says, with the corner of the frame where the set's origin is, as far from it as before.
 * Throws a PageError where the frame has no camera.
 */
export function matched(camera: Eye, frame: FrameShape, page: Page, like?: Eye): Eye {
  const look = cameraFromFrame(frame, page.size, like?.look);
  const { corner } = frame;
  const [x, y] = [corner.x - look.centre.x, corner.y - look.centre.y];
  const far = Math.max(1, lengthOfVector(camera.eye)) / Math.hypot(x / look.focal, y / look.focal, 1);
  const turn = { axes: [look.axes.right, look.axes.left, look.axes.height] as const, at: [0, 0, 0] as const };
  const seen = [(x * far) / look.focal, (y * far) / look.focal, far] as const;
  return { look, eye: minus([0, 0, 0], turnedBack(turn, seen)) };
}

/** A block, laid in a set. */
export function layBlock(page: Page, setId: EntityId, id: EntityId, shape: BlockShape, place: BlockPlace): Change {
  if (!find(page, 'set', setId)) throw new PageError('This set is no longer on the page.');
  const blocks = blocksOf(page, setId);
  const { label } = SHAPES[shape.kind];
  const block: BlockEntity = {
    ...{ kind: 'block', id, setId, shape, ...place, hidden: false, locked: false, lines: 'all' },
    order: orderBetween(blocks.at(-1)?.order, undefined),
    name: freeName(
      blocks.map(({ name }) => name),
      label,
    ),
  };
  return draftChange(label, [{ before: null, after: block }]);
}

/** Adds blocks to the end of the list of their set. */
export function addBlocks(
  page: Page,
  setId: EntityId,
  blocks: readonly Omit<BlockEntity, 'id'>[],
  newId: () => EntityId,
  label: string,
): Change {
  const standing = blocksOf(page, setId);
  const orders = ordersBetween(standing.at(-1)?.order, undefined, blocks.length);
  const groups = new Map<EntityId, EntityId>();
  const names = standing.map(({ name }) => name);
  return draftChange(
    label,
    blocks.map((block, k): Edit => {
      const name = freeName(names, block.name);
      names.push(name);
      const group = block.group === undefined ? undefined : (groups.get(block.group) ?? newId());
      if (block.group !== undefined && group !== undefined) groups.set(block.group, group);
      return {
        before: null,
        after: { ...block, id: newId(), setId, order: orders[k], name, ...(group !== undefined && { group }) },
      };
    }),
  );
}

/** Changes blocks of a page; those that are locked stay as they are. Throws a PageError where all are. */
export function changeBlocks(
  page: Page,
  ids: readonly EntityId[],
  label: string,
  change: (block: BlockEntity) => BlockEntity,
): Change {
  const blocks = ids.flatMap((id) => find(page, 'block', id) ?? []);
  if (blocks.length === 0) throw new PageError('Choose a block first.');
  const free = blocks.filter(({ locked }) => !locked);
  if (free.length === 0)
    throw new PageError(blocks.length === 1 ? `${blocks[0].name} is locked.` : 'All these blocks are locked.');
  return draftChange(
    label,
    free.map((before): Edit => ({ before, after: change(before) })),
  );
}

/** Takes blocks away. */
export function removeBlocks(page: Page, ids: readonly EntityId[]): Change {
  const blocks = ids.flatMap((id) => find(page, 'block', id) ?? []).filter(({ locked }) => !locked);
  if (blocks.length === 0) throw new PageError('Choose a block that is not locked.');
  return draftChange(
    blocks.length === 1 ? `Delete ${blocks[0].name}` : `Delete ${blocks.length} blocks`,
    blocks.map((before): Edit => ({ before, after: null })),
  );
}

/** Takes a set away with its blocks and cameras. Lines that were pulled stay, and follow nothing any more. */
export function removeSet(page: Page, setId: EntityId): Change {
  const set = find(page, 'set', setId);
  if (!set) throw new PageError('This set is no longer on the page.');
  return draftChange(
    `Delete ${set.name}`,
    [...blocksOf(page, setId), ...camerasOf(page, setId), set].map((before): Edit => ({ before, after: null })),
  );
}

/** The blocks that are meant with some: all of their groups. */
export function withGroups(blocks: readonly BlockEntity[], ids: readonly EntityId[]): EntityId[] {
  const groups = new Set(blocks.flatMap(({ id, group }) => (group !== undefined && ids.includes(id) ? [group] : [])));
  return blocks
    .filter(({ id, group }) => ids.includes(id) || (group !== undefined && groups.has(group)))
    .map(({ id }) => id);
}

/** One more camera of a set, where another one stands. */
export function addCamera(page: Page, camera: CameraEntity, id: EntityId, panelId?: EntityId): Change {
  const cameras = camerasOf(page, camera.setId);
  const { frameId: _frame, pulled: _pulled, panelId: _panel, ...rest } = camera;
  const after: CameraEntity = {
    ...rest,
    id,
    order: orderBetween(cameras.at(-1)?.order, undefined),
    name: freeName(
      cameras.map(({ name }) => name),
      camera.name,
    ),
    ...(panelId !== undefined && { panelId }),
  };
  return draftChange('New camera', [{ before: null, after }]);
}
