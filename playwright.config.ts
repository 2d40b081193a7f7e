import { defineConfig } from '@playwright/test';

const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

// The built app, served by the built server, each story on a fresh copy of the demo data.
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results',
  globalSetup: './e2e/seedOnce.ts',
  // Each story has a server and a folder of its own.
  workers: 2,
  // A story that needs its second try is named at the end: it is to be mended, but machines here stall for seconds at times.
  retries: 1,
  // Generous: shared machines are at times several times slower than usual.
  timeout: 180_000,
  expect: { timeout: 45_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/stories.json' }]],
  use: {
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ARGS },
    acceptDownloads: true,
    screenshot: 'only-on-failure',
  },
  projects: [
    { name: 'wide', testIgnore: /phone/, use: { viewport: { width: 1280, height: 800 } } },
    {
      name: 'phone',
      testMatch: /phone/,
      use: { viewport: { width: 390, height: 844 }, hasTouch: true },
    },
  ],
});
