import { mapSpine, type Spine } from '../curve';
import { ringsOfLabel } from './chains';
import type { RegionMap } from './regionMap';
import { MOST_UNDER, patchAround, spreadUnder, type Patch, type Under } from './spread';

/** A region as the rings of an area, page px: carried under the ink round it as far as is said. */
export function areaOf(map: RegionMap, region: number, { under }: { readonly under: Under }): Spine[] {
  const by = under === 'middle' ? MOST_UNDER : Math.ceil(under);
  return ringsOnPage(map, spreadUnder(map, patchAround(map, [region], by + 1), under), region);
}

/** What has one number in a patch, as rings on the page. */
export function ringsOnPage({ basins: { coverage } }: RegionMap, patch: Patch, label: number): Spine[] {
  const { scale, x, y } = coverage;
  return ringsOfLabel(patch, label).map((ring) => mapSpine(ring, [1 / scale, 0, 0, 1 / scale, x, y], 0));
}
