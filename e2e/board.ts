import type { Page as Tab } from '@playwright/test';
import { applyChange, checkEntity, newPage, type Change, type Edit, type Entity, type Page } from '@true-nib/core/page';
import { fromJson, pack, PACKED_TYPE } from '@true-nib/core/wire';
import { expect, type Desk } from './desk';

export type LayerName = 'under' | 'ink' | 'live' | 'over' | 'veil' | 'grids' | 'overlay';

/** Opens a page's board and waits until it rests. */
export async function openBoard(tab: Tab, desk: Desk, pageId = 'demo-quay'): Promise<void> {
  await tab.goto(`${desk.address}/page/${pageId}`);
  await rested(tab);
}

export async function rested(tab: Tab): Promise<void> {
  await expect(tab.getByTestId('board')).toHaveAttribute('aria-busy', 'false');
}

/** Takes a nib from the rack. */
export const takeNib = (tab: Tab, name: string): Promise<void> =>
  tab.getByRole('radiogroup', { name: 'Nib rack' }).getByRole('radio', { name }).click();

/** Opens a part of a panel that is folded away. */
export const unfold = (tab: Tab, title: string): Promise<void> =>
  tab.getByRole('button', { name: title, expanded: false }).click();

export async function saved(tab: Tab): Promise<void> {
  await expect(tab.getByTestId('save-state')).toHaveText(/(^|· )saved($| ·)/);
}

/** Asks the server of a desk; once more when it has just closed a connection that had lain idle. */
export const ask = (desk: Desk, path: string): Promise<Response> =>
  fetch(`${desk.address}${path}`).catch(() => fetch(`${desk.address}${path}`));

/** What the server holds of a page, read through the core's gate. */
export async function onServer(desk: Desk, pageId = 'demo-quay'): Promise<Page> {
  const answer = await ask(desk, `/api/pages/${pageId}`);
  const { width, height, ppi, entities } = (await answer.json()) as {
    width: number;
    height: number;
    ppi: number;
    entities: unknown[];
  };
  const all: Entity[] = entities.map((entity) => checkEntity(fromJson(entity)));
  const edits = all.map((after) => ({ before: null, after }));
  const empty = newPage({ width, height, ppi });
  return edits.length === 0
    ? empty
    : applyChange(empty, { id: 'all', by: 'all', label: 'all', at: 0, needs: [], edits });
}

/** Changes a page on the server, as another tab would. */
export async function change(desk: Desk, pageId: string, edits: readonly Edit[]): Promise<void> {
  const headers = (await (await ask(desk, `/api/pages/${pageId}/changes?only=headers`)).json()) as {
    changes: readonly object[];
  };
  const one: Change = {
    id: `by-story-${headers.changes.length}`,
    by: 'story',
    label: 'Story',
    at: 0,
    needs: [],
    edits,
  };
  const answer = await fetch(`${desk.address}/api/pages/${pageId}/changes`, {
    method: 'POST',
    headers: { 'content-type': PACKED_TYPE },
    body: new Uint8Array(pack({ since: headers.changes.length, changes: [one] })),
  });
  expect(answer.ok).toBe(true);
}

export const strokesOf = (page: Page) => [...page.entities].filter((entity) => entity.kind === 'stroke');

/** How many strokes the server holds; for `expect.poll`. */
export const countStrokes = async (desk: Desk, pageId = 'demo-quay'): Promise<number> =>
  strokesOf(await onServer(desk, pageId)).length;

/** The px of some of the board's canvases, one over the other on white, in a box of CSS px of the window. */
export async function pixels(
  tab: Tab,
  layers: readonly LayerName[],
  box: { x: number; y: number; width: number; height: number },
): Promise<Uint8Array> {
  // As one text: a list of a million numbers takes the DevTools protocol ten seconds.
  const coded = await tab.evaluate(
    ({ names, box: { x, y, width, height } }) => {
      const target = document.createElement('canvas');
      const ratio = window.devicePixelRatio;
      target.width = width * ratio;
      target.height = height * ratio;
      const context = target.getContext('2d', { willReadFrequently: true });
      if (!context) throw new Error('No canvas.');
      context.fillStyle = '#ffffff';
      context.fillRect(0, 0, target.width, target.height);
      for (const name of names) {
        const canvas = document.querySelector<HTMLCanvasElement>(`canvas[data-layer="${name}"]`);
        if (!canvas) throw new Error(`No layer ${name}.`);
        const { left, top } = canvas.getBoundingClientRect();
        context.drawImage(
          canvas,
          (x - left) * ratio,
          (y - top) * ratio,
          target.width,
          target.height,
          0,
          0,
          target.width,
          target.height,
        );
      }
      const { data } = context.getImageData(0, 0, target.width, target.height);
      let text = '';
      for (let i = 0; i < data.length; i += 8192) text += String.fromCharCode(...data.subarray(i, i + 8192));
      return btoa(text);
    },
    { names: layers, box },
  );
  return new Uint8Array(Buffer.from(coded, 'base64'));
}

export const greatestDifference = (a: Uint8Array, b: Uint8Array): number =>
  a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);

/** How many px are darker than middle grey. */
export const darkCount = (rgba: Uint8Array): number => {
  let count = 0;
  for (let i = 0; i < rgba.length; i += 4) if (rgba[i] + rgba[i + 1] + rgba[i + 2] < 384) count++;
  return count;
};

export const AROUND_THE_PAGE = { x: 560, y: 60, width: 440, height: 700 };

/** Opens the page's own sheet under a finger: on a busy machine a first tap may come before the board listens. */
export const tapPageSheet = (tab: Tab): Promise<void> =>
  expect(async () => {
    const sheet = tab.getByRole('dialog', { name: 'Page' });
    if (!(await sheet.isVisible())) await tab.getByRole('button', { name: /page settings/ }).tap();
    await expect(sheet).toBeVisible({ timeout: 3_000 });
  }).toPass();

/** The zoom in percent and the turn in degrees, as the page sheet says them. */
export async function viewInWords(tab: Tab): Promise<{ zoom: number; turn: number }> {
  await tab.getByRole('button', { name: /page settings/ }).click();
  const words = await tab.getByText(/Shown at/).innerText();
  await tab.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  const [zoom, turn] = words.match(/-?\d+/g)?.map(Number) ?? [];
  return { zoom, turn };
}
