import { useQuery } from '@tanstack/react-query';
import { indexedDbOutbox } from '../session/outbox';
import { sendLeft } from '../session/sendLeft';
import { httpTransport } from '../session/transport';

const AGAIN_MS = 10_000;
const nothing: ReadonlyMap<string, number> = new Map();

/** Sends what earlier visits to pages left in this browser. Answers how many changes still wait here, by page. */
export function useLeft(): ReadonlyMap<string, number> {
  const { data } = useQuery({
    queryKey: ['left'],
    queryFn: () => sendLeft({ transport: httpTransport, outbox: indexedDbOutbox }),
    refetchOnMount: 'always',
    refetchInterval: ({ state }) => (state.data?.size ? AGAIN_MS : false),
  });
  return data ?? nothing;
}
