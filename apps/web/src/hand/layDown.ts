import { asEntities, type Board } from '../board';
import { isAreaThing, type Thing } from '@true-nib/core/drawn';
import type { Edit, LayerEntity } from '@true-nib/core/page';
import { NIB_LIMITS, type Nib } from '@true-nib/core/nib';
import type { SamplesEntity, Stroke } from '@true-nib/core/stroke';
import { thingsWithCopies } from '../guiding';
import { lastEndSlot } from './lastEnd';
import { washingSlot } from '../wash';

/** Where a line goes: its layer, and the edits that bring that about. */
export interface LineTarget {
  readonly layer: LayerEntity;
  readonly edits: readonly Edit[];
}

/**
 * Makes lines and areas, which are shown already, part of the page, with their symmetric copies: one change. Nodes or pixels
 * come of it as the layer has them. `samples` are the hand's, where a hand drew it.
 */
export function layDown(
  board: Board,
  { layer, edits }: LineTarget,
  label: string,
  things: readonly Thing[],
  samples?: SamplesEntity,
): void {
  const { picture, session } = board;
  const last = things.at(-1);
  if (last && !isAreaThing(last)) board.of(lastEndSlot).remember(last.spine);
  const all = thingsWithCopies(session.page, layer.id, things);
  const top = picture.inks.index.topOrder(layer.id);
  if (layer.medium === 'wash') {
    const entities = asEntities(all.map(asMark), layer.id, top);
    picture.layDownLive(() => {
      picture.addMarks(entities);
      return true;
    });
    return void board.of(washingSlot).turn(label, layer.id, entities);
  }
  const entities = asEntities(all, layer.id, top);
  const isDrawn = samples !== undefined && things.some((thing) => !isAreaThing(thing) && thing.origin !== undefined);
  const drawn = [...(isDrawn ? [samples] : []), ...entities].map((after): Edit => ({ before: null, after }));
  picture.layDownLive(() => session.commit(label, [...edits, ...drawn]));
}

/** A thing as a mark that becomes pixels: an area is filled, or cleared, within its outer ring. */
function asMark(thing: Thing): Stroke {
  if (!isAreaThing(thing)) return thing;
  const { rings, fill } = thing;
  return {
    spine: rings[0],
    nib: fill.as === 'nothing' ? { ...PLAIN, lays: 'clearing' } : { ...PLAIN, color: fill.color },
    ends: ['round', 'round'],
    fills: true,
  };
}

/** The nib of a mark without a line. */
const PLAIN: Nib = { name: 'Area', size: NIB_LIMITS.least, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
