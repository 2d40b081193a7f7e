import { useEffect, useState } from 'react';
import type { StartedInks } from '../render/startedInks';
import { author, newId } from '../session/ids';
import { indexedDbOutbox } from '../session/outbox';
import { isHeldUp, PageSession } from '../session/pageSession';
import { httpTransport } from '../session/transport';
import { startInks, takeEarlyInks } from './earlyPage';

type Opening =
  | { readonly state: 'opening' }
  | { readonly state: 'failed'; readonly reason: string; readonly retry: () => void }
  | { readonly state: 'open'; readonly session: PageSession; readonly inks: StartedInks | undefined };

/** Opens the page and keeps it abreast of what other tabs save; closes it when the screen goes. */
export function usePageSession(pageId: string): Opening {
  const [opening, setOpening] = useState<Opening>({ state: 'opening' });
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    let close = (): void => undefined;
    let isGone = false;
    let inks: StartedInks | undefined;
    PageSession.open(pageId, {
      transport: httpTransport,
      outbox: indexedDbOutbox,
      author: author(),
      newId,
      now: () => Date.now(),
      onParts: (card, parts) => {
        if (!isGone) inks = takeEarlyInks(parts) ?? startInks(card, parts);
      },
    }).then(
      (session) => {
        if (isGone) return session.close();
        const stop = keepAbreast(session);
        close = () => {
          stop();
          session.close();
        };
        setOpening({ state: 'open', session, inks });
      },
      (error: unknown) => {
        const reason = error instanceof Error ? error.message : 'Something went wrong. What was saved is safe.';
        const retry = () => {
          setOpening({ state: 'opening' });
          setAttempt((count) => count + 1);
        };
        if (!isGone) setOpening({ state: 'failed', reason, retry });
      },
    );
    return () => {
      isGone = true;
      inks?.dispose();
      close();
    };
  }, [pageId, attempt]);
  return opening;
}

let isAsked = false;

/** Asks the browser, once, not to clear away what waits here when its disk runs full. */
function askToKeep(): void {
  if (isAsked) return;
  isAsked = true;
  // Without a secure context there is nobody to ask.
  void navigator.storage?.persist().catch(() => undefined);
}

/** Looks for news whenever this tab comes to the front, the network comes back, or another tab has saved. */
function keepAbreast(session: PageSession): () => void {
  const refresh = () => {
    if (document.visibilityState === 'visible') void session.refresh();
  };
  // What came between the answer and this moment.
  refresh();
  const tabs = new BroadcastChannel(`true-nib.page.${session.card.id}`);
  let known = session.state.revision;
  tabs.addEventListener('message', ({ data }: MessageEvent<number>) => {
    known = Math.max(known, data);
    void session.refresh();
  });
  const stopTelling = session.onState(() => {
    const { revision } = session.state;
    if (isHeldUp(session.state)) askToKeep();
    if (revision <= known) return;
    known = revision;
    tabs.postMessage(revision);
  });
  window.addEventListener('focus', refresh);
  window.addEventListener('online', refresh);
  document.addEventListener('visibilitychange', refresh);
  return () => {
    stopTelling();
    tabs.close();
    window.removeEventListener('focus', refresh);
    window.removeEventListener('online', refresh);
    document.removeEventListener('visibilitychange', refresh);
  };
}
