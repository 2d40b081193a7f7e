import { createServer } from 'node:http';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import type { BoardTimes } from './board/page';
import { report } from './timing';

const root = process.cwd();
const STROKES = 5_000;

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
  const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  tab.on('pageerror', (error) => console.error(error));
  await tab.goto(`http://127.0.0.1:${port}/`);
  await tab.waitForFunction(() => 'run' in window);
  const times = await tab.evaluate(
    (count) => (window as unknown as { run(count: number): Promise<BoardTimes> }).run(count),
    STROKES,
  );
  await browser.close();
  server.close();
  const against = 'clearing and filling all 5,000 cached paths';
  const isWithin = report([
    {
      what: 'A pan frame, page of 5,000 strokes at fit, 1280 × 800 (mean of 90)',
      ours: times.pan,
      other: times.naive,
      against,
      most: 1 / 12,
    },
    { what: 'Repainting after a stroke is added', ours: times.edit, other: times.naive, against, most: 1 / 20 },
    {
      what: 'Repainting after a stroke is taken from under others',
      ours: times.removal,
      other: times.naive,
      against,
      most: 1 / 20,
    },
  ]);
  console.log(`Worst pan frame: ${times.worstPan.toFixed(1)} ms`);
  process.exitCode = isWithin ? 0 : 1;
}

void main();
