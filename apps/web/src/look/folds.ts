import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { keptHere } from '../base/keptHere';

/** Which folds were opened or closed by hand, by their titles; kept in this browser. */
export const useFolds = create<Readonly<Record<string, boolean>>>()(
  persist(() => ({}), { name: 'true-nib.folds', version: 1, storage: createJSONStorage(() => keptHere) }),
);

export const setFold = (title: string, isOpen: boolean): void => void useFolds.setState({ [title]: isOpen });
