/**
 * Lets the screen breathe in the middle of long work: whatever waits (input, frames, messages) goes first. Timers would not
 * do, since nested ones wait at least 4 ms each (HTML Standard, §8.7 Timers), and there are many.
 */
export function breath(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
}

/** What `work` answers for all of a list, some at a time, with a breath between the parts. Throws what `work` throws. */
export async function inParts<T, R>(
  list: readonly T[],
  each: number,
  work: (some: readonly T[]) => readonly R[],
): Promise<readonly R[]> {
  if (list.length <= each) return work(list);
  const done: R[] = [];
  for (let from = 0; from < list.length; from += each) {
    if (from > 0) await breath();
    for (const one of work(list.slice(from, from + each))) done.push(one);
  }
  return done;
}

/** ms of work between two breaths, in which something newer can come in. */
const SLICE = 30;

/** Goes through work that yields the share that is done, in slices; answers nothing where it is wanted no more. */
export async function inSlices<T>(
  work: Generator<number, T>,
  { isWanted = () => true, tell }: { readonly isWanted?: () => boolean; readonly tell?: (share: number) => void } = {},
): Promise<T | undefined> {
  let start = performance.now();
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    if (performance.now() - start < SLICE) continue;
    tell?.(step.value);
    await breath();
    if (!isWanted()) return undefined;
    start = performance.now();
  }
}
