import { create } from 'zustand';
import type { EntityId } from '@true-nib/core/kind';

/** The toned area that is in hand: its settings are shown, and drags in it move its screen. */
export const useToneInHand = create<{ readonly id: EntityId | undefined }>(() => ({ id: undefined }));
