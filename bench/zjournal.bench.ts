import { chromium } from '@playwright/test';
import { pack, PACKED_TYPE, unpack } from '@true-nib/core/page';
import { layFullPage } from '../e2e/fullPage';
import { atDesk, rested } from './app';

atDesk(async (desk) => {
  const a = await layFullPage(desk.address, 'demo-saltmarsh-ferry', {});
  // the same page, one stroke a change
  const headers = { accept: PACKED_TYPE };
  const answer = await fetch(`${desk.address}/api/pages/${a}/changes?since=0`, { headers });
  const [, changes] = unpack(new Uint8Array(await answer.arrayBuffer())) as [number, { edits: { after: { kind: string } }[] }[]];
  const edits = changes.flatMap((c) => c.edits);
  const made = await fetch(`${desk.address}/api/pages`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ folioId: 'demo-saltmarsh-ferry', name: 'By hand', width: 3300, height: 4200, ppi: 300 }),
  });
  const { id: b } = (await made.json()) as { id: string };
  let since = 0;
  const own: unknown[] = [];
  own.push({ id: 'l0', by: 'me', label: 'Layer', at: 1, needs: [], edits: [edits[0]] });
  for (let k = 1; k < edits.length; k += 2)
    own.push({ id: `0b7c1c52-8a3d-4a58-9a3e-${String(k).padStart(12, '0')}`, by: 'me', label: 'Pressure nib', at: k, needs: ['inks'], edits: edits.slice(k, k + 2) });
  const start = Date.now();
  for (let k = 0; k < own.length; k += 400) {
    const body = new Uint8Array(pack({ since, changes: own.slice(k, k + 400) }));
    const r = await fetch(`${desk.address}/api/pages/${b}/changes`, { method: 'POST', headers: { 'content-type': PACKED_TYPE }, body });
    if (r.status !== 200) throw new Error(String(r.status));
    since = ((await r.json()) as { revision: number }).revision;
  }
  console.log('laid', own.length, 'changes in', Date.now() - start);
  await new Promise((r) => setTimeout(r, 6000));
  for (let t = 0; t < Number(process.env.TIMES ?? 3); t++)
    for (const [name, id] of [['at once', a], ['by hand', b]] as const) {
      const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
      const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await tab.addInitScript(() => localStorage.setItem('true-nib.author', 'me'));
      const times: number[] = [];
      for (let n = 0; n < 2; n++) {
        const from = Date.now();
        await tab.goto(`${desk.address}/page/${id}`);
        await rested(tab);
        times.push(Date.now() - from);
        await tab.waitForTimeout(1500);
      }
      const net = await tab.evaluate(() => performance.getEntriesByType('resource').filter((e) => e.name.includes('/api/')).map((e) => `${e.name.replace(/.*api/, '')} ${Math.round(e.startTime)}..${Math.round((e as PerformanceResourceTiming).responseEnd)} ${(e as PerformanceResourceTiming).decodedBodySize}`));
      console.log(name, times.join(' '), net.join(' | '));
      await browser.close();
    }
});
