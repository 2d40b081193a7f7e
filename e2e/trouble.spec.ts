import { closeSync, cpSync, ftruncateSync, openSync, rmSync, writeFileSync } from 'node:fs';
import { ofKind } from '@true-nib/core/page';
import sharp from 'sharp';
import { countStrokes, darkCount, greatestDifference, onServer, openBoard, pixels, rested, saved } from './board';
import { expect, test } from './desk';
import { line, Pen } from './hands';
import { takeMending } from './mend';

test('pictures that cannot be used are refused in a sentence, and the page is unharmed', async ({
  page,
  expected,
  desk,
}, info) => {
  // The browser writes down what the server refuses.
  expected.push(/status of 4(15|22)/);
  await openBoard(page, desk, 'demo-heron');
  await page.keyboard.press('1');
  const before = [...(await onServer(desk, 'demo-heron')).entities].length;
  const whole = await sharp({
    create: {
      width: 600,
      height: 400,
      channels: 3,
      background: '#99a',
      noise: { type: 'gaussian', mean: 128, sigma: 50 },
    },
  })
    .png()
    .toBuffer();
  const svg = (inner: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30">${inner}</svg>`);
  const huge = info.outputPath('huge.png');
  const handle = openSync(huge, 'w');
  ftruncateSync(handle, 200_000_000);
  closeSync(handle);
  const files: [string, Buffer | undefined, RegExp][] = [
    ['cut.png', whole.subarray(0, whole.length / 2), /cut short or damaged|cannot be read/],
    [
      'wide.png',
      await sharp({ create: { width: 40_000, height: 20, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
      /40000 × 20|at most 20,000/,
    ],
    ['really-a-webp.png', await sharp(whole).webp().toBuffer(), /not what its name says/],
    ['script.svg', svg('<script>alert(1)</script>'), /<script>/],
    ['link.svg', svg('<image href="https://example.org/a.png"/>'), /outside itself/],
    ['notes.txt', Buffer.from('hello'), /not a PNG, JPEG, WebP or SVG/],
    ['empty.png', Buffer.alloc(0), /is empty/],
    ['huge.png', undefined, /at most 64 MB/],
  ];
  for (const [name, bytes, sentence] of files) {
    const path = info.outputPath(name);
    if (bytes) writeFileSync(path, bytes);
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Bring in' }).click();
    await (await chooser).setFiles(path);
    await expect(page.getByRole('status').getByText(sentence)).toBeVisible();
  }
  expect([...(await onServer(desk, 'demo-heron')).entities]).toHaveLength(before);
});

test('a picture can be dropped on the page', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const bytes = (
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#567' } })
      .jpeg()
      .toBuffer()
  ).toString('base64');
  const dropped = await page.evaluateHandle((coded) => {
    const transfer = new DataTransfer();
    transfer.items.add(
      new File([Uint8Array.from(atob(coded), (char) => char.charCodeAt(0))], 'photo.jpg', { type: 'image/jpeg' }),
    );
    return transfer;
  }, bytes);
  await page.getByTestId('board').dispatchEvent('drop', { dataTransfer: dropped });
  await expect.poll(async () => ofKind(await onServer(desk, 'demo-heron'), 'picture').length).toBe(2);
  await expect(page.getByRole('tab', { name: 'Rough' })).toHaveAttribute('aria-selected', 'true');
});

test('two tabs on one page do not lose each other’s strokes', async ({ page, context, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const other = await context.newPage();
  await openBoard(other, desk, 'demo-heron');
  await (await Pen.for(other)).draw(line([640, 300], [900, 300]));
  await saved(other);
  await (await Pen.for(page)).draw(line([640, 340], [900, 340]));
  await (await Pen.for(other)).draw(line([640, 380], [900, 380]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(3);
  await saved(page);
  await saved(other);
});

test('what another tab saves while a line is being pulled is seen, and the line goes back to its place when it is let be', async ({
  page,
  context,
  desk,
}) => {
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  await pen.draw(line([640, 300], [900, 300]));
  await saved(page);
  const around = (y: number) => ({ x: 640, y: y - 30, width: 260, height: 60 });
  const seen = (y: number) => pixels(page, ['ink'], around(y));
  const other = await context.newPage();
  await openBoard(other, desk, 'demo-heron');
  await page.bringToFront();
  await takeMending(page, 'Tug');
  await rested(page);
  const before = await seen(300);
  await pen.down([770, 300]);
  await pen.move(line([770, 302], [770, 340]));
  await expect.poll(async () => greatestDifference(before, await seen(300))).toBeGreaterThan(100);
  await (await Pen.for(other)).draw(line([640, 600], [900, 600]));
  await expect.poll(async () => darkCount(await seen(600))).toBeGreaterThan(0);
  expect(greatestDifference(before, await seen(300))).toBeGreaterThan(100);
  await page.keyboard.press('Escape');
  await pen.up([770, 340]);
  await expect.poll(async () => greatestDifference(before, await seen(300))).toBeLessThan(40);
});

test('an answer that is lost on its way hides nothing of what another tab did meanwhile', async ({
  page,
  expected,
  context,
  desk,
}) => {
  // The story cuts the answer off.
  expected.push(/net::ERR_FAILED/);
  await openBoard(page, desk, 'demo-heron');
  const other = await context.newPage();
  await openBoard(other, desk, 'demo-heron');
  const around = (y: number) => ({ x: 660, y: y - 10, width: 200, height: 20 });
  const isThere = async (y: number) => darkCount(await pixels(page, ['ink', 'live'], around(y))) > 0;
  expect(await isThere(380)).toBe(false);
  let isLost = false;
  await page.route('**/changes', async (route) => {
    if (isLost || route.request().method() !== 'POST') return route.fallback();
    isLost = true;
    await route.fetch();
    await (await Pen.for(other)).draw(line([640, 380], [900, 380]));
    await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(2);
    await route.abort();
  });
  await (await Pen.for(page)).draw(line([640, 340], [900, 340]));
  await expect.poll(() => isThere(380)).toBe(true);
  await saved(page);
  // It goes on from what both did.
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await saved(page);
});

test('what a tab left unsaved is saved from the shelf, without the page being opened', async ({
  page,
  context,
  desk,
}) => {
  await page.addInitScript(() => {
    navigator.storage.persist = async () => Object.assign(window, { isAskedToKeep: true }) && true;
  });
  await openBoard(page, desk, 'demo-heron');
  await desk.kill();
  await (await Pen.for(page)).draw(line([640, 340], [900, 340]));
  await expect(page.getByTestId('save-state')).toHaveText(/offline, 1 waiting/);
  // What waits is not to be cleared away when the disk runs full.
  expect(await page.evaluate(() => 'isAskedToKeep' in window)).toBe(true);
  await page.close();
  await desk.start();
  const shelf = await context.newPage();
  // The server is there and does not take it yet.
  await shelf.route('**/changes', (route) => route.fulfill({ status: 500, json: { title: 'Out of order' } }));
  await shelf.goto(`${desk.address}/folio/demo-saltmarsh-ferry`);
  await expect(shelf.getByText('1 unsaved')).toBeVisible();
  await shelf.unroute('**/changes');
  await shelf.getByRole('button', { name: 'Back to the shelf' }).click();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await shelf.getByRole('link', { name: 'Open Saltmarsh Ferry' }).click();
  await expect(shelf.getByRole('link', { name: 'Open The heron mask' })).toBeVisible();
  await expect(shelf.getByText('1 unsaved')).toBeHidden();
});

test('addresses that lead nowhere say so and show the way back', async ({ page, expected, desk }) => {
  // Nowhere is not found.
  expected.push(/status of 404/);
  await page.goto(`${desk.address}/no/such/place`);
  await expect(page.getByText('There is nothing here')).toBeVisible();
  await page.goto(`${desk.address}/page/none`);
  await expect(page.getByText('This page cannot be opened')).toBeVisible();
  await page.goto(`${desk.address}/folio/none`);
  await expect(page.getByText('This folio cannot be opened')).toBeVisible();
  await page.getByRole('button', { name: 'To the shelf', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Open Saltmarsh Ferry' })).toBeVisible();
});

test('what is drawn on a page that another tab deleted waits, and is there when the page is restored', async ({
  page,
  expected,
  desk,
}) => {
  // The page is gone for a while.
  expected.push(/status of 404/);
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  const tell = (method: string, more = '') =>
    fetch(`${desk.address}/api/pages/demo-heron${more}`, { method }).then(({ ok }) => expect(ok).toBe(true));
  await tell('DELETE');
  await pen.draw(line([600, 300], [760, 330]));
  await expect(page.getByText(/no such page.*kept in this browser/)).toBeVisible();
  await expect(page.getByTestId('save-state')).toHaveText(/1 unsaved/);
  await tell('POST', '/restore');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await saved(page);
});

test('a copy of the data that is put back is gone on from, with the page still open', async ({
  page,
  expected,
  desk,
}, info) => {
  // The server never stood where the tab stands, nor where its picture of the page does.
  expected.push(/status of 4(00|12)/);
  const copy = info.outputPath('copy');
  await desk.stop();
  cpSync(desk.folder, copy, { recursive: true });
  await desk.start();
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  await pen.draw(line([600, 300], [760, 330]));
  await pen.draw(line([600, 340], [760, 370]));
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(2);
  await saved(page);
  await desk.stop();
  rmSync(desk.folder, { recursive: true });
  cpSync(copy, desk.folder, { recursive: true });
  await desk.start();
  await pen.draw(line([600, 400], [760, 430]));
  await expect(page.getByText(/put back to an earlier state/)).toBeVisible();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await saved(page);
  // What the copy did not have is gone here, too; what was drawn since is not.
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(0);
});

test('a shelf whose server is gone says what is safe, and comes back', async ({ page, desk }) => {
  await page.goto(desk.address);
  await expect(page.getByRole('link', { name: 'Open Saltmarsh Ferry' })).toBeVisible();
  await desk.kill();
  await page.getByRole('link', { name: 'Open Saltmarsh Ferry' }).click();
  await expect(page.getByText('This folio cannot be opened')).toBeVisible();
  await desk.start();
  await page.getByRole('button', { name: 'To the shelf', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Open Saltmarsh Ferry' })).toBeVisible();
});

test('a line under way is kept when the pen is taken away, the page is hidden, or left', async ({ page, desk }) => {
  await openBoard(page, desk, 'demo-heron');
  const before = await countStrokes(desk, 'demo-heron');
  const pen = await Pen.for(page);
  const begin = async (y: number) => {
    await pen.down([500, y]);
    await pen.move(line([500, y], [760, y + 20]));
  };
  const board = page.getByTestId('board');
  await board.evaluate((element) =>
    element.addEventListener('pointerdown', (event) => Object.assign(window, { pen: event }), true),
  );
  // The system takes the pointer: a call comes in, or a gesture of its own.
  await begin(300);
  await board.evaluate((element) => {
    const { pointerId } = (window as unknown as { pen: PointerEvent }).pen;
    element.dispatchEvent(new PointerEvent('pointercancel', { pointerId, pointerType: 'pen', bubbles: true }));
  });
  await pen.up([760, 320]);
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(before + 1);
  // The page is hidden: a phone may close it without a word.
  await begin(360);
  await page.evaluate(() => {
    Object.defineProperty(document, 'visibilityState', { value: 'hidden', configurable: true });
    document.dispatchEvent(new Event('visibilitychange'));
  });
  await pen.up([760, 380]);
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(before + 2);
  // The page is left with the pen still down.
  await begin(420);
  await page.reload();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(before + 3);
});

test('a part of the app that cannot be fetched is said to be missing, and never shows a page without its inks', async ({
  page,
  desk,
}) => {
  for (const part of ['ink', 'deliver']) await page.route(`**/${part}-*.js`, (route) => route.fulfill({ status: 404 }));
  await page.goto(`${desk.address}/page/demo-heron`);
  await expect(page.getByText(/paints the inks could not be fetched.*is safe/)).toBeVisible();
  await page.unroute('**/ink-*.js');
  await page.getByRole('button', { name: 'Try again' }).click();
  await rested(page);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page
    .getByRole('button', { name: /^Deliver/ })
    .first()
    .click();
  await expect(page.getByText(/could not be fetched/)).toBeVisible();
});

test('a browser that lets us keep nothing: what is drawn is saved by the server', async ({ page, desk }) => {
  await page.addInitScript(() => {
    for (const name of ['localStorage', 'indexedDB'])
      Object.defineProperty(window, name, {
        get() {
          throw new DOMException('No.', 'SecurityError');
        },
      });
  });
  await openBoard(page, desk, 'demo-heron');
  const pen = await Pen.for(page);
  await pen.draw(line([640, 340], [900, 340]));
  await expect(page.getByText(/keeps nothing for us/)).toBeVisible();
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(1);
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, 'demo-heron')).toBe(0);
  await page.reload();
  await rested(page);
});

test('a screen that breaks down says that all is safe, and opens again', async ({ page, expected, desk }) => {
  expected.push(/out of order/);
  await page.addInitScript(() => {
    const { observe } = ResizeObserver.prototype;
    ResizeObserver.prototype.observe = function (element) {
      if (element.getAttribute('data-testid') !== 'board') return observe.call(this, element);
      ResizeObserver.prototype.observe = observe;
      throw new Error('out of order');
    };
  });
  await page.goto(`${desk.address}/page/demo-heron`);
  await expect(page.getByText(/is safe.*out of order/)).toBeVisible();
  await page.getByRole('button', { name: 'Try again' }).click();
  await rested(page);
});
