import { readFileSync } from 'node:fs';
import { pageToSvg } from '@true-nib/core/formats';
import { ofKind } from '@true-nib/core/page';
import { decode } from 'fast-png';
import sharp from 'sharp';
import { AROUND_THE_PAGE, countStrokes, darkCount, onServer, pixels, rested, saved, strokesOf } from './board';
import { expect, test } from './desk';
import { along, line, Pen } from './hands';

test('from a rough to a delivered page, with the server killed in the middle', async ({ page, desk }, info) => {
  // A folio, and a page in it.
  await page.goto(desk.address);
  await page.getByRole('button', { name: 'New folio' }).click();
  await page.getByLabel('Name').fill('Night watch');
  await page.getByRole('button', { name: 'Start the folio' }).click();
  await page.getByRole('button', { name: 'New page' }).first().click();
  await page.getByRole('radio', { name: /8 × 8 in/ }).click();
  await expect(page.getByText('2800 × 2800 px', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Make the page' }).click();
  await rested(page);
  const pageId = page.url().split('/').at(-1) ?? '';

  // A rough from disk: the demo's own scan. It is fitted and centred, dimmed and blue.
  const scan = ofKind(await onServer(desk), 'picture')[0];
  const file = info.outputPath('quay.png');
  await sharp(Buffer.from(await (await fetch(`${desk.address}/api/blobs/${scan.blob}`)).arrayBuffer())).toFile(file);
  await page.getByRole('tab', { name: 'Rough' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in' }).click();
  await (await chooser).setFiles(file);
  await expect.poll(async () => ofKind(await onServer(desk, pageId), 'picture').length).toBe(1);
  const rough = async () => ofKind(await onServer(desk, pageId), 'picture')[0];
  expect(await rough()).toMatchObject({ opacity: 0.5, tint: 'blue', placement: { x: 1400, y: 1400, angle: 0 } });
  await expect
    .poll(async () => (await pixels(page, ['under'], AROUND_THE_PAGE)).some((value) => value < 230))
    .toBe(true);

  // Moved by hand, sized by its corner, turned by a number, dimmed, tinted, locked.
  const board = await page.getByTestId('board').boundingBox();
  const middle = { x: (board?.x ?? 0) + (board?.width ?? 0) / 2, y: (board?.y ?? 0) + (board?.height ?? 0) / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 40, middle.y - 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await rough()).placement.x).toBeGreaterThan(1480);
  await page.getByRole('spinbutton', { name: 'Turn' }).click();
  await page.getByRole('textbox', { name: 'Turn, typed' }).fill('5');
  await page.keyboard.press('Enter');
  await expect.poll(async () => Math.round(((await rough()).placement.angle * 180) / Math.PI)).toBe(5);
  await page.getByRole('spinbutton', { name: 'Opacity' }).focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(async () => (await rough()).opacity).toBeCloseTo(0.4, 6);
  await page.getByRole('radio', { name: 'Grey' }).click();
  await page.getByRole('button', { name: 'Lock' }).click();
  await expect(page.getByRole('button', { name: 'Unlock' })).toBeVisible();

  // Ink: pressure changes the thickness.
  await page.getByRole('tab', { name: 'Ink' }).click();
  const pen = await Pen.for(page);
  const y = (k: number) => middle.y - 150 + 50 * k;
  const across = (k: number) => line([middle.x - 200, y(k)], [middle.x + 200, y(k)]);
  await pen.draw(across(0), () => 0.15);
  await pen.draw(across(1), () => 1);
  await expect.poll(() => countStrokes(desk, pageId)).toBe(2);
  const dark = (k: number) =>
    pixels(page, ['ink'], { x: middle.x - 150, y: y(k) - 15, width: 300, height: 30 }).then((rgba) =>
      rgba.reduce((sum, value, i) => (i % 4 === 0 ? sum + 255 - value : sum), 0),
    );
  expect(await dark(1)).toBeGreaterThan(2 * (await dark(0)));

  // The power goes. Drawing goes on; what is drawn waits, and is there again when the server is.
  await desk.kill();
  await pen.draw(across(2));
  await pen.draw(along((t) => [middle.x - 200 + 400 * t, y(3) + 30 * Math.sin(9 * t)]));
  await expect(page.getByTestId('save-state')).toHaveText(/offline, 2 waiting/);
  await desk.start();
  await saved(page);
  expect(await countStrokes(desk, pageId)).toBe(4);

  // A reload: every stroke is there, and undo still works.
  await page.reload();
  await rested(page);
  const before = darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE));
  await page.keyboard.press('Control+z');
  await expect.poll(() => countStrokes(desk, pageId)).toBe(3);
  expect(darkCount(await pixels(page, ['ink'], AROUND_THE_PAGE))).toBeLessThan(before);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => countStrokes(desk, pageId)).toBe(4);

  // Rub cuts a line in two; Lift takes one whole.
  const penAgain = await Pen.for(page);
  await page.getByRole('button', { name: 'Rub', exact: true }).click();
  await penAgain.draw(line([middle.x, y(2) - 30], [middle.x, y(2) + 4], 8));
  await expect.poll(() => countStrokes(desk, pageId)).toBe(5);
  await page.getByRole('tab', { name: 'Mend' }).click();
  await page.getByRole('button', { name: 'Lift', exact: true }).click();
  await penAgain.draw(line([middle.x - 100, y(0)], [middle.x - 98, y(0)], 3));
  await expect.poll(() => countStrokes(desk, pageId)).toBe(4);
  await saved(page);

  // Deliver: the PNG has the page's px and ppi, and shows the strokes and nothing else.
  await page.getByRole('tab', { name: 'Finish' }).click();
  const deliver = async (name: string) => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    return readFileSync(await (await download).path());
  };
  const png = decode(await deliver('Deliver PNG'), { checkCrc: true });
  expect([png.width, png.height, png.resolution]).toEqual([2800, 2800, { x: 13780, y: 13780, unit: 1 }]);
  const kept = await onServer(desk, pageId);
  // An independent painter (librsvg, through sharp) draws the same strokes from the server's copy.
  const witness = await sharp(Buffer.from(pageToSvg(kept)), { unlimited: true })
    .resize(2800, 2800)
    .removeAlpha()
    .raw()
    .toBuffer();
  let [either, both, far] = [0, 0, 0];
  for (let i = 0; i < witness.length; i += 3) {
    const [own, theirs] = [png.data[i] < 128, witness[i] < 128];
    if (own || theirs) either++;
    if (own && theirs) both++;
    if (Math.abs(png.data[i] - witness[i]) > 128) far++;
  }
  expect(either).toBeGreaterThan(20_000);
  expect(both / either).toBeGreaterThan(0.99);
  expect(far / either).toBeLessThan(0.002);

  await page.getByRole('radio', { name: '25 %' }).click();
  const quarter = decode(await deliver('Deliver PNG'));
  expect([quarter.width, quarter.height, quarter.resolution?.x]).toEqual([700, 700, 3445]);
  await page.getByRole('radio', { name: 'SVG' }).click();
  const svg = (await deliver('Deliver SVG')).toString();
  expect(svg).toContain('width="203.2mm"');
  expect(svg.match(/<path /g)).toHaveLength(strokesOf(kept).length);
  expect(svg).not.toContain('<image');
  await page.getByRole('switch', { name: 'With the rough' }).click();
  expect(await deliver('Deliver SVG').then(String)).toContain('<image');

  // Back on the shelf the page has its picture.
  await page.getByRole('button', { name: 'Back to the folio' }).click();
  await expect(page.getByLabel(/Picture of/)).toBeVisible();
});
