import { paperOf } from '@true-nib/core/page';
import type { Nib } from '@true-nib/core/nib';
import { nibAt, type RackNib } from '@true-nib/core/rack';
import { useMemo } from 'react';
import { useBoard, usePage } from '../board';
import { nibInHand, useRack } from './rackStore';

/** The nib in hand as it lies in the rack. */
export const useRackNib = (): RackNib => useRack(nibInHand);

/** A nib of the rack as it draws on the open page; the one in hand when none is named. */
export function useNib(rackNib?: RackNib): Nib {
  const inHand = useRackNib();
  const page = usePage(useBoard());
  const [one, paper] = [rackNib ?? inHand, paperOf(page) ?? '#ffffff'];
  const { ppi } = page.size;
  // The same value while nothing of it changes: previews are drawn anew for another one.
  return useMemo(() => nibAt(one, ppi, paper), [one, ppi, paper]);
}
