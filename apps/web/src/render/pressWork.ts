import {
  pressChecking,
  weighing,
  type Finding,
  type KnownEnds,
  type PressSettings,
  type WeightShare,
} from '@true-nib/core/audit';
import type { Entity } from '@true-nib/core/page';
import { inSlices } from '../base/breath';
import type { InkDesk } from './inkDesk';

/** Checks a page before it is printed, in a worker. What was looked at once is known again until it changes. */
export class PressWork {
  private asked = 0;
  private weighed = 0;
  private readonly known: KnownEnds = {};

  constructor(private readonly desk: InkDesk) {}

  /** What is wrong with the page as it is now; tells what was found since it last told. Nothing where it was asked for anew meanwhile. */
  async check(
    besides: readonly Entity[],
    settings: PressSettings,
    tell: (some: readonly Finding[]) => void,
  ): Promise<readonly Finding[] | undefined> {
    const own = ++this.asked;
    const found: Finding[] = [];
    let told = 0;
    const work = gathering(pressChecking(this.desk.pageWith(besides), settings, this.known), found);
    const isWhole = await inSlices(work, {
      isWanted: () => own === this.asked,
      tell: () => {
        if (told < found.length) tell(found.slice(told));
        told = found.length;
      },
    });
    return isWhole && found;
  }

  /** How the weights of lines are spread; nothing where it was asked for anew meanwhile. */
  weights(scale: number): Promise<WeightShare[] | undefined> {
    const own = ++this.weighed;
    return inSlices(weighing(this.desk.pageWith([]), scale), { isWanted: () => own === this.weighed });
  }
}

function* gathering(work: ReturnType<typeof pressChecking>, found: Finding[]): Generator<number, true> {
  for (const finding of work) {
    if (finding) found.push(finding);
    yield 0;
  }
  return true;
}
