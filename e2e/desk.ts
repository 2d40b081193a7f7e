import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test as base } from '@playwright/test';

const root = join(__dirname, '..');
export const SEEDED = join(root, '.cache', 'demo-for-stories');

/** A server of its own for one story, that can be killed and started again on the same data and port. */
export class Desk {
  private process: ChildProcess | undefined;
  /** Whether a story has ended the server: then a tab may say that nobody answers. */
  hasFallen = false;

  private constructor(
    readonly folder: string,
    readonly port: number,
  ) {}

  static async open(folder: string): Promise<Desk> {
    const desk = new Desk(folder, await freePort());
    await desk.start();
    return desk;
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    const server = spawn(process.execPath, [join(root, 'apps/server/dist/main.cjs')], {
      env: { ...process.env, TRUE_NIB_DATA: this.folder, PORT: String(this.port) },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.process = server;
    await new Promise<void>((resolve, reject) => {
      server.stdout.on('data', (text: Buffer) => text.includes('True Nib is at') && resolve());
      server.once('exit', (code) => reject(new Error(`The server ended with ${code} before it was up.`)));
    });
  }

  /** As a power cut would: no word of warning. */
  kill(): Promise<void> {
    return this.end('SIGKILL');
  }

  stop(): Promise<void> {
    return this.end('SIGTERM');
  }

  private end(signal: NodeJS.Signals): Promise<void> {
    this.hasFallen = true;
    const server = this.process;
    this.process = undefined;
    if (!server || server.exitCode !== null) return Promise.resolve();
    return new Promise((resolve) => {
      server.removeAllListeners('exit').once('exit', () => resolve());
      server.kill(signal);
    });
  }
}

function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject).listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() =>
        typeof address === 'object' && address ? resolve(address.port) : reject(new Error('No port is free.')),
      );
    });
  });
}

/**
 * Every story gets a desk with the demo folio, and a tab. Nothing may be thrown unheard in that, and nothing be warned of on its
 * console but what a story says it expects.
 */
export const test = base.extend<{ desk: Desk; expected: RegExp[] }>({
  // Playwright reads the fixtures that are asked for off the first parameter: none.
  // eslint-disable-next-line no-empty-pattern
  desk: async ({}, provide) => {
    const folder = mkdtempSync(join(tmpdir(), 'true-nib-story-'));
    cpSync(SEEDED, folder, { recursive: true });
    const desk = await Desk.open(folder);
    await provide(desk);
    await desk.kill();
    rmSync(folder, { recursive: true, force: true });
  },
  /** What a story expects on the console: it adds to the list. */
  // eslint-disable-next-line no-empty-pattern
  expected: async ({}, provide) => provide([]),
  page: async ({ page, desk, expected }, provide) => {
    const unheard: string[] = [];
    page.on('pageerror', ({ stack }) => unheard.push(String(stack)));
    page.on('console', (message) => {
      if (message.type() === 'error' || message.type() === 'warning') unheard.push(message.text());
    });
    await provide(page);
    if (desk.hasFallen) expected.push(/net::ERR_/);
    expect(unheard.filter((words) => !expected.some((pattern) => pattern.test(words)))).toEqual([]);
  },
});
export { expect } from '@playwright/test';
