import { InTurn } from '../src/base';

/** A promise, and how to keep it. */
function promised<T>() {
  let keep: (value: T) => void = () => undefined;
  const promise = new Promise<T>((resolve) => (keep = resolve));
  return { promise, keep };
}

describe('answers', () => {
  it('are heard in the order in which they were asked for, and not at all once something else began anew', async () => {
    const turn = new InTurn();
    const heard: string[] = [];
    const [slow, fast, lost] = [promised<string>(), promised<string>(), promised<string>()];
    const all = [slow, fast].map(({ promise }) => turn.hear(promise, (word) => heard.push(word)));
    fast.keep('fast');
    await Promise.resolve();
    expect(heard).toEqual([]);
    slow.keep('slow');
    await Promise.all(all);
    expect(heard).toEqual(['slow', 'fast']);
    const late = turn.hear(lost.promise, (word) => heard.push(word));
    turn.anew();
    const last = turn.hear(Promise.resolve('new'), (word) => heard.push(word));
    lost.keep('lost');
    await Promise.all([late, last]);
    expect(heard).toEqual(['slow', 'fast', 'new']);
  });

  it('that fail hold up nobody behind them', async () => {
    const turn = new InTurn();
    const heard: string[] = [];
    const failed = turn.hear(Promise.reject(new Error('no')), () => heard.push('never'));
    const after = turn.hear(Promise.resolve('after'), (word) => heard.push(word));
    await expect(failed).rejects.toThrow('no');
    await after;
    expect(heard).toEqual(['after']);
  });
});
