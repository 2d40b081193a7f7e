import { sameValue } from '@true-nib/core/gate';
import type { Page } from '@true-nib/core/page';
import type { PageSession } from '../src/session/pageSession';
import { sendLeft } from '../src/session/sendLeft';
import { draw, FakeOutbox, FakeServer, inks, openSession, stroke } from './fakes';

const ids = (page: Page) => [...page.entities].map(({ id }) => id).sort();

/** What a tab leaves behind that draws a line while the server is gone, and dies. */
async function leftUnsent(
  server: FakeServer,
  more: (session: PageSession) => void = () => undefined,
): Promise<FakeOutbox> {
  const { session, outbox } = await openSession(server);
  server.isDown = true;
  draw(session, 'a');
  more(session);
  await session.flush();
  session.close();
  server.isDown = false;
  return outbox;
}

// Timers only: promise queues go on by microtasks.
beforeEach(() => jest.useFakeTimers({ doNotFake: ['queueMicrotask'] }));
afterEach(() => jest.useRealTimers());

describe('drawing on a page', () => {
  it('is shown at once and saved behind one’s back', async () => {
    const server = new FakeServer();
    const { session, outbox } = await openSession(server);
    expect(draw(session, 'a')).toBe(true);
    expect(ids(session.page)).toEqual(['a', 'inks']);
    expect(session.state).toMatchObject({ save: 'saving', waiting: 1 });
    await session.flush();
    expect(session.state).toMatchObject({ save: 'saved', waiting: 0, revision: 2 });
    expect(ids(server.page)).toEqual(['a', 'inks']);
    expect(outbox.changes).toEqual([]);
  });

  it('goes on while the server is gone, and catches up when it is back', async () => {
    const server = new FakeServer();
    const { session, outbox } = await openSession(server);
    server.isDown = true;
    draw(session, 'a');
    draw(session, 'b', 100);
    await session.flush();
    expect(session.state).toMatchObject({ save: 'offline', waiting: 2 });
    expect(outbox.changes).toHaveLength(2);
    server.isDown = false;
    await jest.advanceTimersByTimeAsync(2_500);
    expect(session.state).toMatchObject({ save: 'saved', waiting: 0 });
    expect(ids(server.page)).toEqual(['a', 'b', 'inks']);
  });

  it('is saved where the browser keeps nothing, which is said once; what is in the tab alone is known', async () => {
    const server = new FakeServer();
    const outbox = new FakeOutbox();
    const refuses = jest.spyOn(outbox, 'add').mockRejectedValue(new Error('There is no room.'));
    const { session, notices } = await openSession(server, outbox);
    draw(session, 'a');
    await session.flush();
    expect(ids(server.page)).toEqual(['a', 'inks']);
    expect(session.wouldBeLost).toBe(false);
    server.isDown = true;
    draw(session, 'b', 100);
    await session.flush();
    expect(session.wouldBeLost).toBe(true);
    expect(notices).toEqual([expect.stringContaining('keeps nothing for us')]);
    refuses.mockRestore();
    draw(session, 'c', 200);
    await session.flush();
    expect(session.wouldBeLost).toBe(true);
    server.isDown = false;
    await session.flush();
    expect(ids(server.page)).toEqual(['a', 'b', 'c', 'inks']);
    expect(session.wouldBeLost).toBe(false);
  });

  it('is found again by the next tab when this one dies unsaved', async () => {
    const server = new FakeServer();
    const outbox = await leftUnsent(server);
    const second = await openSession(server, outbox);
    expect(ids(second.session.page)).toEqual(['a', 'inks']);
    await second.session.flush();
    expect(ids(server.page)).toEqual(['a', 'inks']);
  });

  it('says when what waited for the next tab has lost its layer meanwhile', async () => {
    const server = new FakeServer();
    const outbox = await leftUnsent(server, (session) => {
      draw(session, 'b', 60);
      session.commit('Lift', [{ before: stroke('b', 60), after: null }]);
    });
    const other = await openSession(server, new FakeOutbox(), 'other');
    other.session.commit('Delete', [{ before: inks, after: null }]);
    await other.session.flush();
    const { session, notices } = await openSession(server, outbox);
    expect(notices).toEqual(['What was still to be saved does not fit this page any more: "Stroke" (2), "Lift".']);
    expect(ids(session.page)).toEqual([]);
    expect(outbox.changes).toEqual([]);
  });

  it('is saved once though its answer was lost', async () => {
    const server = new FakeServer();
    const { session } = await openSession(server);
    server.losesAnswers = true;
    draw(session, 'a');
    await session.flush();
    await jest.advanceTimersByTimeAsync(2_500);
    expect(server.journal.filter(({ label }) => label === 'Stroke')).toHaveLength(1);
    expect(session.state.save).toBe('saved');
  });
});

describe('a server that answers, but not as it did', () => {
  it('whose page was deleted keeps no line from being there when it is restored, and is told of once', async () => {
    const server = new FakeServer();
    const { session, notices, outbox } = await openSession(server);
    server.isDeleted = true;
    await session.refresh();
    draw(session, 'a');
    await session.flush();
    await jest.advanceTimersByTimeAsync(5_000);
    expect(session.state).toMatchObject({ save: 'unsaved', waiting: 1 });
    expect(ids(session.page)).toEqual(['a', 'inks']);
    expect(outbox.changes).toHaveLength(1);
    expect(notices).toEqual([expect.stringMatching(/no such page.*kept in this browser/)]);
    server.isDeleted = false;
    await jest.advanceTimersByTimeAsync(2_500);
    expect(session.state.save).toBe('saved');
    expect(ids(server.page)).toEqual(['a', 'inks']);
  });

  it.each([
    ['when it sends a line', (session: PageSession) => void draw(session, 'c', 60)],
    ['when it looks for news', () => undefined],
  ])('that was put back to a copy is gone on from as it is now, %s', async (_when, work) => {
    const server = new FakeServer();
    const { session, notices } = await openSession(server);
    draw(session, 'a');
    await session.flush();
    const copy = [...server.journal];
    draw(session, 'b', 30);
    await session.flush();
    server.journal = copy;
    work(session);
    await session.flush();
    await session.refresh();
    expect(session.state).toMatchObject({ save: 'saved', waiting: 0, revision: server.journal.length });
    expect(ids(session.page)).toEqual(ids(server.page));
    expect(ids(session.page)).not.toContain('b');
    expect(notices).toEqual([expect.stringMatching(/put back/)]);
    expect(await session.undo()).toBe(true);
    await session.flush();
    expect(ids(server.page)).toEqual(ids(session.page));
  });
});

describe('what an earlier visit left', () => {
  const send = (server: FakeServer, outbox: FakeOutbox) => sendLeft({ transport: server, outbox });

  it('is sent without opening the page, after its pictures and on top of what others did', async () => {
    const server = new FakeServer();
    const outbox = await leftUnsent(server);
    await outbox.addBlob('ab', new Blob(['x']));
    const other = await openSession(server, new FakeOutbox(), 'other');
    draw(other.session, 'b', 100);
    await other.session.flush();
    expect(await send(server, outbox)).toEqual(new Map());
    expect(ids(server.page)).toEqual(['a', 'b', 'inks']);
    expect(server.sentBlobs).toEqual(['ab']);
    expect([outbox.changes, outbox.kept.size]).toEqual([[], 0]);
    expect(await send(server, outbox)).toEqual(new Map());
    expect(server.journal).toHaveLength(3);
  });

  it('is not sent twice when the answer was lost', async () => {
    const server = new FakeServer();
    const outbox = await leftUnsent(server);
    server.losesAnswers = true;
    expect(await send(server, outbox)).toEqual(new Map([['p', 1]]));
    expect(await send(server, outbox)).toEqual(new Map());
    expect(server.journal).toHaveLength(2);
  });

  it.each([
    ['the server is gone', (server: FakeServer) => void (server.isDown = true)],
    ['the page was deleted', (server: FakeServer) => void (server.isDeleted = true)],
    [
      'it no longer fits',
      (server: FakeServer) =>
        server.journal.push({
          ...server.journal[0],
          ...{ id: 'gone', edits: [{ before: inks, after: null }] },
        }),
    ],
  ])('stays for whoever opens the page while %s', async (_why, happens) => {
    const server = new FakeServer();
    const outbox = await leftUnsent(server);
    happens(server);
    expect(await send(server, outbox)).toEqual(new Map([['p', 1]]));
    expect(outbox.changes).toHaveLength(1);
  });

  it('counts marks that are to become pixels, which need the page', async () => {
    const server = new FakeServer();
    const { session, outbox } = await openSession(server);
    session.keepMarks('Rub', 'inks', [stroke('mark')]);
    session.close();
    expect(await send(server, outbox)).toEqual(new Map([['p', 1]]));
  });
});

describe('leaving', () => {
  it('does not keep what is on its way from being sent, and leaves what is refused to the next visit', async () => {
    const server = new FakeServer();
    const { session, outbox, notices } = await openSession(server);
    draw(session, 'a');
    session.close();
    await session.flush();
    expect(ids(server.page)).toEqual(['a', 'inks']);
    expect(outbox.changes).toEqual([]);
    server.journal.push({ ...server.journal[0], id: 'gone', edits: [{ before: inks, after: null }] });
    draw(session, 'b');
    await session.flush();
    expect(outbox.changes).toHaveLength(1);
    expect(notices).toEqual([]);
  });

  const many = Array.from({ length: 40 }, (_, k) => ({ before: null, after: stroke(`many-${k}`, k) }));

  it('writes at once what was still being packed and what is kept on the way out, each once and in order', async () => {
    const server = new FakeServer();
    const { session, outbox } = await openSession(server);
    session.commit('Rake', many);
    // A large change waits for a breath, so that the hand is not held up.
    expect(outbox.changes).toEqual([]);
    session.beforeLeaving(
      () =>
        void session.commit(
          'Move',
          many.map(({ after }) => ({ before: after, after: null })),
        ),
    );
    expect(outbox.changes.map(({ change }) => change.label)).toEqual(['Rake', 'Move']);
    jest.useRealTimers();
    await session.flush();
    expect(server.journal.map(({ label }) => label)).toEqual(['Inks', 'Rake', 'Move']);
    expect(outbox.changes).toEqual([]);
  });

  it('leaves nothing in the outbox that the server has, though its answer never came', async () => {
    const server = new FakeServer();
    const outbox = new FakeOutbox();
    const first = await openSession(server, outbox);
    server.losesAnswers = true;
    draw(first.session, 'a');
    await first.session.flush();
    first.session.close();
    expect(outbox.changes).toHaveLength(1);
    const second = await openSession(server, outbox);
    expect(ids(second.session.page)).toEqual(['a', 'inks']);
    expect(outbox.changes).toEqual([]);
  });
});

describe('marks that are to become pixels', () => {
  const marks = [stroke('mark')];
  const pixels = [{ before: null, after: stroke('pixels') }];

  it('wait for the next tab when this one dies, and are told there once', async () => {
    const server = new FakeServer();
    const outbox = new FakeOutbox();
    const first = await openSession(server, outbox);
    const id = first.session.keepMarks('Rub', 'inks', marks);
    first.session.close();
    const { session } = await openSession(server, outbox);
    const [left, ...more] = session.takeLeftMarks();
    expect([left.id, left.label, left.needs, more]).toEqual([id, 'Rub', ['inks'], []]);
    expect(sameValue(left.edits, [{ before: null, after: marks[0] }])).toBe(true);
    expect(session.takeLeftMarks()).toEqual([]);
    session.commit('Rub', pixels, ['inks'], id);
    session.forgetMarks(id);
    await session.flush();
    expect(outbox.waiting).toEqual([]);
  });

  it('are not taken up again when they had become pixels just before', async () => {
    const server = new FakeServer();
    const outbox = new FakeOutbox();
    const first = await openSession(server, outbox);
    const id = first.session.keepMarks('Rub', 'inks', marks);
    server.isDown = true;
    // The tab dies between the change and the moment when its marks are let go.
    first.session.commit('Rub', pixels, ['inks'], id);
    await first.session.flush();
    first.session.close();
    expect(outbox.waiting).toHaveLength(1);
    server.isDown = false;
    const second = await openSession(server, outbox);
    expect(second.session.takeLeftMarks()).toEqual([]);
    expect(ids(second.session.page)).toEqual(['inks', 'pixels']);
    expect(outbox.waiting).toEqual([]);
  });
});

describe('undo', () => {
  it('takes back and does again, and is itself saved', async () => {
    const server = new FakeServer();
    const { session } = await openSession(server);
    draw(session, 'a');
    await session.undo();
    expect(ids(session.page)).toEqual(['inks']);
    await session.redo();
    await session.flush();
    expect(ids(server.page)).toEqual(['a', 'inks']);
    expect(server.journal).toHaveLength(4);
  });

  it('reaches back over a reload, and never into the work of others', async () => {
    const server = new FakeServer();
    const first = await openSession(server);
    draw(first.session, 'a');
    draw(first.session, 'b', 80);
    await first.session.flush();
    const second = await openSession(server);
    expect(await second.session.undo()).toBe(true);
    expect(await second.session.undo()).toBe(true);
    expect(await second.session.undo()).toBe(false);
    expect(ids(second.session.page)).toEqual(['inks']);
  });

  it('pressed fast takes back as many steps as it was pressed', async () => {
    const { session } = await openSession(new FakeServer());
    for (let k = 0; k < 8; k++) draw(session, `s${k}`, 10 * k);
    await Promise.all(Array.from({ length: 5 }, () => session.undo()));
    expect(ids(session.page)).toEqual(['inks', 's0', 's1', 's2']);
  });

  it('of a page that another tab has deleted says why, and hurts nobody', async () => {
    const server = new FakeServer();
    const first = await openSession(server);
    draw(first.session, 'a');
    await first.session.flush();
    const { session, notices } = await openSession(server);
    server.isDeleted = true;
    await expect(session.undo()).resolves.toBe(false);
    expect(notices.at(-1)).toMatch(/cannot be taken back now.*There is no such page/);
    expect(ids(session.page)).toEqual(['a', 'inks']);
  });

  it('in one tab of what another has drawn over meanwhile offers each step once after a reload', async () => {
    const server = new FakeServer();
    const [one, two] = [await openSession(server), await openSession(server)];
    draw(one.session, 'a');
    await one.session.flush();
    draw(two.session, 'b', 100);
    await two.session.flush();
    await one.session.undo();
    await one.session.flush();
    const later = await openSession(server);
    expect(ids(later.session.page)).toEqual(['b', 'inks']);
    expect(await later.session.undo()).toBe(true);
    expect(await later.session.undo()).toBe(false);
    expect(later.notices).toEqual([]);
    expect(ids(later.session.page)).toEqual(['inks']);
  });

  it('passes over a step that no longer fits, and says so', async () => {
    const server = new FakeServer();
    const mine = await openSession(server);
    draw(mine.session, 'a');
    await mine.session.flush();
    const other = await openSession(server, new FakeOutbox(), 'other');
    other.session.commit('Lift', [{ before: stroke('a'), after: null }]);
    await other.session.flush();
    await mine.session.refresh();
    expect(ids(mine.session.page)).toEqual(['inks']);
    expect(await mine.session.undo()).toBe(false);
    expect(mine.notices.at(-1)).toMatch(/no longer on the page/);
    expect(mine.session.state.history.done).toEqual([]);
  });
});

describe('two tabs', () => {
  it('do not lose each other’s strokes', async () => {
    const server = new FakeServer();
    const [one, two] = [await openSession(server), await openSession(server, new FakeOutbox(), 'you')];
    draw(one.session, 'a');
    await one.session.flush();
    draw(two.session, 'b', 100);
    await two.session.flush();
    expect(ids(two.session.page)).toEqual(['a', 'b', 'inks']);
    await one.session.refresh();
    expect(ids(one.session.page)).toEqual(['a', 'b', 'inks']);
    expect(sameValue([...one.session.page.entities].map(({ id }) => id).sort(), ids(server.page))).toBe(true);
  });

  it('hear of all that the other did, however much it was', async () => {
    const server = new FakeServer();
    server.atMost = 3;
    const [one, two] = [await openSession(server), await openSession(server, new FakeOutbox(), 'you')];
    for (let k = 0; k < 8; k++) draw(two.session, `s${k}`, 10 * k);
    await two.session.flush();
    // Coming to the front and the other's word fall together.
    await Promise.all([one.session.refresh(), one.session.refresh()]);
    expect(ids(one.session.page)).toEqual(ids(server.page));
    expect(one.session.state.revision).toBe(server.journal.length);
  });

  it('that change the same line: the first stands, the second is told and taken back', async () => {
    const server = new FakeServer();
    const start = await openSession(server);
    draw(start.session, 'a');
    await start.session.flush();
    const [one, two] = [await openSession(server), await openSession(server, new FakeOutbox(), 'you')];
    one.session.commit('Move', [{ before: stroke('a'), after: stroke('a', 500) }]);
    await one.session.flush();
    two.session.commit('Lift', [{ before: stroke('a'), after: null }]);
    await two.session.flush();
    expect(two.notices).toEqual(['Taken back, since others changed the same: "Lift".']);
    expect(two.session.page.entities.get('a')).toMatchObject({ id: 'a' });
    expect(two.session.state.save).toBe('saved');
  });
});

describe('pictures in the outbox', () => {
  it('are sent before the change that needs them', async () => {
    const server = new FakeServer();
    const { session, outbox } = await openSession(server);
    await session.keepBlob('ab', new Blob(['x']));
    expect(await (await session.blob('ab')).text()).toBe('x');
    draw(session, 'a');
    await session.flush();
    expect(server.sentBlobs).toEqual(['ab']);
    expect(outbox.kept.size).toBe(0);
    expect(await (await session.blob('ab')).text()).toBe('from the server');
  });

  it('that the server refuses do not hold up the strokes behind them', async () => {
    const server = new FakeServer();
    server.refusesBlobs = true;
    const { session, notices } = await openSession(server);
    await session.keepBlob('ab', new Blob(['x']));
    draw(session, 'a');
    draw(session, 'b', 100);
    await session.flush();
    expect(notices).toEqual([expect.stringMatching(/cut short/)]);
    expect(ids(server.page)).toEqual(['a', 'b', 'inks']);
    expect(session.state.save).toBe('saved');
  });
});

it('tells who listens what has changed, until they stop', async () => {
  const { session } = await openSession(new FakeServer());
  const heard: string[] = [];
  const stops = [session.onState(() => heard.push('state')), session.onPage(() => heard.push('page'))];
  draw(session, 'a');
  expect(heard).toContain('page');
  stops.forEach((stop) => stop());
  heard.length = 0;
  draw(session, 'b', 100);
  expect(heard).toEqual([]);
});
