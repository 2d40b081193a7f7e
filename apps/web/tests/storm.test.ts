import { seededRandom } from '@true-nib/core/math';
import { sameValue } from '@true-nib/core/gate';
import type { Change, Page } from '@true-nib/core/page';
import { Offline } from '../src/api/request';
import type { Outbox } from '../src/session/outbox';
import { PageSession } from '../src/session/pageSession';
import { sendLeft } from '../src/session/sendLeft';
import type { Transport } from '../src/session/transport';
import { FakeOutbox, FakeServer, stroke } from './fakes';

// Two browsers with some tabs work on one page while the server comes and goes, answers late or not at all, is put back to a
// copy of its data, and tabs are left or die in the middle of what they do. When the storm is over, all hold the same page, and
// every change that was taken is on it or was told of by its name. STORMS=2000 looks at more of them.

const STORMS = Number(process.env.STORMS ?? 40);
const STEPS = 120;

type Random = () => number;
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)];
const never = <T>(): Promise<T> => new Promise<T>(() => undefined);
const later = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** What lies between tabs and server, and what has happened so far. */
class Sea {
  readonly server = new FakeServer();
  readonly notices: string[] = [];
  readonly made: { readonly id: string; readonly label: string }[] = [];
  /** What the server had, and has no more since it was put back. */
  readonly forgotten = new Set<string>();
  isStormy = true;
  private ids = 0;
  readonly newId = (): string => `id-${++this.ids}`;

  constructor(readonly random: Random) {}

  /** One way, to the server or back. */
  async cross(): Promise<void> {
    await later(this.random() * 60);
    if (this.isStormy && this.random() < 0.15) throw new Offline();
  }

  putBack(): void {
    const { journal } = this.server;
    const kept = Math.max(1, journal.length - Math.floor(this.random() * 12));
    for (const { id } of journal.slice(kept)) this.forgotten.add(id);
    this.server.journal = journal.slice(0, kept);
  }
}

interface Browser {
  readonly author: string;
  readonly outbox: FakeOutbox;
}

/** What a tab asks of others, each on its way there and back: once the tab is dead, it hears of nothing. */
function mortal<T extends Transport | Outbox>(to: T, isDead: () => boolean, way: () => Promise<void>): T {
  const ask = async (method: (...given: unknown[]) => unknown, given: unknown[]): Promise<unknown> => {
    await way();
    if (isDead()) return never();
    const answer = await Reflect.apply(method, to, given);
    await way();
    return isDead() ? never() : answer;
  };
  return new Proxy(to, {
    get: (target, name) => {
      const method: unknown = Reflect.get(target, name);
      if (typeof method !== 'function') return method;
      return (...given: unknown[]) => ask(method as (...given: unknown[]) => unknown, given);
    },
  });
}

class Tab {
  session: PageSession | undefined;
  private isDead = false;
  private isOpening = false;

  constructor(
    readonly browser: Browser,
    private readonly sea: Sea,
  ) {}

  async open(): Promise<void> {
    if (this.isOpening) return;
    this.isOpening = true;
    const { sea, browser } = this;
    const isDead = () => this.isDead;
    const session = await PageSession.open('p', {
      transport: mortal<Transport>(sea.server, isDead, () => sea.cross()),
      outbox: mortal<Outbox>(browser.outbox, isDead, async () => undefined),
      author: browser.author,
      newId: sea.newId,
      now: () => 1,
    }).catch((error: unknown) => {
      if (!(error instanceof Offline)) throw error;
    });
    this.isOpening = false;
    session?.onNotice((message) => sea.notices.push(message));
    this.session = session ?? undefined;
  }

  /** Ends it: the page is left, or the tab dies. */
  end(dies: boolean): void {
    this.isDead = dies;
    this.session?.close();
  }

  work(): void {
    const { sea, session } = this;
    const { random } = sea;
    if (!session) return void this.open();
    const chance = random();
    if (chance < 0.6) {
      const { edits, needs } = draftOn(session.page, sea);
      const id = sea.newId();
      const label = `Deed ${id}.`;
      if (session.commit(label, edits, needs, id)) sea.made.push({ id, label });
    } else if (chance < 0.75) void session.undo();
    else if (chance < 0.82) void session.redo();
    else if (chance < 0.9) void session.refresh();
  }
}

/** A new line, or another order or end for one that is there. */
function draftOn(page: Page, { random, newId }: Sea): Pick<Change, 'edits' | 'needs'> {
  const lines = [...page.entities].filter((entity) => entity.kind === 'stroke');
  if (lines.length === 0 || random() < 0.5)
    return { edits: [{ before: null, after: stroke(newId(), random() * 900) }], needs: ['inks'] };
  const before = pick(random, lines);
  return { edits: [{ before, after: random() < 0.5 ? null : { ...before, order: `a${newId()}` } }], needs: [] };
}

const inOrder = (page: Page) => [...page.entities].sort((a, b) => (a.id < b.id ? -1 : 1));

// Timers only: promise queues go on by microtasks.
beforeEach(() => jest.useFakeTimers({ doNotFake: ['queueMicrotask'] }));
afterEach(() => jest.useRealTimers());

it.each(Array.from({ length: STORMS }, (_, k) => k + 1))('a storm takes nothing silently (%i)', async (seed) => {
  const sea = new Sea(seededRandom(seed));
  const { server, random } = sea;
  const browsers = ['mine', 'yours'].map((author): Browser => ({ author, outbox: new FakeOutbox() }));
  const tabs = [0, 1, 0].map((k) => new Tab(browsers[k], sea));
  for (let k = 0; k < STEPS; k++) {
    const which = Math.floor(random() * tabs.length);
    const { browser } = tabs[which];
    tabs[which].work();
    if (random() < 0.04) server.isDown = !server.isDown;
    if (seed % 2 === 0 && random() < 0.02) sea.putBack();
    if (random() < 0.04) {
      // What was taken has reached the outbox by then.
      await jest.advanceTimersByTimeAsync(1);
      tabs[which].end(random() < 0.5);
      tabs[which] = new Tab(browser, sea);
    }
    if (random() < 0.02) void sendLeft({ transport: server, outbox: browser.outbox });
    if (random() < 0.5) await jest.advanceTimersByTimeAsync(random() * (random() < 0.2 ? 3_000 : 60));
  }

  sea.isStormy = server.isDown = false;
  for (let k = 0; k < 4; k++) {
    for (const tab of tabs) void (tab.session ? tab.session.refresh() : tab.open());
    await jest.advanceTimersByTimeAsync(5_000);
  }
  for (const { outbox } of browsers) expect(await sendLeft({ transport: server, outbox })).toEqual(new Map());
  for (const { session } of tabs) void session?.refresh();
  await jest.advanceTimersByTimeAsync(5_000);

  const there = new Set(server.journal.map(({ id }) => id));
  const isTold = (label: string) => sea.notices.some((message) => message.includes(label));
  const lost = sea.made.filter(({ id, label }) => !there.has(id) && !sea.forgotten.has(id) && !isTold(label));
  expect(lost).toEqual([]);
  // To begin anew is for what nobody could foresee.
  const anew = sea.forgotten.size > 0 ? /loaded anew/ : /loaded anew|put back/;
  expect(sea.notices.filter((message) => anew.test(message))).toEqual([]);
  for (const { session } of tabs) {
    expect(session?.state).toMatchObject({ save: 'saved', waiting: 0, revision: server.journal.length });
    expect(sameValue(inOrder(session!.page), inOrder(server.page))).toBe(true);
  }
});
