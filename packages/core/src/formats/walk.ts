import {
  allMarks,
  framesOf,
  isDrawn,
  marksAt,
  shownUnder,
  type DrawnEntity,
  type Frames,
  type Mark,
  type MarkShape,
} from '../drawn';
import { OUTLINE_TOLERANCE } from '../ink';
import type { EntityId } from '../kind';
import { boxesMeet, boxOfRings, oddRings, withinRings, withoutRings } from '../math';
import {
  byOrder,
  ofKind,
  paperOf,
  roughsOf,
  stackOf,
  type LayerEntity,
  type Page,
  type PageSize,
  type SeenRough,
  type StackNode,
  type WashTileEntity,
} from '../page';

/** What of a page goes into a file; hidden layers never do. */
export interface WalkChoice {
  /** Roughs are left out unless they are asked for. */
  readonly withRough?: boolean;
  /** `false` leaves the ground transparent; the page's paper otherwise. */
  readonly paper?: boolean;
  /** Tones as one mark each, for a writer that goes px by px; as their dots otherwise. */
  readonly tonesWhole?: boolean;
}

/** All that lies on a page, as files are written from it, each list lowest first. */
export interface PageWalk {
  readonly size: PageSize;
  /** `#rrggbb`; null where the ground is transparent. */
  readonly paper: string | null;
  readonly under: readonly SeenRough[];
  readonly nodes: readonly WalkNode[];
  /** Roughs that lie over the inks and multiply them. */
  readonly over: readonly SeenRough[];
}

/** A layer of the walk. */
export type WalkNode =
  | { readonly as: 'group'; readonly layer: LayerEntity; readonly children: readonly WalkNode[] }
  | { readonly as: 'wash'; readonly layer: LayerEntity; readonly tiles: readonly WashTileEntity[] }
  | { readonly as: 'ink'; readonly layer: LayerEntity; readonly parts: readonly Part[] };

/** One mark, as it was drawn or with parts of it cut away; or several of which another takes a share away. */
export type Part = Piece | { readonly beneath: readonly Part[]; readonly cut: Mark };

export interface Piece {
  readonly mark: Mark;
  /** What is left of its rings, to be filled by the non-zero rule; its own where nothing was cut away. */
  readonly rings?: readonly Float64Array[];
}

/** What every writer of files goes through: stack, frames, styles and nicks are seen to here. */
export function pageWalk(
  page: Page,
  { withRough = false, paper = true, tonesWhole = false }: WalkChoice = {},
): PageWalk {
  const laid: Laid = {
    drawn: byLayer([...page.entities].filter(isDrawn)),
    washes: byLayer(ofKind(page, 'wash')),
    frames: framesOf(page),
    tonesWhole,
  };
  const roughs = withRough ? roughsOf(page) : { under: [], over: [] };
  return {
    size: page.size,
    paper: paper ? paperOf(page) : null,
    under: roughs.under,
    nodes: nodesOf(stackOf(page), laid),
    over: roughs.over,
  };
}

interface Laid {
  readonly drawn: ReadonlyMap<EntityId, readonly DrawnEntity[]>;
  readonly washes: ReadonlyMap<EntityId, readonly WashTileEntity[]>;
  readonly frames: Frames;
  readonly tonesWhole: boolean;
}

function nodesOf(stack: readonly StackNode[], laid: Laid): WalkNode[] {
  return stack.flatMap(({ layer, children, isHidden }): WalkNode[] => {
    if (isHidden) return [];
    switch (layer.medium) {
      case 'group':
        return [{ as: 'group', layer, children: nodesOf(children, laid) }];
      case 'rough':
        return [];
      case 'wash':
        return [{ as: 'wash', layer, tiles: laid.washes.get(layer.id) ?? [] }];
      case 'ink':
        return [{ as: 'ink', layer, parts: partsOn(layer, laid) }];
    }
  });
}

/** What lies on a layer as the layer shows it; a stand-in colour is never delivered. */
function partsOn(layer: LayerEntity, { drawn, frames, tonesWhole }: Laid): Part[] {
  const own = [...(drawn.get(layer.id) ?? [])].sort(byOrder).map((entity) => shownUnder(entity, layer.style));
  const marks = allMarks(own, frames);
  // A file is as fine as it can be.
  return partsOf(tonesWhole ? marks : marksAt(marks, Infinity));
}

/**
 * Marks as parts, lowest first. What a mark cuts away is gone from all that lies beneath it, as geometry: programs that print know
 * no masks. Where it takes away a share alone, it stands over what lies beneath.
 */
export function partsOf(marks: readonly Mark[]): Part[] {
  let parts: Part[] = [];
  for (const mark of marks) {
    if (!mark.cuts) parts.push({ mark });
    else if (mark.opacity < 1) parts = parts.length > 0 ? [{ beneath: parts, cut: mark }] : [];
    else parts = cutOut(parts, mark);
  }
  return parts;
}

/** The rings of a part and how they are filled, straying by no more than `tolerance` page px where they are whole. */
export const filledOf = (
  { mark, rings }: Piece,
  tolerance: number,
): { readonly rings: readonly Float64Array[]; readonly rule: MarkShape['rule'] } =>
  rings ? { rings, rule: 'nonzero' } : { rings: mark.rings(tolerance), rule: mark.rule };

/** Parts of which nothing is taken away by a share: half and more is all, and less is nothing. */
export const decided = (parts: readonly Part[]): Piece[] =>
  parts.flatMap((part) => {
    if ('mark' in part) return part;
    const beneath = decided(part.beneath);
    return part.cut.opacity < 0.5 ? beneath : decided(cutOut(beneath, part.cut));
  });

/** Runs of parts that one clip holds, in their order. */
export function clipped(parts: readonly Part[]): { readonly clip?: MarkShape; readonly parts: readonly Part[] }[] {
  const runs: { clip?: MarkShape; parts: Part[] }[] = [];
  for (const part of parts) {
    const clip = 'mark' in part ? part.mark.clip : undefined;
    const last = runs.at(-1);
    if (last && last.clip === clip) last.parts.push(part);
    else runs.push({ ...(clip && { clip }), parts: [part] });
  }
  return runs;
}

/** Parts without what lies in the rings of a mark. */
function cutOut(parts: readonly Part[], nick: Mark): Part[] {
  const whole = nonzero(nick.rings(OUTLINE_TOLERANCE), nick.rule);
  const { clip } = nick;
  const gone = clip ? withinRings(whole, nonzero(clip.rings(OUTLINE_TOLERANCE), clip.rule)) : whole;
  const reach = boxOfRings(gone);
  const without = (part: Part): Part[] => {
    if ('beneath' in part) return [{ ...part, beneath: part.beneath.flatMap(without) }];
    const { rings, rule } = filledOf(part, OUTLINE_TOLERANCE);
    if (!boxesMeet(boxOfRings(rings), reach)) return [part];
    const left = withoutRings(nonzero(rings, rule), gone);
    return left.length > 0 ? [{ mark: part.mark, rings: left }] : [];
  };
  return parts.flatMap(without);
}

/** Rings that are filled alike by the non-zero rule. */
const nonzero = (rings: readonly Float64Array[], rule: MarkShape['rule']): readonly Float64Array[] =>
  rule === 'evenodd' ? oddRings(rings) : rings;

function byLayer<E extends { readonly layerId: EntityId }>(entities: readonly E[]): Map<EntityId, E[]> {
  const groups = new Map<EntityId, E[]>();
  for (const entity of entities) {
    const group = groups.get(entity.layerId);
    if (group) group.push(entity);
    else groups.set(entity.layerId, [entity]);
  }
  return groups;
}
