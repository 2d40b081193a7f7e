import { create } from 'zustand';

/** Which file is made of the page. */
export interface DeliverChoice {
  readonly deliverAs: 'png' | 'svg';
  /** 1, 0.5 or 0.25 of the page's px. */
  readonly deliverScale: number;
  readonly deliverRough: boolean;
  /** A PNG of black and white alone. */
  readonly isOneBit: boolean;
}

export const useDeliverChoice = create<DeliverChoice>()(() => ({
  deliverAs: 'png',
  deliverScale: 1,
  deliverRough: false,
  isOneBit: false,
}));
