import { flattenSpine, STRIDE } from '../curve';
import { PageError } from '../gate';
import { carriedBy, rigidBack, type Vector } from '../math';
import { draftChange, find, type Change, type Edit, type Page } from '../page';
import { placeMap, type CameraEntity, type FaceMark, type Touching } from '../set';
import type { StrokeEntity } from '../stroke';

/** Page px by which a mark may stray from its line. */
const STRAY = 0.5;
/** Places that a mark may have. */
const MOST = 1_900;

/**
 * Lays lines on the faces under them, as a camera sees those: from then on they are marks of their blocks, which are pulled from
 * any side. A line that leaves its face goes on as another mark. Throws a PageError where no line lies on a block.
 */
export function layMarks(page: Page, camera: CameraEntity, lines: readonly StrokeEntity[], touching: Touching): Change {
  const added = new Map<string, FaceMark[]>();
  const gone: Edit[] = [];
  for (const line of lines) {
    const runs = runsOn(line, touching);
    if (runs.length === 0) continue;
    gone.push({ before: line, after: null });
    for (const { block, places } of runs) {
      const entity = find(page, 'block', block);
      if (!entity || entity.setId !== camera.setId) continue;
      const back = rigidBack(placeMap(entity));
      const course = places.flatMap((place) => carriedBy(back, place));
      added.set(block, [...(added.get(block) ?? []), { course }]);
    }
  }
  if (added.size === 0) throw new PageError('Select lines that lie over a block: they become marks on its faces.');
  const edits = [...added].flatMap(([id, marks]): Edit[] => {
    const before = find(page, 'block', id);
    return before ? [{ before, after: { ...before, marks: [...(before.marks ?? []), ...marks] } }] : [];
  });
  return draftChange('Marks on faces', [...edits, ...gone]);
}

interface Run {
  readonly block: string;
  readonly surface: number;
  readonly places: Vector[];
}

/** The stretches of a line on the surfaces that lie under it. */
function runsOn({ spine }: StrokeEntity, touching: Touching): Run[] {
  const flat = flattenSpine(spine, STRAY);
  const runs: Run[] = [];
  let last: Run | undefined;
  for (let k = 0; k < flat.length && k < STRIDE * MOST; k += STRIDE) {
    const touched = touching.at({ x: flat[k], y: flat[k + 1] });
    if (!touched) last = undefined;
    else if (last && last.block === touched.block && last.surface === touched.surface) last.places.push(touched.at);
    else runs.push((last = { block: touched.block, surface: touched.surface, places: [touched.at] }));
  }
  return runs.filter(({ places }) => places.length > 1);
}
