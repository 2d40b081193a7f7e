import type { PackedParts, PageSize } from '@true-nib/core/page';
import { isWide } from '../look/wide';
import { StartedInks, startInkWorker } from '../render/startedInks';
import { fitZoom } from '../render/view';
import { fetchAhead } from '../session/transport';

/** Device px per page px at which a page will be shown first: it is laid out on what the panels leave. */
function likelyScale(page: PageSize): number {
  const { innerWidth, innerHeight, devicePixelRatio } = window;
  const beside = isWide(innerWidth) ? 528 : 0;
  return fitZoom(page, { width: innerWidth - beside, height: innerHeight - 48 }) * (devicePixelRatio || 1);
}

/** An ink worker on a page that has just come. */
export const startInks = (size: PageSize, parts: PackedParts): StartedInks =>
  new StartedInks(size, parts, likelyScale(size));

let early: { readonly parts: PackedParts; readonly inks: StartedInks } | undefined;

/** The ink worker that has begun on a page that was fetched ahead; nothing for any other. */
export function takeEarlyInks(parts: PackedParts): StartedInks | undefined {
  const taken = early?.parts === parts ? early.inks : undefined;
  early = undefined;
  return taken;
}

/** Fetches the page that the address asks for, and starts its ink worker on it, before the rest of the app has begun. */
function begin(): void {
  const [, pageId] = /^\/page\/([^/]+)\/?$/.exec(globalThis.location?.pathname ?? '') ?? [];
  if (pageId === undefined) return;
  startInkWorker();
  fetchAhead(decodeURIComponent(pageId)).then(
    ({ card, parts }) => {
      early = { parts, inks: startInks(card, parts) };
    },
    // Whoever loads the page hears of it.
    () => undefined,
  );
}

begin();
