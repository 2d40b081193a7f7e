import { existsSync, readFileSync } from 'node:fs';

const middle = (times: number[]): number => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

/** The median times of two works, ms, done turn by turn so that a noisy machine is noisy for both. */
export function medians(rounds: number, ours: () => void, other: () => void): { ours: number; other: number } {
  const once = (work: () => void): number => {
    const start = performance.now();
    work();
    return performance.now() - start;
  };
  for (let k = 0; k < 50; k++) [ours, other].forEach(once);
  const times = Array.from({ length: rounds }, () => [once(ours), once(other)] as const);
  return { ours: middle(times.map(([a]) => a)), other: middle(times.map(([, b]) => b)) };
}

export { middle };

/**
 * How long the processors have run, and how long of that a host had given them to other machines, in ticks (proc(5), the first
 * line of /proc/stat); nothing where there is no such file.
 */
export function processorTimes(): { readonly all: number; readonly stolen: number } {
  if (!existsSync('/proc/stat')) return { all: 0, stolen: 0 };
  const ticks = readFileSync('/proc/stat', 'utf8').split('\n', 1)[0].trim().split(/\s+/).slice(1, 9).map(Number);
  return { all: ticks.reduce((sum, one) => sum + one, 0), stolen: ticks[7] ?? 0 };
}

/** What other machines took of the processors since then, in words: beyond a tenth, no time tells anything. */
export function noise(since: ReturnType<typeof processorTimes>): string {
  const now = processorTimes();
  const share = (100 * (now.stolen - since.stolen)) / Math.max(1, now.all - since.all);
  return share >= 5 ? `, ${share.toFixed(0)} % of the processors taken by others` : '';
}

export interface Row {
  readonly what: string;
  readonly ours: number;
  readonly other: number;
  readonly against: string;
  /** The greatest share of the other's time that ours may take. */
  readonly most: number;
}

/** Prints times and ratios of one run; answers whether every ratio is within its bound. */
export function report(rows: readonly Row[]): boolean {
  let areAllWithin = true;
  for (const { what, ours, other, against, most } of rows) {
    const ratio = ours / other;
    const isWithin = ratio <= most;
    areAllWithin &&= isWithin;
    const bound = most < 1 ? `1/${Math.round(1 / most)}` : String(most);
    const times = ratio < 1 ? `1/${(1 / ratio).toFixed(1)}` : ratio.toFixed(2);
    console.log(
      `${what}\n  ${ours.toFixed(3)} ms against ${other.toFixed(3)} ms (${against}): ratio ${times}, bound ${bound}${isWithin ? '' : '  OVER'}`,
    );
  }
  return areAllWithin;
}
