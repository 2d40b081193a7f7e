import { sameValue } from '@true-nib/core/gate';
import { checkRack, mergeRacks, type Rack } from '@true-nib/core/rack';
import { onlineManager, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { KEYS, requestJson } from '../api';
import { useRack } from './rackStore';

const PAUSE_MS = 700;
const MOST_TRIES = 5;

interface KeptRack {
  readonly revision: number;
  readonly nibs: Rack | undefined;
}

interface Answer {
  readonly revision: number;
  readonly nibs: unknown;
  /** Whether the rack that was sent is the one that is kept now. */
  readonly isKept?: boolean;
}

const keptIn = ({ revision, nibs }: Answer): KeptRack => ({
  revision,
  nibs: nibs === null ? undefined : checkRack(nibs),
});

const fetchRack = async (): Promise<KeptRack> => keptIn(await requestJson<Answer>('/rack'));

/** Puts what the server has beneath what was changed here since. */
function take({ revision, nibs }: KeptRack): void {
  const { rack, base } = useRack.getState();
  if (!nibs) return void useRack.setState({ revision });
  useRack.setState({ rack: mergeRacks(base, rack, nibs), base: nibs, revision });
}

/** Sends the rack as it is now. A server that has another one meanwhile answers with it. */
async function sendRack(): Promise<KeptRack | undefined> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const { rack, revision } = useRack.getState();
    const answer = await requestJson<Answer>('/rack', 'PUT', { since: revision, nibs: rack });
    if (!answer.isKept) {
      take(keptIn(answer));
      continue;
    }
    useRack.setState({ base: rack, revision: answer.revision });
    return { revision: answer.revision, nibs: rack };
  }
  return undefined;
}

const isSent = (): boolean => {
  const { rack, base, revision } = useRack.getState();
  return revision > 0 && sameValue(rack, base);
};

/** Keeps the rack on the server while a board is open; what cannot be sent stays here and goes the next time. */
export function useKeptRack(): void {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: KEYS.rack, queryFn: fetchRack });
  const { mutate: send } = useMutation({
    mutationFn: sendRack,
    scope: { id: 'rack' },
    onSuccess: (kept) => kept && queries.setQueryData(KEYS.rack, kept),
  });
  useEffect(() => {
    // What was asked for before the rack was sent last comes too late.
    if (data && (data.revision === 0 || data.revision > useRack.getState().revision)) take(data);
  }, [data]);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const now = () => {
      if (!isSent()) send();
    };
    const soon = () => {
      clearTimeout(timer);
      timer = setTimeout(now, PAUSE_MS);
    };
    const stop = useRack.subscribe((state, before) => {
      if (state.rack !== before.rack || state.revision !== before.revision) soon();
    });
    const deaf = onlineManager.subscribe((isOnline) => isOnline && soon());
    soon();
    return () => {
      clearTimeout(timer);
      stop();
      deaf();
      now();
    };
  }, [send]);
}
