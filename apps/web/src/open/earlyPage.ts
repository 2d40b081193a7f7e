import type { PackedParts } from '@true-nib/core/wire';
import type { PageSize } from '@true-nib/core/page';
import { scaleOf, scaling, then } from '@true-nib/core/math';
import { isWindowWide } from '../look/wide';
import type { FirstLook } from '../render/inkDesk';
import { StartedInks, startInkWorker } from '../render/startedInks';
import { devicePx, freeOf, opening, pxRatioOf } from '../render/view';
import { fetchAhead } from '../session/transport';
import { coveredByBench, lastBoard } from './boardSize';

/** How a page will be seen first: exactly, where its board will have the size of the last one in this window. */
function firstLook(page: PageSize): FirstLook {
  const board = lastBoard();
  const likely = board ?? {
    width: innerWidth - (isWindowWide() ? 528 : 0),
    height: innerHeight - 48,
  };
  const map = then(opening(page, freeOf(likely, coveredByBench())), scaling(pxRatioOf(likely)));
  return { scale: scaleOf(map), ...(board && { picture: { map, ...devicePx(board) } }) };
}

/** An ink worker on a page that has just come. */
export const startInks = (size: PageSize, parts: PackedParts): StartedInks =>
  new StartedInks(size, parts, firstLook(size));

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
