import { sameValue } from '../gate';
import type { Rack, RackNib } from './rack';

/**
 * Two racks that were changed apart, since both were `base`, as one: what only one of them changed is taken from it, and a
 * nib that both changed is as it is `here`. A nib that one side changed is never lost because the other deleted it.
 */
export function mergeRacks(base: Rack, here: Rack, there: Rack): Rack {
  const [was, ours, theirs] = [base, here, there].map((rack) => new Map(rack.map((nib) => [nib.id, nib])));
  const merged = (id: string): RackNib | undefined => {
    const [before, our, their] = [was.get(id), ours.get(id), theirs.get(id)];
    if (our && their) return sameValue(our, before) ? their : our;
    const left = our ?? their;
    // What the other side no longer has was deleted there, unless it is new or was changed here.
    return left && before && sameValue(left, before) ? undefined : left;
  };
  const ids = [...ours.keys(), ...[...theirs.keys()].filter((id) => !ours.has(id))];
  return ids.flatMap((id) => merged(id) ?? []);
}
