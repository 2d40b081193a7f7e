import { keptStore } from '../base';

interface Folds {
  /** Whether a fold was opened or closed by hand, by its title. */
  readonly open: Readonly<Record<string, boolean>>;
}

/** Which folds were opened or closed by hand; kept in this browser. */
export const useFolds = keptStore<Folds>({
  name: 'true-nib.open-folds',
  version: 1,
  fresh: { open: {} },
  kept: ['open'],
});

export function setFold(title: string, isOpen: boolean): void {
  useFolds.setState(({ open }) => ({ open: { ...open, [title]: isOpen } }));
}
