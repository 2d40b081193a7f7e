import type { EntityId } from '@true-nib/core/kind';
import { find, type Page } from '@true-nib/core/page';
import { blocksOf, camerasOf, setsOn } from '@true-nib/core/staging';
import { solidsOf, type BlockEntity, type CameraEntity, type SetEntity, type StandingBlock } from '@true-nib/core/set';
import { useBoard, usePage, type Board } from '../../board';
import { useSets } from './setStore';

/** The set in hand: the one that was chosen, or the last of the page. */
export function setInHand(page: Page, setId = useSets.getState().setId): SetEntity | undefined {
  return (setId === undefined ? undefined : find(page, 'set', setId)) ?? setsOn(page).at(-1);
}

/** The camera in hand: the one that was chosen where it looks at the set in hand, or the first of that. */
export function cameraInHand(page: Page, cameraId = useSets.getState().cameraId): CameraEntity | undefined {
  const set = setInHand(page);
  if (!set) return undefined;
  const chosen = cameraId === undefined ? undefined : find(page, 'camera', cameraId);
  if (chosen?.setId === set.id) return chosen;
  const cameras = camerasOf(page, set.id);
  return cameras.find(({ seen }) => seen) ?? cameras[0];
}

/** The blocks that are chosen and still there. */
export const chosenOn = (page: Page, chosen: readonly EntityId[] = useSets.getState().chosen): BlockEntity[] =>
  chosen.flatMap((id) => find(page, 'block', id) ?? []);

/** Blocks where they stand, with the models that have come. */
export const standingOn = ({ picture }: Board, blocks: readonly BlockEntity[]): StandingBlock[] =>
  solidsOf(blocks, picture.besides.sets.models);

interface InHand {
  readonly page: Page;
  readonly set: SetEntity | undefined;
  readonly camera: CameraEntity | undefined;
  readonly cameras: readonly CameraEntity[];
  readonly blocks: readonly BlockEntity[];
  readonly chosen: readonly BlockEntity[];
}

/** What is in hand about sets, for what shows it. */
export function useSetInHand(): InHand {
  const page = usePage(useBoard());
  const setId = useSets((state) => state.setId);
  const cameraId = useSets((state) => state.cameraId);
  const ids = useSets((state) => state.chosen);
  const set = setInHand(page, setId);
  return {
    ...{ page, set, camera: cameraInHand(page, cameraId) },
    cameras: set ? camerasOf(page, set.id) : [],
    blocks: set ? blocksOf(page, set.id) : [],
    chosen: chosenOn(page, ids),
  };
}
