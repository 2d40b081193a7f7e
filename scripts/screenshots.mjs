// Takes the pictures under docs/screenshots from the demo data: one of each main view. Run after a view has changed;
// names after -- take those alone.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { buildAll } from './build.mjs';
import { requireChromium } from './chromium.mjs';
import { drawHeron } from './heronDrawing.mjs';
import { root } from './install.mjs';

const PORT = '4877';
const address = `http://127.0.0.1:${PORT}`;
const target = join(root, 'docs', 'screenshots');

await buildAll();
mkdirSync(target, { recursive: true });
const folder = mkdtempSync(join(tmpdir(), 'true-nib-shots-'));
const server = spawn(process.execPath, [join(root, 'apps/server/dist/main.cjs')], {
  env: { ...process.env, TRUE_NIB_DATA: folder, PORT },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((resolve) => server.stdout.on('data', (text) => text.includes('True Nib is at') && resolve()));
const browser = await chromium.launch({
  executablePath: requireChromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});

const WIDE = { viewport: { width: 1280, height: 800 } };
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true };

const asked = process.argv.slice(2);

async function shoot(name, where, { prepare, ...options }) {
  if (asked.length > 0 && !asked.includes(name)) return;
  const tab = await browser.newPage(options);
  await tab.goto(`${address}${where}`);
  if (where.startsWith('/page')) await tab.locator('[data-testid="board"][aria-busy="false"]').waitFor();
  await prepare?.(tab);
  // Thumbnails and roughs arrive by themselves.
  await tab.waitForLoadState('networkidle');
  await tab.waitForTimeout(1_500);
  await tab.evaluate(() => document.activeElement?.blur());
  await tab.screenshot({ path: join(target, `${name}.png`) });
  await tab.close();
  console.log(name);
}

const stage = (name) => (tab) => tab.getByRole('tab', { name }).click();
const board = '/page/demo-quay';
const folio = '/folio/demo-saltmarsh-ferry';
await shoot('shelf-wide', '/', WIDE);
await shoot('folio-wide', folio, WIDE);
await shoot('board-wide-light', board, WIDE);
await shoot('board-wide-dark', board, { ...WIDE, colorScheme: 'dark' });
await shoot('ink-phone-light', board, PHONE);
const unlocked = async (tab) => {
  await stage('Rough')(tab);
  await tab.getByRole('button', { name: 'Unlock' }).click();
  await tab.keyboard.press('-');
};
await shoot('rough-wide', '/page/demo-stair', { ...WIDE, prepare: unlocked });
await shoot('select-wide', board, {
  ...WIDE,
  prepare: async (tab) => {
    await tab.keyboard.press('4');
    const loop = Array.from({ length: 40 }, (_, k) => [470 + 60 * Math.cos(k / 6), 560 + 90 * Math.sin(k / 6)]);
    await tab.mouse.move(...loop[0]);
    await tab.mouse.down();
    for (const place of loop) await tab.mouse.move(...place);
    await tab.mouse.up();
  },
});
// Before anything is drawn in another colour, which a nib remembers.
await shoot('nibs-wide', '/page/demo-nibs', WIDE);
await shoot('wash-wide', '/page/demo-heron', { ...WIDE, prepare: drawHeron });
await shoot('keys-wide', board, {
  ...WIDE,
  prepare: async (tab) => {
    await tab.getByRole('button', { name: /page settings/ }).click();
    await tab.getByRole('button', { name: 'Keys', exact: true }).click();
  },
});
await shoot('stack-phone', board, {
  ...PHONE,
  prepare: (tab) => tab.getByRole('button', { name: 'Stack', exact: true }).click(),
});
const tidying = async (tab) => {
  await stage('Mend')(tab);
  await tab.getByRole('button', { name: 'Tidy ends', exact: true }).first().click();
  await tab
    .getByTestId('plan')
    .getByText(/to tidy|are tidy/)
    .waitFor();
};
await shoot('mend-wide', board, { ...WIDE, prepare: tidying });
await shoot('mend-phone', board, { ...PHONE, prepare: tidying });
await shoot('finish-wide', '/page/demo-tide', { ...WIDE, prepare: stage('Finish') });
await shoot('guides-wide', '/page/demo-guides', {
  ...WIDE,
  prepare: async (tab) => {
    await stage('Guides')(tab);
    await tab.getByRole('button', { name: 'Take Ripples in hand' }).click();
  },
});
await shoot('guides-phone', '/page/demo-guides', {
  ...PHONE,
  prepare: async (tab) => {
    await stage('Guides')(tab);
    await tab.getByRole('button', { name: 'List', exact: true }).click();
  },
});

const inDepth = (deed) => async (tab) => {
  await stage('Guides')(tab);
  await tab.getByRole('button', { name: 'Depth', exact: true }).click();
  if (deed) await tab.getByRole('radio', { name: deed, exact: true }).click();
};
await shoot('perspective-wide', '/page/demo-depth', { ...WIDE, prepare: inDepth() });
await shoot('perspective-phone', '/page/demo-depth', { ...PHONE, prepare: inDepth() });
// The set, for docs/set.md: the landing under its lines, a block in hand, and lines close to.
mkdirSync(join(root, 'docs', 'set'), { recursive: true });
const inSet = (name) => join(root, 'docs', 'set', `${name}.png`);
const set = await browser.newPage(WIDE);
await set.goto(`${address}/page/demo-landing-water`);
await set.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await stage('Guides')(set);
await set.getByRole('button', { name: 'Set', exact: true }).first().click();
await set.getByRole('button', { name: 'Camera', exact: true }).first().click();
await set.waitForTimeout(2_000);
await set.screenshot({ path: inSet('landing') });
await set.getByRole('button', { name: 'Blocks', exact: true }).first().click();
await set.mouse.click(560, 410);
await set.waitForTimeout(1_500);
await set.screenshot({ path: inSet('blocks') });
await stage('Ink')(set);
await set.mouse.move(640, 420);
for (let k = 0; k < 3; k++) await set.mouse.wheel(0, -240);
await set.waitForTimeout(2_500);
await set.screenshot({ path: inSet('lines'), clip: { x: 290, y: 62, width: 724, height: 690 } });
await set.close();

// The comic page, for docs/comic.md: a page, its panels, a balloon close to, and the folio as spreads.
mkdirSync(join(root, 'docs', 'comic'), { recursive: true });
const inComic = (name) => join(root, 'docs', 'comic', `${name}.png`);
const SHEET = { x: 418, y: 62, width: 470, height: 690 };
const comic = await browser.newPage(WIDE);
await comic.goto(`${address}/page/demo-tide`);
await comic.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await comic.waitForTimeout(1_500);
await comic.screenshot({ path: inComic('page'), clip: SHEET });
await stage('Rough')(comic);
await comic.getByRole('button', { name: 'Panels', exact: true }).first().click();
await comic.mouse.click(510, 470);
await comic.waitForTimeout(1_000);
await comic.screenshot({ path: inComic('panels'), clip: SHEET });
await stage('Finish')(comic);
await comic.getByRole('button', { name: 'Balloon', exact: true }).click();
await comic.mouse.click(775, 122);
await comic.mouse.move(760, 150);
for (let k = 0; k < 2; k++) await comic.mouse.wheel(0, -240);
await comic.waitForTimeout(1_500);
await comic.screenshot({ path: inComic('balloon'), clip: { x: 290, y: 62, width: 724, height: 690 } });
await comic.close();
const spreads = await browser.newPage(WIDE);
await spreads.goto(`${address}${folio}`);
await spreads.getByRole('radio', { name: 'Spreads' }).click();
await spreads.waitForLoadState('networkidle');
await spreads.waitForTimeout(1_000);
await spreads.screenshot({ path: inComic('spreads'), clip: { x: 0, y: 64, width: 1280, height: 590 } });
await spreads.close();

// The press check, for docs/deliver.md: what was found, and how weights and blacks are spread.
mkdirSync(join(root, 'docs', 'deliver'), { recursive: true });
const inDeliver = (name) => join(root, 'docs', 'deliver', `${name}.png`);
const press = await browser.newPage(WIDE);
await press.goto(`${address}/page/demo-tide`);
await press.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await stage('Finish')(press);
await press.getByRole('button', { name: 'Check', exact: true }).click();
await press.getByText(/things to look at/).waitFor();
await press.getByRole('button', { name: /^Leaks/ }).click();
await press
  .getByRole('button', { name: /^Colour would run out/ })
  .first()
  .click();
await press.waitForTimeout(1_500);
await press.screenshot({ path: inDeliver('press') });
await press.getByRole('radio', { name: 'Whole' }).click();
await press.getByRole('button', { name: 'Weights of lines' }).click();
await press.getByRole('button', { name: 'Blacks', exact: true }).click();
await press.getByText('of the page is black').scrollIntoViewIfNeeded();
await press.waitForTimeout(1_500);
await press.screenshot({ path: inDeliver('spread'), clip: { x: 77, y: 48, width: 812, height: 712 } });
await press.close();

// The last one of its page, which it fills with flats.
await shoot('blacks-wide', board, {
  ...WIDE,
  prepare: async (tab) => {
    await stage('Blacks')(tab);
    await tab.getByRole('button', { name: 'Pour', exact: true }).click();
    await tab.getByRole('button', { name: 'Flat the page' }).click();
    await tab.getByText(/flats lie under the inks/).waitFor();
    await tab.getByRole('button', { name: 'Close' }).click();
  },
});

// Blacks, for docs/blacks.md: the page alone.
mkdirSync(join(root, 'docs', 'blacks'), { recursive: true });
async function inBlacks(name, page, clip, prepare) {
  const tab = await browser.newPage(WIDE);
  await tab.goto(`${address}/page/${page}`);
  await tab.locator('[data-testid="board"][aria-busy="false"]').waitFor();
  await prepare?.(tab);
  await tab.waitForTimeout(1_000);
  await tab.screenshot({ path: join(root, 'docs', 'blacks', `${name}.png`), clip });
  await tab.close();
}
const inCircle = async (tab, x, y, r) => {
  await tab.mouse.move(x + r, y);
  await tab.mouse.down();
  for (let k = 1; k <= 40; k++)
    await tab.mouse.move(x + r * Math.cos((2 * Math.PI * k) / 40), y + r * Math.sin((2 * Math.PI * k) / 40));
  await tab.mouse.up();
};
await inBlacks('night', 'demo-stair', { x: 418, y: 62, width: 470, height: 700 });
await inBlacks('mask', 'demo-mask', { x: 290, y: 62, width: 724, height: 700 });
await inBlacks('pieces', 'demo-quay', { x: 470, y: 220, width: 340, height: 340 }, async (tab) => {
  await stage('Blacks')(tab);
  await tab.getByRole('button', { name: 'Pieces', exact: true }).click();
  await inCircle(tab, 600, 400, 130);
  await tab.getByText(/pieces\. Touch one/).waitFor();
});

// Texture, for docs/texture.md: one of each kind on a page of its own; and the mask that has some, close to.
mkdirSync(join(root, 'docs', 'texture'), { recursive: true });
const { id: greysId } = await fetch(`${address}/api/pages`, {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({ folioId: 'demo-saltmarsh-ferry', name: 'Greys', width: 2_800, height: 2_800, ppi: 300 }),
}).then((answer) => answer.json());
const textured = await browser.newPage(WIDE);
await textured.goto(`${address}/page/${greysId}`);
await textured.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await stage('Blacks')(textured);
const take = (name) => textured.getByRole('button', { name, exact: true }).click();
const choose = (name) => textured.getByRole('radio', { name, exact: true }).first().click();
const laid = async () => {
  await take('Lay them down');
  await textured.getByTestId('underway').waitFor({ state: 'detached' });
};
const dragOn = async (...places) => {
  await textured.mouse.move(...places[0]);
  await textured.mouse.down();
  for (const place of places.slice(1)) await textured.mouse.move(...place, { steps: 10 });
  await textured.mouse.up();
};
await take('Comb');
await take('Black ink');
await choose('Crossed');
await inCircle(textured, 535, 275, 50);
await choose('Tone');
await dragOn([485, 275], [585, 275]);
await textured.getByTestId('underway').waitFor();
await textured.screenshot({ path: join(root, 'docs', 'texture', 'comb.png') });
await laid();
await take('Tone');
await textured.getByRole('spinbutton', { name: 'Lines per inch' }).click();
await textured.locator('input:focus').fill('40');
await textured.keyboard.press('Enter');
await inCircle(textured, 640, 275, 50);
await choose('Straight');
await take('Shaker');
await choose('In a loop');
await choose('Round');
await inCircle(textured, 745, 275, 50);
await textured.getByTestId('underway').waitFor();
await laid();
await take('Blot');
await inCircle(textured, 535, 385, 50);
await take('Feather');
await dragOn([485, 385], [489, 410], [502, 427], [535, 435], [568, 427], [581, 410], [585, 385]);
await textured.getByTestId('underway').waitFor();
await laid();
await take('Blot');
await inCircle(textured, 640, 385, 50);
await take('Gradient');
await dragOn([600, 385], [680, 385]);
await take('Tone');
await choose('Crossed');
await inCircle(textured, 745, 385, 50);
await take('Blot');
const closer = async (tab, x, y, by) => {
  await tab.mouse.move(x, y);
  await tab.keyboard.down('Control');
  for (let k = 0; k < by; k++) await tab.mouse.wheel(0, -45);
  await tab.keyboard.up('Control');
  await tab.waitForTimeout(2_000);
};
await closer(textured, 640, 330, 1);
await textured.waitForTimeout(1_000);
await closer(textured, 640, 330, 1);
await textured.screenshot({
  path: join(root, 'docs', 'texture', 'kinds.png'),
  clip: { x: 276, y: 48, width: 752, height: 700 },
});
await textured.close();
const mask = await browser.newPage(WIDE);
await mask.goto(`${address}/page/demo-mask`);
await mask.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await closer(mask, 470, 330, 2);
await mask.screenshot({
  path: join(root, 'docs', 'texture', 'mask.png'),
  clip: { x: 276, y: 48, width: 752, height: 700 },
});
await mask.close();

// Parts of the guide sampler for docs/guides.md: only the page, on the wide board, at the place of each.
mkdirSync(join(root, 'docs', 'guides'), { recursive: true });
const sampler = await browser.newPage(WIDE);
await sampler.goto(`${address}/page/demo-guides`);
await sampler.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await sampler.waitForTimeout(1_000);
for (const [name, x, y, width, height] of [
  ['cup', 300, 150, 230, 190],
  ['crate', 530, 195, 165, 205],
  ['focus', 305, 395, 255, 250],
  ['wheel', 795, 370, 175, 160],
  ['mirror', 800, 540, 165, 135],
])
  await sampler.screenshot({ path: join(root, 'docs', 'guides', `${name}.png`), clip: { x, y, width, height } });
await sampler.close();

// Perspective, for docs/perspective.md.
mkdirSync(join(root, 'docs', 'perspective'), { recursive: true });
async function inPerspective(page, shots) {
  const tab = await browser.newPage(WIDE);
  await tab.goto(`${address}/page/${page}`);
  await tab.locator('[data-testid="board"][aria-busy="false"]').waitFor();
  for (const { name, clip, prepare } of shots) {
    await prepare?.(tab);
    await tab.waitForTimeout(1_000);
    await tab.screenshot({ path: join(root, 'docs', 'perspective', `${name}.png`), clip });
  }
  await tab.close();
}
const drag = async (tab, from, to) => {
  await tab.mouse.move(...from);
  await tab.mouse.down();
  await tab.mouse.move(...to, { steps: 8 });
  await tab.mouse.up();
};
// Edges of the quay's corner house on the wide board, as a hand that is a little off lays them.
const QUAY_EDGES = [
  [
    'Right',
    [
      [
        [640.5, 542.5],
        [793, 508],
      ],
      [
        [640.5, 500.5],
        [793, 477],
      ],
      [
        [640.5, 397],
        [793, 401],
      ],
      [
        [640.5, 306],
        [793, 334],
      ],
    ],
  ],
  [
    'Left',
    [
      [
        [637, 543],
        [557.5, 511.5],
      ],
      [
        [637, 494.5],
        [557.5, 474.5],
      ],
      [
        [637, 397],
        [557.5, 400.5],
      ],
      [
        [637, 305.5],
        [557.5, 331],
      ],
    ],
  ],
  [
    'Upright',
    [
      [
        [637, 539],
        [637, 314],
      ],
      [
        [553, 506.5],
        [553, 339],
      ],
      [
        [700, 525],
        [700, 324.5],
      ],
    ],
  ],
];
const BOARD = { x: 277, y: 49, width: 750, height: 700 };
await inPerspective('demo-depth', [
  { name: 'street', clip: BOARD },
  {
    name: 'turned',
    clip: BOARD,
    prepare: async (tab) => {
      await inDepth()(tab);
      await tab.getByRole('button', { name: 'Turn the camera' }).click();
      for (const [setting, value] of [
        ['To the right', 14],
        ['Up', 8],
      ]) {
        await tab.getByRole('spinbutton', { name: setting }).click();
        await tab.locator('input:focus').fill(String(value));
        await tab.keyboard.press('Enter');
      }
    },
  },
]);
await inPerspective('demo-stair', [
  {
    name: 'stair',
    clip: { x: 400, y: 49, width: 500, height: 740 },
    // The frame is seen without the night that lies over it.
    prepare: async (tab) => {
      await tab.getByRole('switch', { name: 'Night seen' }).click();
      await tab.getByRole('switch', { name: 'Rough seen' }).click();
      await inDepth()(tab);
    },
  },
]);
await inPerspective('demo-quay', [
  {
    name: 'sighted',
    clip: { x: 400, y: 120, width: 500, height: 560 },
    prepare: async (tab) => {
      await inDepth('Sight')(tab);
      for (const [way, edges] of QUAY_EDGES) {
        await tab
          .getByRole('radiogroup', { name: 'The edge runs' })
          .getByRole('radio', { name: way, exact: true })
          .click();
        for (const [from, to] of edges) await drag(tab, from, to);
      }
    },
  },
]);

// A house drawn with overshoots, for docs/mend.md: before it is tidied, after, and one of its corners.
mkdirSync(join(root, 'docs', 'mend'), { recursive: true });
const { id: houseId } = await fetch(`${address}/api/pages`, {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({ folioId: 'demo-saltmarsh-ferry', name: 'Overshoots', width: 2_800, height: 2_800, ppi: 300 }),
}).then((answer) => answer.json());
const house = await browser.newPage(WIDE);
await house.goto(`${address}/page/${houseId}`);
await house.locator('[data-testid="board"][aria-busy="false"]').waitFor();
await house.getByRole('radio', { name: 'Fixed liner' }).click();
for (const [from, to] of [
  [
    [640, 340],
    [640, 640],
  ],
  [
    [860, 340],
    [860, 640],
  ],
  [
    [620, 620],
    [880, 620],
  ],
  [
    [620, 360],
    [880, 360],
  ],
  [
    [624, 376],
    [762, 238],
  ],
  [
    [876, 376],
    [738, 238],
  ],
])
  await drag(house, from, to);
await tidying(house);
await house.getByRole('spinbutton', { name: 'Snip up to' }).click();
await house.locator('input:focus').fill('8');
await house.keyboard.press('Enter');
await house.getByTestId('plan').getByText('12 ends to tidy.').waitFor();
const AROUND = { x: 560, y: 200, width: 380, height: 480 };
await house.waitForTimeout(500);
await house.screenshot({ path: join(root, 'docs', 'mend', 'overshoots.png'), clip: AROUND });
await house.getByRole('button', { name: 'Tidy ends', exact: true }).last().click();
await house.getByTestId('plan').getByText('All ends are tidy.').waitFor();
await house.waitForTimeout(500);
await house.screenshot({ path: join(root, 'docs', 'mend', 'tidied.png'), clip: AROUND });
await house.mouse.move(640, 620);
await house.keyboard.down('Control');
for (let k = 0; k < 11; k++) await house.mouse.wheel(0, -30);
await house.keyboard.up('Control');
await house.waitForTimeout(1_500);
await house.screenshot({
  path: join(root, 'docs', 'mend', 'corner.png'),
  clip: { x: 450, y: 430, width: 380, height: 320 },
});

await browser.close();
server.kill('SIGTERM');
rmSync(folder, { recursive: true, force: true });
