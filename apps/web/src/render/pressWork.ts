import { pressChecking, weighing, type Finding, type PressSettings, type WeightShare } from '@true-nib/core/audit';
import type { Entity, Page } from '@true-nib/core/page';
import { inSlices } from '../base/breath';
import type { InkDesk } from './inkDesk';

/** Checks a page before it is printed, in a worker. What was looked at once is known again until it changes. */
export class PressWork {
  private asked = 0;
  private weighed = 0;

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
    const work = gathering(this.desk.pageWith(besides), settings, found);
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

function* gathering(page: Page, settings: PressSettings, found: Finding[]): Generator<number, true> {
  for (const finding of pressChecking(page, settings)) {
    if (finding) found.push(finding);
    yield 0;
  }
  return true;
}
