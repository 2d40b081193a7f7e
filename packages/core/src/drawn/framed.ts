import { flatRing } from '../area';
import { STRIDE } from '../curve';
import type { EntityId, LaidBase } from '../kind';
import {
  boxesMeet,
  boxOfFlat,
  growBox,
  grownRings,
  legMeetsBox,
  oddRings,
  windingOf,
  withinRings,
  withoutRings,
  type Box,
  type Point,
} from '../math';
import { byOrder, ofKind, type Page } from '../page';
import type { PanelEntity } from '../panel';
import type { Drawn } from './drawn';
import type { Mark, MarkShape } from './mark';

/** Page px by which a ring may stray where it is only asked what lies in it. */
const MEASURED = 0.05;
/** Far beyond anything that is drawn, page px. */
const ALL = Float64Array.of(-1e6, -1e6, 1e6, -1e6, 1e6, 1e6, -1e6, 1e6);

/** What shows of all that is begun in a panel, and of the panel's own border. */
interface Frame {
  /** The panels over it that hide some of it. */
  readonly above: readonly PanelEntity[];
  /** The panel without those. */
  readonly within: MarkShape;
  /** The same, without the border. */
  readonly inside: MarkShape;
  /** The whole page without those; nothing where there are none. */
  readonly beneath?: MarkShape;
  readonly box: Box;
}

/** How something lies to a frame: wholly within, beside it, or so that its border cuts it. */
type Lie = 'within' | 'beside' | 'cut';

/** The panels of a page as frames: what is begun in a panel shows only within it, and a panel hides what lies in those beneath it. */
export class Frames {
  private readonly frames: ReadonlyMap<EntityId, Frame>;

  constructor(
    /** Lowest first. */
    private readonly panels: readonly PanelEntity[],
    private readonly freeLayers: ReadonlySet<EntityId>,
  ) {
    this.frames = new Map(panels.map((panel, k) => [panel.id, frameFor(panel, panels.slice(k + 1))]));
  }

  get isEmpty(): boolean {
    return this.panels.length === 0;
  }

  /** The highest panel that a place lies in. */
  panelAt(at: Point): PanelEntity | undefined {
    for (let k = this.panels.length - 1; k >= 0; k--)
      if (isWithin([flatRing(this.panels[k].ring, MEASURED)], at)) return this.panels[k];
    return undefined;
  }

  /** What shows of anything on a layer that was begun in a panel: nothing said where all of it does. */
  clipFor({ layerId, panelId }: Pick<LaidBase, 'layerId' | 'panelId'>): MarkShape | undefined {
    return this.frameFor({ layerId, panelId })?.within;
  }

  /** Whether anything of something that lies in a box can show there: not beside its panel, nor under one over that. */
  showsIn(entity: LaidBase, box: Box): boolean {
    const frame = this.frameFor(entity);
    return !frame || lieOfBox(box, frame) !== 'beside';
  }

  /** The marks of an entity as far as they are seen; its row says where they lie, and whether they go under borders. */
  framed<E extends LaidBase & { readonly kind: string }>(
    entity: E,
    marks: readonly Mark[],
    { box, endsAtBorder }: Pick<Drawn<E>, 'box' | 'endsAtBorder'>,
  ): readonly Mark[] {
    const own = this.frames.get(entity.id);
    if (own) {
      const { beneath } = own;
      return beneath ? marks.map((mark) => clipped(mark, beneath)) : marks;
    }
    const frame = this.frameFor(entity);
    if (!frame) return marks;
    const lie = lieOf(entity, frame, box);
    switch (endsAtBorder && lie === 'within' ? 'cut' : lie) {
      case 'within':
        return marks;
      case 'beside':
        return [];
      case 'cut':
        return marks.map((mark) => clipped(mark, endsAtBorder ? frame.inside : frame.within));
    }
  }

  private frameFor({ layerId, panelId }: Pick<LaidBase, 'layerId' | 'panelId'>): Frame | undefined {
    if (panelId === undefined || this.freeLayers.has(layerId)) return undefined;
    return this.frames.get(panelId);
  }
}

const framesKnown = new WeakMap<object, Frames>();

/** The frames of a page; the same while none of its panels and layers change. */
export function framesOf(page: Page): Frames {
  const { rareKinds } = page.entities;
  let frames = framesKnown.get(rareKinds);
  if (!frames) {
    const free = ofKind(page, 'layer').filter((layer) => layer.free);
    frames = new Frames(ofKind(page, 'panel').sort(byOrder), new Set(free.map(({ id }) => id)));
    framesKnown.set(rareKinds, frames);
  }
  return frames;
}

const known = new WeakMap<PanelEntity, Frame>();

/** The frame of a panel under others; the one last asked for is kept. */
function frameFor(panel: PanelEntity, others: readonly PanelEntity[]): Frame {
  const box = ringBox(panel);
  const above = others.filter((other) => boxesMeet(hidingBox(other), box));
  const last = known.get(panel);
  if (last?.above.length === above.length && above.every((one, k) => one === last.above[k])) return last;
  const of = above.flatMap(({ ring, gutter = 0 }) => [ring, gutter]);
  const without = (rings: readonly Float64Array[], tolerance: number) =>
    above.length === 0
      ? rings
      : withoutRings(
          rings,
          above.flatMap((one) => hiding(one, tolerance)),
        );
  const half = (panel.border?.nib.size ?? 0) / 2;
  const frame: Frame = {
    ...{ above, box },
    within: {
      of: [panel.ring, ...of],
      rule: 'nonzero',
      rings: (tolerance) => without([flatRing(panel.ring, tolerance)], tolerance),
    },
    inside: {
      of: [panel.ring, 'inside', half, ...of],
      rule: 'nonzero',
      rings: (tolerance) => {
        const own = [flatRing(panel.ring, tolerance)];
        return without(half > 0 ? grownRings(own, -half, 'sharp') : own, tolerance);
      },
    },
    ...(above.length > 0 && {
      beneath: {
        of: [panel.ring, 'beneath', ...of],
        rule: 'nonzero',
        rings: (tolerance) => without([ALL], tolerance),
      },
    }),
  };
  known.set(panel, frame);
  return frame;
}

/** What a panel takes from those beneath it. */
function hiding({ ring, gutter = 0 }: PanelEntity, tolerance: number): readonly Float64Array[] {
  const own = [flatRing(ring, tolerance)];
  return gutter > 0 ? grownRings(own, gutter, 'sharp') : own;
}

const ringBox = ({ ring }: PanelEntity): Box => boxOfFlat(ring.points, STRIDE);
const hidingBox = (panel: PanelEntity): Box => growBox(ringBox(panel), CORNER * (panel.gutter ?? 0));

/** How many times as far out the corner of a gutter may reach as it is wide. */
const CORNER = 4;

const lies = new WeakMap<object, { readonly frame: Frame; readonly lie: Lie }>();

/** How an entity lies to a frame; the answer last given is kept. */
function lieOf<E extends object>(entity: E, frame: Frame, boxOf: (entity: E) => Box): Lie {
  const last = lies.get(entity);
  if (last?.frame === frame) return last.lie;
  const lie = lieOfBox(boxOf(entity), frame);
  lies.set(entity, { frame, lie });
  return lie;
}

function lieOfBox(box: Box, { within, box: whole }: Frame): Lie {
  if (!boxesMeet(box, whole)) return 'beside';
  const rings = within.rings(MEASURED);
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
      if (legMeetsBox(box, ring[j], ring[j + 1], ring[i], ring[i + 1])) return 'cut';
  // No border runs through the box: one of its corners tells of all of it.
  return isWithin(rings, { x: box.minX, y: box.minY }) ? 'within' : 'beside';
}

const isWithin = (rings: readonly Float64Array[], at: Point): boolean =>
  rings.reduce((winding, ring) => winding + windingOf(ring, at), 0) !== 0;

const clips = new WeakMap<Mark, { readonly clip: MarkShape; readonly mark: Mark }>();

/** A mark of which only what lies in a shape shows; the one last asked for is kept. */
function clipped(mark: Mark, clip: MarkShape): Mark {
  const last = clips.get(mark);
  if (last?.clip === clip) return last.mark;
  const { clip: own, finer } = mark;
  const shape = own ? common(own, clip) : clip;
  const within: Mark = {
    ...mark,
    clip: shape,
    ...(finer && { finer: { ...finer, marks: () => finer.marks().map((part) => clipped(part, clip)) } }),
  };
  clips.set(mark, { clip, mark: within });
  return within;
}

/** What lies in two shapes. */
const common = (a: MarkShape, b: MarkShape): MarkShape => ({
  of: [a.of[0], 'in', ...a.of, 'and', ...b.of],
  rule: 'nonzero',
  rings: (tolerance) => withinRings(nonzero(a, tolerance), nonzero(b, tolerance)),
});

const nonzero = (shape: MarkShape, tolerance: number): readonly Float64Array[] =>
  shape.rule === 'evenodd' ? oddRings(shape.rings(tolerance)) : shape.rings(tolerance);
