import { createServer } from 'node:http';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import type { BoardTimes, PageSizePx, ViewTimes } from './board/page';
import { report } from './timing';

const root = process.cwd();

/** Bundles the bench page, and the workers under the very names that the renderer asks for. */
async function bundled(): Promise<Map<string, string>> {
  const render = join(root, 'apps/web/src/render');
  const parts = [
    ['/bench.js', join(root, 'bench/board/page.ts')],
    ['/ink.worker.ts', join(render, 'ink.worker.ts')],
    ['/picture.worker.ts', join(render, 'picture.worker.ts')],
  ] as const;
  const files = new Map([['/', '<!doctype html><body><script type="module" src="/bench.js"></script>']]);
  for (const [address, entry] of parts) {
    const { outputFiles } = await build({
      entryPoints: [entry],
      bundle: true,
      write: false,
      format: address === '/bench.js' ? 'esm' : 'iife',
      logLevel: 'error',
    });
    files.set(address, outputFiles[0].text);
  }
  return files;
}

async function main(): Promise<void> {
  const files = await bundled();
  const server = createServer((request, response) => {
    const text = files.get(request.url ?? '');
    response
      .writeHead(text === undefined ? 404 : 200, {
        'content-type': request.url === '/' ? 'text/html' : 'text/javascript',
      })
      .end(text);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  // Each page in a tab of its own: what is left of one must not be cleared away while the next is measured.
  const run = async (count: number, size: PageSizePx, repeats: number) => {
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    tab.on('pageerror', (error) => console.error(error));
    await tab.goto(`http://127.0.0.1:${port}/`);
    await tab.waitForFunction(() => 'run' in window);
    const times = await tab.evaluate(
      ([strokes, page, frames]) => (window as unknown as BenchWindow).run(strokes, page, frames),
      [count, size, repeats] as const,
    );
    await tab.close();
    return times;
  };
  const full = await run(20_000, { width: 3_300, height: 4_200 }, 60);
  const tall = await run(20_000, { width: 1_600, height: 14_000 }, 30);
  const few = await run(5_000, { width: 3_300, height: 4_200 }, 30);
  const many = await run(50_000, { width: 3_300, height: 4_200 }, 30);
  await browser.close();
  server.close();
  const rows = (page: string, at: string, times: ViewTimes, most: Readonly<Record<Measured, number>>) =>
    (['pan', 'turn', 'edit', 'cold'] as const).map((what) => ({
      what: `${WORDS[what]}, ${page} at ${at}`,
      ours: times[what],
      other: times.naive,
      against: 'clearing and filling all cached paths',
      most: most[what],
    }));
  const fit = { pan: 1 / 50, turn: 1 / 25, edit: 1 / 60, cold: 1 / 15 };
  const oneToOne = { pan: 1 / 25, turn: 1 / 4, edit: 1 / 15, cold: 1 / 8 };
  const isWithin = report([
    ...rows('20,000 strokes', 'fit', full.fit, fit),
    ...rows('20,000 strokes', '1:1', full.oneToOne, oneToOne),
    ...rows('tall scroll, 20,000 strokes', 'fit', tall.fit, fit),
    ...rows('tall scroll, 20,000 strokes', '1:1', tall.oneToOne, oneToOne),
    {
      what: 'A pan frame at fit of 50,000 strokes',
      ours: many.fit.pan,
      other: few.fit.pan,
      against: 'one of 5,000',
      most: 2,
    },
    {
      what: 'Selecting by a loop among 20,000',
      ours: full.loop,
      other: full.loopScan,
      against: 'trying every stroke',
      most: 1 / 20,
    },
  ]);
  process.exitCode = isWithin ? 0 : 1;
}

type Measured = 'pan' | 'turn' | 'edit' | 'cold';
type BenchWindow = { run(count: number, size: PageSizePx, repeats: number): Promise<BoardTimes> };

const WORDS: Readonly<Record<Measured, string>> = {
  pan: 'A pan frame',
  turn: 'A turn frame',
  edit: 'Repainting after a stroke is added',
  cold: 'Longest block while cold tiles arrive',
};

void main();
