import type { Frame } from '@true-nib/core/select';
import { useSyncExternalStore } from 'react';
import { useBoard } from '../boardContext';

interface FrameState {
  readonly frame: Frame | undefined;
  readonly size: number;
  readonly isPixels: boolean;
  readonly isPending: boolean;
}

/** The frame of what is selected, as it changes. */
export function useFrame(): FrameState {
  const { selection } = useBoard();
  const listen = (listener: () => void) => selection.onChange(listener);
  const frame = useSyncExternalStore(listen, () => selection.frame);
  const size = useSyncExternalStore(listen, () => selection.size);
  const isPending = useSyncExternalStore(listen, () => selection.isPending);
  return { frame, size, isPixels: selection.isPixels, isPending };
}
