import { useEffect } from 'react';
import { request } from '../api';
import type { BoardPicture } from '../render';
import type { PageSession } from '../session';
import { useBoard } from '../board';

const REST_MS = 2_500;
const WIDTH = 320;
const shown = new WeakMap<PageSession, number>();

/** Sends the shelf a picture of the page whenever it has changed, is saved and rests. */
export function useThumbnail(): void {
  const { session, picture } = useBoard();
  useEffect(() => {
    shown.set(session, session.card.thumbnail ?? -1);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const plan = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void sendThumbnail({ session, picture }), REST_MS);
    };
    const stop = session.onState(plan);
    plan();
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [session, picture]);
}

/** Sends the picture now, when the shelf does not have it yet. The shelf can do without, so failing is silent. */
export async function sendThumbnail({
  session,
  picture,
}: {
  readonly session: PageSession;
  readonly picture: BoardPicture;
}): Promise<void> {
  const { save, revision } = session.state;
  const before = shown.get(session) ?? -1;
  if (save !== 'saved' || revision <= before) return;
  shown.set(session, revision);
  const body = await picture.thumbnail(WIDTH);
  if (body)
    await request(`/pages/${session.card.id}/thumbnail?revision=${revision}`, { method: 'PUT', body }).catch(() =>
      shown.set(session, before),
    );
}
