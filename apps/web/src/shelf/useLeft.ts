import { useQuery } from '@tanstack/react-query';
import { useIsFocused } from 'expo-router';
import { KEYS } from '../api';
import { indexedDbOutbox, sendLeft, httpTransport } from '../session';

const AGAIN_MS = 10_000;
const nothing: ReadonlyMap<string, number> = new Map();

/** Sends what earlier visits to pages left in this browser. Answers how many changes still wait here, by page. */
export function useLeft(): ReadonlyMap<string, number> {
  const { data } = useQuery({
    queryKey: KEYS.left,
    queryFn: () => sendLeft({ transport: httpTransport, outbox: indexedDbOutbox }),
    // A shelf that lies under an open page leaves the hand alone: the page sends its own.
    enabled: useIsFocused(),
    refetchOnMount: 'always',
    refetchInterval: ({ state }) => (state.data?.size ? AGAIN_MS : false),
  });
  return data ?? nothing;
}
