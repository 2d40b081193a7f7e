import { useFocusEffect } from 'expo-router';
import { useCallback } from 'react';

/** Names the screen in front in the browser's tab and its history. */
export function useTitle(title: string | undefined): void {
  useFocusEffect(
    useCallback(() => {
      document.title = title === undefined ? 'True Nib' : `${title} · True Nib`;
    }, [title]),
  );
}
