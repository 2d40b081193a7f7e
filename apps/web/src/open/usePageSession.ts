import { useEffect, useState } from 'react';
import { requestJson } from '../api';
import type { StartedInks } from '../render';
import { author, newId, indexedDbOutbox, isHeldUp, PageSession, httpTransport } from '../session';
import { startInks, takeEarlyInks } from './earlyPage';

/** A page, and the ink worker that has taken it up. */
export interface OpenedPage {
  readonly session: PageSession;
  readonly inks: StartedInks | undefined;
}

type Opening =
  | { readonly state: 'opening' }
  | { readonly state: 'failed'; readonly reason: string; readonly retry: () => void }
  | ({ readonly state: 'open' } & OpenedPage);

/** Opens the page and keeps it abreast of what other tabs save; closes it when the screen goes. */
export function usePageSession(pageId: string): Opening {
  const [opening, setOpening] = useState<Opening>({ state: 'opening' });
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    let close = (): void => undefined;
    let isGone = false;
    let inks: StartedInks | undefined;
    let isBroken = false;
    const fail = (reason: string, retry: () => void) => {
      if (!isGone) setOpening({ state: 'failed', reason, retry });
    };
    const tryAgain = () => {
      setOpening({ state: 'opening' });
      setAttempt((count) => count + 1);
    };
    PageSession.open(pageId, {
      transport: httpTransport,
      outbox: indexedDbOutbox,
      author: author(),
      newId,
      now: () => Date.now(),
      onParts: (card, parts) => {
        if (isGone) return;
        inks = takeEarlyInks(parts) ?? startInks(card, parts);
        // A page without its inks would look as if they were lost.
        inks.onBroken(() => {
          isBroken = true;
          fail(UNFETCHED, () => void reload().catch(tryAgain));
        });
      },
    }).then(
      (session) => {
        if (isGone || isBroken) return session.close();
        const stop = keepAbreast(session);
        close = () => {
          stop();
          session.close();
        };
        setOpening({ state: 'open', session, inks });
      },
      (error: unknown) => {
        fail(error instanceof Error ? error.message : 'Something went wrong. What was saved is safe.', tryAgain);
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

const UNFETCHED =
  'A part of the app that paints the inks could not be fetched. The app may have been updated since it was opened here. What you drew is safe.';

/** Loads the app anew, if there is a server that has it. Throws what the server's silence throws. */
async function reload(): Promise<void> {
  await requestJson('/health');
  location.reload();
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
  // The browser asks whether the page is really to be left.
  const warn = (event: BeforeUnloadEvent) => {
    if (session.wouldBeLost) event.preventDefault();
  };
  window.addEventListener('beforeunload', warn);
  window.addEventListener('focus', refresh);
  window.addEventListener('online', refresh);
  document.addEventListener('visibilitychange', refresh);
  return () => {
    stopTelling();
    tabs.close();
    window.removeEventListener('beforeunload', warn);
    window.removeEventListener('focus', refresh);
    window.removeEventListener('online', refresh);
    document.removeEventListener('visibilitychange', refresh);
  };
}
