import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect } from 'react';
import { KEYS, request } from '../api';
import type { PageSession } from '../session';
import { useBoard } from '../board';

const REST_MS = 2_500;
const WIDTH = 320;
const shown = new WeakMap<PageSession, number>();

/** Sends the shelf a picture of the page whenever it has changed, is saved and rests. */
export function useThumbnail(): void {
  const { session } = useBoard();
  const sendThumbnail = useSendThumbnail();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const plan = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void sendThumbnail(), REST_MS);
    };
    const stop = session.onState(plan);
    plan();
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [session, sendThumbnail]);
}

/** Sends the picture at once, when the shelf does not have it yet. The shelf can do without, so failing is silent. */
export function useSendThumbnail(): () => Promise<void> {
  const { session, picture } = useBoard();
  const queries = useQueryClient();
  const { id, thumbnail } = session.card;
  const { mutateAsync: put } = useMutation({
    mutationFn: ({ revision, body }: { readonly revision: number; readonly body: Blob }) =>
      request(`/pages/${id}/thumbnail?revision=${revision}`, { method: 'PUT', body }),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.shelf, refetchType: 'none' }),
  });
  return useCallback(async () => {
    const { save, revision } = session.state;
    const before = shown.get(session) ?? thumbnail ?? -1;
    if (save !== 'saved' || revision <= before) return;
    shown.set(session, revision);
    const body = await picture.thumbnail(WIDTH);
    if (body) await put({ revision, body }).catch(() => shown.set(session, before));
  }, [session, picture, thumbnail, put]);
}
