import { list, PageError, record, text } from '../gate';
import type { EntityId } from '../kind';
import { blockKind, cameraKind, setKind, type BlockEntity, type CameraEntity, type SetEntity } from '../set';
import { draftChange, find, freeName, orderBetween, ordersBetween, type Change, type Edit, type Page } from '../page';
import { blocksOf, camerasOf, setsOn, windowOf } from './lay';

/** Marks a file as a set of ours, and which form of it. */
const FORMAT = 'true-nib-set';
const VERSION = 1;
const MOST = { blocks: 2_000, cameras: 200 } as const;

/**
 * A set as it is kept in the library and in files: plain JSON. Places of cameras are shares of the width of the part of a page
 * that they were for, so that they fit a page of any size. Bytes of models are kept beside it, by their SHA-256.
 */
export interface SetFile {
  readonly format: typeof FORMAT;
  readonly version: typeof VERSION;
  readonly set: SetEntity;
  readonly blocks: readonly BlockEntity[];
  readonly cameras: readonly CameraEntity[];
  /** The bytes of its models, base64, by their SHA-256; only in files. */
  readonly models?: Readonly<Record<string, string>>;
}

/** A set of a page as a file. Throws a PageError when it is gone. */
export function setFileOf(page: Page, setId: EntityId): SetFile {
  const set = find(page, 'set', setId);
  if (!set) throw new PageError('This set is no longer on the page.');
  const cameras = camerasOf(page, setId).map((camera) => {
    const { minX, minY, maxX } = windowOf(page, camera);
    const { panelId: _panel, frameId: _frame, pulled: _pulled, ...rest } = camera;
    return scaledCamera(rest, 1 / (maxX - minX), -minX, -minY);
  });
  return { format: FORMAT, version: VERSION, set, blocks: blocksOf(page, setId), cameras };
}

/** Page px of a camera moved, then scaled; a focal length of 1 is as long as the picture is wide. */
function scaledCamera(camera: CameraEntity, by: number, dx: number, dy: number): CameraEntity {
  const { centre, focal, axes } = camera.look;
  const look = { centre: { x: (centre.x + dx) * by, y: (centre.y + dy) * by }, focal: focal * by, axes };
  return { ...camera, look };
}

/** px that the pictures of cameras are wide in a file, so that they pass the gate of cameras. */
const WIDE = 1000;

/** A file as text. */
export const setFileText = (file: SetFile): string =>
  JSON.stringify({ ...file, cameras: file.cameras.map((camera) => scaledCamera(camera, WIDE, 0, 0)) });

/** The set in the text of a file. Throws a PageError that says what is wrong. */
export function readSetFile(source: string): SetFile {
  let value: unknown;
  try {
    value = JSON.parse(source);
  } catch {
    throw new PageError('This file is no set: its text cannot be read.');
  }
  return checkSetFile(value);
}

/** The set in a value from outside. Throws a PageError that names the field. */
export function checkSetFile(value: unknown): SetFile {
  const fields = record(value, 'A set');
  if (fields.format !== FORMAT) throw new PageError('This file is no set of True Nib.');
  if (fields.version !== VERSION) throw new PageError('This set was kept by a later version of True Nib.');
  const set = setKind.check(record(fields.set, 'A set'));
  const blocks = list(fields.blocks, 'blocks', MOST.blocks).map((block) => blockKind.check(record(block, 'A block')));
  const cameras = list(fields.cameras, 'cameras', MOST.cameras).map((camera) =>
    scaledCamera(cameraKind.check(record(camera, 'A camera')), 1 / WIDE, 0, 0),
  );
  const strange = [...blocks, ...cameras].find(({ setId }) => setId !== set.id);
  if (strange) throw new PageError(`${strange.name} belongs to another set.`);
  const models = fields.models === undefined ? undefined : record(fields.models, 'models');
  return {
    ...{ format: FORMAT, version: VERSION, set, blocks, cameras },
    ...(models && {
      models: Object.fromEntries(Object.entries(models).map(([sha, base64]) => [sha, bytesOf(base64)])),
    }),
  };
}

const bytesOf = (value: unknown): string => {
  if (typeof value !== 'string') throw new PageError('The bytes of a model are written as text.');
  return value;
};

/** What bytes a set cannot be without, by their SHA-256. */
export const modelsOf = ({ blocks }: Pick<SetFile, 'blocks'>): string[] => [
  ...new Set(blocks.flatMap(({ shape }) => (shape.kind === 'mesh' ? [shape.blob] : []))),
];

/** Lays a set from the library or a file on a page, with all its blocks and cameras; the first camera is seen. */
export function laySetFile(
  page: Page,
  { set, blocks, cameras }: SetFile,
  newId: () => EntityId,
  panelId?: EntityId,
): Change {
  if (cameras.length === 0) throw new PageError('No camera looks at this set.');
  const setId = newId();
  const groups = new Map<EntityId, EntityId>();
  const groupOf = (group: EntityId) => groups.get(group) ?? (groups.set(group, newId()), groups.get(group) ?? group);
  const name = freeName(
    setsOn(page).map((one) => one.name),
    text(set.name, 'name'),
  );
  const { minX, minY, maxX } = windowOf(page, panelId === undefined ? {} : { panelId });
  const width = maxX - minX;
  const orders = ordersBetween(undefined, undefined, Math.max(blocks.length, cameras.length));
  const laid: readonly (SetEntity | BlockEntity | CameraEntity)[] = [
    { ...set, id: setId, name, order: orderBetween(setsOn(page).at(-1)?.order, undefined) },
    ...blocks.map((block, k): BlockEntity => ({
      ...{ ...block, id: newId(), setId, order: orders[k] },
      ...(block.group !== undefined && { group: groupOf(block.group) }),
    })),
    ...cameras.map((camera, k): CameraEntity => {
      const placed = scaledCamera(camera, width, minX / width, minY / width);
      return {
        ...{ ...placed, id: newId(), setId, order: orders[k], seen: k === 0 },
        ...(panelId !== undefined && { panelId }),
      };
    }),
  ];
  return draftChange(
    `Put ${name} on the page`,
    laid.map((after): Edit => ({ before: null, after })),
  );
}
