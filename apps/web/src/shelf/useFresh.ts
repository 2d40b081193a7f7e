import { useFocusEffect } from 'expo-router';
import { useCallback } from 'react';

/** Asks again whenever a screen comes to the front: what lay over it may have changed what it shows. */
export function useFresh(refetch: (how: { readonly cancelRefetch: boolean }) => unknown): void {
  useFocusEffect(
    useCallback(() => {
      // What is being asked for already will do.
      void refetch({ cancelRefetch: false });
    }, [refetch]),
  );
}
