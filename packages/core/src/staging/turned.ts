import { PageError } from '../gate';
import type { FrameShape, GuideEntity } from '../guides';
import type { EntityId } from '../kind';
import { draftChange, find, freeName, ofKind, orderBetween, type Change, type Edit, type Page } from '../page';
import { frameOf, type CameraEntity, type Eye } from '../set';
import { tetheredEdits } from '../tethers';

/** What turning a camera does to a page: the camera, the frame that follows it, and what is tethered to that. */
export function turnEdits(page: Page, camera: CameraEntity, { eye, look }: Eye): Edit[] {
  const edits: Edit[] = [{ before: camera, after: { ...camera, eye, look } }];
  const guide = camera.frameId === undefined ? undefined : find(page, 'guide', camera.frameId);
  if (!guide || guide.locked || guide.shape.kind !== 'frame') return edits;
  const seen = frameOf({ eye, look }, page.size);
  const { asleep, names, grids, fixed } = guide.shape;
  const shape: FrameShape = { ...seen, asleep, grids, fixed, ...(names && { names }) };
  return [...edits, { before: guide, after: { ...guide, shape } }, ...tetheredEdits(page, guide, shape)];
}

/** Hands the frame of what a camera sees to the page: it follows the camera until it is let go. */
export function handFrame(page: Page, cameraId: EntityId, newId: () => EntityId): Change {
  const camera = find(page, 'camera', cameraId);
  if (!camera) throw new PageError('This camera is no longer on the page.');
  const guides = ofKind(page, 'guide');
  const last = guides
    .map(({ order }) => order)
    .sort()
    .at(-1);
  const set = find(page, 'set', camera.setId);
  const guide: GuideEntity = {
    ...{ kind: 'guide', id: newId(), seen: true, acting: true, locked: false, tethers: true, reach: 'all' },
    ...{ order: orderBetween(last, undefined), hue: guides.length % 6, shape: frameOf(camera, page.size) },
    name: freeName(
      guides.map(({ name }) => name),
      `Frame of ${set?.name ?? camera.name}`,
    ),
    ...(camera.panelId !== undefined && { panelId: camera.panelId }),
  };
  return draftChange('Frame of the camera', [
    { before: null, after: guide },
    { before: camera, after: { ...camera, frameId: guide.id } },
  ]);
}

/** Lets the frame of a camera go: it stays where it is from then on. */
export function letFrameGo(page: Page, cameraId: EntityId): Change {
  const camera = find(page, 'camera', cameraId);
  if (!camera) throw new PageError('This camera is no longer on the page.');
  const { frameId: _gone, ...after } = camera;
  return draftChange('Let the frame go', [{ before: camera, after }]);
}
