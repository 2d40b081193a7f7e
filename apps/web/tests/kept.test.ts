import { newLayer, washTileId, type PictureEntity } from '@true-nib/core/page';
import { Washing } from '../src/wash/washing';
import type { ReworkedTile } from '../src/render/washWork';
import { Hired } from '../src/base/hired';
import { keptHere } from '../src/base/keptHere';
import { hush } from '../src/look/notices';
import { Pictures } from '../src/render/pictures';
import { FakeServer, openSession, stroke } from './fakes';

afterEach(hush);

describe('what a browser keeps', () => {
  const own = Object.getOwnPropertyDescriptor(globalThis, 'localStorage')!;
  afterEach(() => Object.defineProperty(globalThis, 'localStorage', own));

  it('is kept until the tab closes where there is no room, and is taken from there', () => {
    keptHere.setItem('a', 'before');
    jest.spyOn(localStorage, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    keptHere.setItem('a', 'after');
    expect(keptHere.getItem('a')).toBe('after');
    jest.mocked(localStorage.setItem).mockRestore();
    keptHere.setItem('a', 'later');
    expect([keptHere.getItem('a'), localStorage.getItem('a')]).toEqual(['later', 'later']);
    keptHere.removeItem('a');
    expect(keptHere.getItem('a')).toBeNull();
  });

  it('is no reason to fail where it may not even be asked for', () => {
    Object.defineProperty(globalThis, 'localStorage', {
      ...{ configurable: true },
      get() {
        throw new DOMException('barred', 'SecurityError');
      },
    });
    expect(keptHere.getItem('b')).toBeNull();
    keptHere.setItem('b', 'here');
    expect(keptHere.getItem('b')).toBe('here');
    keptHere.removeItem('b');
    expect(keptHere.getItem('b')).toBeNull();
  });
});

describe('a worker whose program', () => {
  /** As a browser has it: what is posted goes nowhere, and an event says that the program did not come. */
  class NoProgram extends EventTarget {
    postMessage = jest.fn();
    terminate = jest.fn();
  }
  const own = { Worker: globalThis.Worker, URL: globalThis.URL };
  const hire = () => {
    const worker = new NoProgram();
    return { worker, hired: new Hired<{ count(): number }>(worker as unknown as Worker) };
  };

  it('cannot be fetched refuses what was asked before and what is asked after', async () => {
    const { worker, hired } = hire();
    const told = jest.fn();
    hired.onBroken(told);
    const before = hired.ask((service) => service.count());
    worker.dispatchEvent(new Event('error'));
    await expect(before).rejects.toThrow(/could not be fetched/);
    await expect(hired.ask((service) => service.count())).rejects.toThrow(/could not be fetched/);
    expect(told).toHaveBeenCalledTimes(1);
  });

  it('cannot be fetched leaves roughs undecoded, which is said once and not tried at every paint', async () => {
    const worker = new NoProgram();
    // What the bundler makes of an address beside a module.
    Object.assign(globalThis, { Worker: jest.fn(() => worker), URL: jest.fn() });
    const bytes = jest.fn(async () => new Blob(['x'], { type: 'image/png' }));
    const told = jest.fn();
    const pictures = new Pictures(bytes, () => undefined, told);
    const rough = { blob: 'ab', tint: 'none' } as PictureEntity;
    const ready = pictures.whenReady(rough);
    worker.dispatchEvent(new Event('error'));
    expect(await ready).toBeUndefined();
    for (let paint = 0; paint < 5; paint++) pictures.levels(rough);
    expect(await pictures.whenReady(rough)).toBeUndefined();
    expect([bytes, told].map(({ mock }) => mock.calls.length)).toEqual([1, 1]);
    pictures.dispose();
    Object.assign(globalThis, own);
  });

  it('has ended lets go of whoever waits, and answers nobody any more', async () => {
    const { worker, hired } = hire();
    const told = jest.fn();
    hired.onBroken(told);
    const answers = [hired.service.count()];
    hired.end();
    answers.push(hired.service.count());
    worker.dispatchEvent(new Event('error'));
    expect(await Promise.race([...answers, new Promise((resolve) => setTimeout(resolve, 20, 'none'))])).toBe('none');
    expect(told).not.toHaveBeenCalled();
    expect(worker.terminate).toHaveBeenCalledTimes(1);
  });

  it('is there answers, and whoever has stopped listening hears nothing', async () => {
    const { worker, hired } = hire();
    const told = jest.fn();
    hired.onBroken(told)();
    await expect(hired.ask(() => Promise.resolve(3))).resolves.toBe(3);
    worker.dispatchEvent(new Event('error'));
    expect(told).not.toHaveBeenCalled();
  });

  it('has answered is there, whatever goes wrong in it later', () => {
    const { worker, hired } = hire();
    const told = jest.fn();
    hired.onBroken(told);
    worker.dispatchEvent(new Event('message'));
    worker.dispatchEvent(new Event('error'));
    expect(told).not.toHaveBeenCalled();
  });
});

describe('marks on a Wash', () => {
  const wash = newLayer({ id: 'wash', medium: 'wash', name: 'Greys', order: 'a1' });
  const mark = { ...stroke('mark'), layerId: 'wash' };
  const tile: ReworkedTile = { layerId: 'wash', column: 0, row: 0, blob: 'ab'.repeat(32), base: undefined };

  /** A session with a Wash, and what would paint it, which answers as it is told. */
  async function atWash(work: () => Promise<readonly ReworkedTile[]>) {
    const { session, notices, outbox } = await openSession(new FakeServer());
    session.commit('Greys', [{ before: null, after: wash }]);
    const shown: string[] = [];
    const picture = {
      addMarks: (marks: readonly { id: string }[]) => void shown.push(...marks.map(({ id }) => id)),
      endMarks: (_marks: unknown, done: () => boolean) => {
        shown.length = 0;
        return done();
      },
      inks: { wash: { work } },
    };
    const washing = new Washing({ picture: picture as never, session, notice: (message) => notices.push(message) });
    return { washing, session, notices, outbox, shown };
  }

  it('are kept until they are pixels', async () => {
    const { washing, session, outbox, notices } = await atWash(async () => [tile]);
    const turned = washing.turn('Mark', 'wash', [mark]);
    expect(outbox.waiting).toHaveLength(1);
    expect(await turned).toBe(true);
    await session.flush();
    expect(session.page.entities.get(washTileId('wash', tile))).toMatchObject({ kind: 'wash', blob: tile.blob });
    expect([outbox.waiting, notices]).toEqual([[], []]);
  });

  it('that cannot become any are told of, and no longer shown', async () => {
    const { washing, notices, outbox, shown } = await atWash(() =>
      Promise.reject(new Error('Some pixels are not here.')),
    );
    expect(await washing.turn('Mark', 'wash', [mark])).toBe(false);
    expect([notices, shown]).toEqual([['Some pixels are not here.'], []]);
    await new Promise(setImmediate);
    expect(outbox.waiting).toEqual([]);
  });

  it('of an earlier visit are laid down, or told of when their layer has gone', async () => {
    const { washing, session, notices, shown, outbox } = await atWash(async () => [tile]);
    const left = (id: string, layerId: string) => {
      const change = session.keepMarks('Mark', layerId, [{ ...mark, id: `mark-${id}`, layerId }]);
      return {
        id: change,
        by: 'me',
        label: 'Mark',
        at: 1,
        needs: [layerId],
        edits: [{ before: null, after: { ...mark, id, layerId } }],
      };
    };
    washing.takeUp([left('a', 'gone'), left('b', 'wash')]);
    expect(shown).toEqual(['b']);
    await washing.settled();
    await session.flush();
    expect(notices).toEqual([expect.stringMatching(/^"Mark".*has lost its layer/)]);
    expect(outbox.waiting).toEqual([]);
  });
});
