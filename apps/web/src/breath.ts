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
