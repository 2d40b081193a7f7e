import type { EntityId } from '@true-nib/core/kind';
import type { Matrix3x3 } from '@true-nib/core/math';
import type { TakenPixels } from './washWork';

/** What is done to the pixels of wash layers, as a worker can do it. */
export type WashDeed =
  | { readonly deed: 'marks'; readonly ids: readonly EntityId[] }
  | { readonly deed: 'fill'; readonly color: string }
  | { readonly deed: 'clear' }
  | { readonly deed: 'move'; readonly map: Matrix3x3; readonly targetId: EntityId }
  | { readonly deed: 'paste'; readonly taken: TakenPixels }
  | { readonly deed: 'merge'; readonly layerIds: readonly EntityId[] }
  /** Heaps of fewer px go. */
  | { readonly deed: 'drop-specks'; readonly most: number }
  /** What an Ink layer shows becomes pixels. */
  | { readonly deed: 'ink'; readonly from: EntityId };
