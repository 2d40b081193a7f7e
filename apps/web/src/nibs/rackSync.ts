import { sameValue } from '@true-nib/core/gate';
import { checkRack, mergeRacks, type Rack } from '@true-nib/core/rack';
import { request } from '../api';
import { useRack } from './rackStore';

const PAUSE_MS = 700;

interface KeptRack {
  readonly revision: number;
  readonly nibs: Rack | undefined;
}

async function kept(response: Response): Promise<KeptRack> {
  const answer: unknown = await response.json();
  if (typeof answer !== 'object' || answer === null || !('revision' in answer)) throw new Error('No rack came.');
  const nibs = 'nibs' in answer && answer.nibs !== null ? checkRack(answer.nibs) : undefined;
  return { revision: Number(answer.revision), nibs };
}

/** Puts what the server has beneath what was changed here since. */
function take({ revision, nibs }: KeptRack): void {
  const { rack, base } = useRack.getState();
  if (!nibs) return void useRack.setState({ revision });
  useRack.setState({ rack: mergeRacks(base, rack, nibs), base: nibs, revision });
}

/** Sends the rack as it is now. A server that has another one meanwhile answers with it. */
async function send(): Promise<void> {
  for (let tries = 0; tries < 5; tries++) {
    const { rack, revision } = useRack.getState();
    const response = await request(
      '/rack',
      {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ since: revision, nibs: rack }),
      },
      [409],
    );
    const answer = await kept(response);
    if (response.status === 409) take(answer);
    else return void useRack.setState({ base: rack, revision: answer.revision });
  }
}

const isSent = (): boolean => {
  const { rack, base, revision } = useRack.getState();
  return revision > 0 && sameValue(rack, base);
};

/** Keeps the rack on the server while a board is open; what cannot be sent stays here and goes the next time. */
export function keepRack(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isGone = false;
  const soon = () => {
    clearTimeout(timer);
    timer = setTimeout(() => void (isSent() || send().catch(() => undefined)), PAUSE_MS);
  };
  void request('/rack')
    .then(kept)
    .then((answer) => {
      if (isGone) return;
      if (answer.revision !== useRack.getState().revision || answer.revision === 0) take(answer);
      soon();
    })
    .catch(() => undefined);
  const stop = useRack.subscribe((now, before) => {
    if (now.rack !== before.rack) soon();
  });
  window.addEventListener('online', soon);
  return () => {
    isGone = true;
    clearTimeout(timer);
    stop();
    window.removeEventListener('online', soon);
    if (!isSent()) void send().catch(() => undefined);
  };
}
