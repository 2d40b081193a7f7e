import {
  bodyMiddle,
  directionTo,
  nearestBody,
  type Balloon,
  type BalloonEntity,
  type Body,
  type Bridge,
  type Tail,
  type TailKind,
} from '../balloon';
import { mapped } from '../drawn';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import type { Lettering, LetteringEntity } from '../lettering';
import { distance, projectiveOf, translation, type Matrix3x3, type Point } from '../math';
import { INK_BLACK, PAPER_WHITE, type Nib } from '../nib';
import {
  byOrder,
  copyUnder,
  draftChange,
  find,
  freeLayerName,
  mmToPx,
  newLayer,
  nodeOf,
  ofKind,
  ordersBetween,
  topOfStack,
  type Change,
  type Edit,
  type LayerEntity,
  type Page,
} from '../page';

/** mm that the border of a new balloon is wide. */
const BORDER_MM = 0.45;

/** The border that a new balloon has, at a ppi. */
export const balloonBorder = (ppi: number): Nib => ({
  ...{ name: 'Balloon', size: mmToPx(BORDER_MM, ppi), thinnest: 1, taperIn: 0, taperOut: 0 },
  color: INK_BLACK,
});

/** The balloons and the texts of a page, lowest first. */
export const balloonsOn = (page: Page): BalloonEntity[] => ofKind(page, 'balloon').sort(byOrder);
export const letteringOn = (page: Page): LetteringEntity[] => ofKind(page, 'lettering').sort(byOrder);

/** The texts that stand in a balloon. */
export const letteringIn = (page: Page, balloonId: EntityId): LetteringEntity[] =>
  letteringOn(page).filter(({ fit }) => fit.as === 'balloon' && fit.balloonId === balloonId);

/** The layers that lettering lies on: whoever draws goes to another one. */
export const letterLayers = (page: Page): ReadonlySet<EntityId> =>
  new Set([...ofKind(page, 'balloon'), ...ofKind(page, 'lettering')].map(({ layerId }) => layerId));

/** The layer that balloons and texts go to: that of those there are, or one to be added over all others. */
export function letterLayer(
  page: Page,
  newId: () => EntityId,
): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } {
  const last = [...balloonsOn(page), ...letteringOn(page)].sort(byOrder).at(-1);
  const layer = last && find(page, 'layer', last.layerId);
  if (layer) {
    if (nodeOf(page, layer.id)?.isLocked) throw new PageError(`${layer.name} is locked.`);
    return { layer, edits: [] };
  }
  const added = newLayer({
    ...{ id: newId(), medium: 'ink', name: freeLayerName(page, 'Lettering') },
    order: topOfStack(page),
  });
  return { layer: added, edits: [{ before: null, after: added }] };
}

/** A balloon to be added with the texts of its bodies, or a text on its own. */
export interface NewLetters {
  readonly balloon?: Balloon;
  readonly texts: readonly Lettering[];
  readonly panelId?: EntityId | undefined;
}

/** Adds balloons with their texts, and texts of their own, over those there are. */
export function addLetters(page: Page, all: readonly NewLetters[], label: string, newId: () => EntityId): Change {
  const { layer, edits } = letterLayer(page, newId);
  const top = [...balloonsOn(page), ...letteringOn(page)].sort(byOrder).at(-1)?.order;
  const count = all.reduce((sum, { balloon, texts }) => sum + (balloon ? 1 : 0) + texts.length, 0);
  const orders = ordersBetween(top, undefined, count);
  let next = 0;
  const added = all.flatMap(({ balloon, texts, panelId }): Edit[] => {
    const place = () => ({
      ...{ id: newId(), layerId: layer.id, order: orders[next++] },
      ...(panelId !== undefined && { panelId }),
    });
    const body: BalloonEntity | undefined = balloon && { kind: 'balloon', ...place(), ...balloon };
    const letters = texts.map((text): LetteringEntity => {
      const { fit } = text;
      const own = fit.as === 'balloon' && body ? { ...fit, balloonId: body.id } : fit;
      return { kind: 'lettering', ...place(), ...text, fit: own };
    });
    return [...(body ? [body] : []), ...letters].map((after) => ({ before: null, after }));
  });
  return draftChange(label, [...edits, ...added]);
}

/** Balloons and texts of a page under a map; a balloon takes its texts along. */
export function moveLetters(page: Page, ids: readonly EntityId[], map: Matrix3x3): Edit[] {
  const balloons = ids.flatMap((id) => find(page, 'balloon', id) ?? []);
  const inside = balloons.flatMap(({ id }) => letteringIn(page, id));
  const free = ids.flatMap((id) => find(page, 'lettering', id) ?? []).filter((text) => !inside.includes(text));
  const before = [...balloons, ...inside, ...free];
  return mapped(before, map, { scaleWidth: false }).map((after, k) => ({ before: before[k], after }));
}

/** Copies balloons with their texts, and texts of their own, moved by page px, over all others. */
export function copyLetters(page: Page, ids: readonly EntityId[], by: Point, newId: () => EntityId): Change {
  const moved = moveLetters(page, ids, projectiveOf(translation(by.x, by.y)));
  const copies = moved.flatMap(({ after }) => after ?? []);
  if (copies.length === 0) throw new PageError('Choose a balloon or a text first.');
  const names = new Map(copies.map(({ id }) => [id, newId()]));
  const renamed = (id: EntityId) => names.get(id) ?? id;
  const top = [...balloonsOn(page), ...letteringOn(page)].sort(byOrder).at(-1)?.order;
  const orders = ordersBetween(top, undefined, copies.length);
  return draftChange(
    'Copy lettering',
    copies.map((one, k) => ({
      before: null,
      after: { ...copyUnder(one, renamed(one.id), renamed), order: orders[k] },
    })),
  );
}

/** Takes balloons away with their texts, and texts of their own. */
export function removeLetters(page: Page, ids: readonly EntityId[]): Change {
  const gone = ids.flatMap((id) => {
    const one = find(page, 'balloon', id) ?? find(page, 'lettering', id);
    return one ? [one, ...letteringIn(page, id)] : [];
  });
  if (gone.length === 0) throw new PageError('Choose a balloon or a text first.');
  return draftChange(
    'Delete lettering',
    [...new Set(gone)].map((before) => ({ before, after: null })),
  );
}

/** How wide a bridge between two bodies is, as a share of the smaller one. */
const BRIDGE = 0.22;

/**
 * Makes balloons one, of as many bodies as they have: those that touch have one outline, and with `bridged` the others are joined by
 * necks. Their texts stay where they are.
 */
export function joinBalloons(page: Page, ids: readonly EntityId[], bridged: boolean): Change {
  const all = balloonsOn(page).filter(({ id }) => ids.includes(id));
  if (all.length < 2) throw new PageError('Choose two balloons to join.');
  const [first, ...others] = all;
  const edits: Edit[] = [];
  let joined: Balloon = first;
  for (const other of others) {
    const shift = joined.bodies.length;
    const bridge = bridged ? [bridgeBetween(joined, other)] : [];
    const bridges = [...(joined.bridges ?? []), ...(other.bridges ?? []).map((one) => shifted(one, shift)), ...bridge];
    joined = {
      ...joined,
      bodies: [...joined.bodies, ...other.bodies],
      tails: [...joined.tails, ...other.tails.map((tail): Tail => ({ ...tail, body: tail.body + shift }))],
      ...(bridges.length > 0 && { bridges }),
    };
    for (const before of letteringIn(page, other.id)) {
      const { fit } = before;
      if (fit.as !== 'balloon') continue;
      edits.push({ before, after: { ...before, fit: { ...fit, balloonId: first.id, body: fit.body + shift } } });
    }
    edits.push({ before: other, after: null });
  }
  return draftChange('Join balloons', [{ before: first, after: { ...first, ...joined } }, ...edits]);
}

const shifted = ({ between: [a, b], width }: Bridge, by: number): Bridge => ({ between: [a + by, b + by], width });

function bridgeBetween(a: Balloon, b: Balloon): Bridge {
  let best: readonly [number, number] = [0, 0];
  let least = Infinity;
  a.bodies.forEach((one, i) =>
    b.bodies.forEach((other, k) => {
      const away = distance(bodyMiddle(one), bodyMiddle(other));
      if (away < least) [best, least] = [[i, k], away];
    }),
  );
  const [one, other] = [a.bodies[best[0]], b.bodies[best[1]]];
  const width = BRIDGE * Math.min(one.width, one.height, other.width, other.height);
  return { between: [best[0], a.bodies.length + best[1]], width };
}

/** Makes a balloon for each body of one that was joined; tails and texts go with theirs. */
export function partBalloon(page: Page, id: EntityId, newId: () => EntityId): Change {
  const balloon = find(page, 'balloon', id);
  if (!balloon) throw new PageError('This balloon is no longer on the page.');
  if (balloon.bodies.length < 2) throw new PageError('This balloon is one already.');
  const { bridges: _bridges, ...rest } = balloon;
  const orders = ordersBetween(balloon.order, nextOrder(page, balloon), balloon.bodies.length - 1);
  const edits: Edit[] = [];
  const parts = balloon.bodies.map((body, k): BalloonEntity => ({
    ...rest,
    id: k === 0 ? id : newId(),
    order: k === 0 ? balloon.order : orders[k - 1],
    bodies: [body],
    tails: balloon.tails.filter((tail) => tail.body === k).map((tail): Tail => ({ ...tail, body: 0 })),
  }));
  for (const before of letteringIn(page, id)) {
    const { fit } = before;
    if (fit.as !== 'balloon') continue;
    const part = parts[fit.body] ?? parts[0];
    edits.push({ before, after: { ...before, fit: { ...fit, balloonId: part.id, body: 0 } } });
  }
  const [first, ...more] = parts;
  return draftChange('Part the balloons', [
    { before: balloon, after: first },
    ...more.map((after) => ({ before: null, after })),
    ...edits,
  ]);
}

const nextOrder = (page: Page, { order }: BalloonEntity): string | undefined =>
  [...balloonsOn(page), ...letteringOn(page)].sort(byOrder).find((one) => one.order > order)?.order;

/** mm that the tip of a new tail stands out below its body. */
const OUT_MM = 8;

/** A balloon of one body as it is first: white, with a border, and a tail straight down unless it is a caption. */
export function newBalloon(body: Body, tail: TailKind | 'none', ppi: number): Balloon {
  const balloon: Balloon = { bodies: [body], tails: [], border: balloonBorder(ppi), ground: PAPER_WHITE };
  return tail === 'none' || body.shape === 'box' ? balloon : { ...balloon, tails: [tailBelow(balloon, tail, ppi)] };
}

/** One more tail of a balloon: below its last body, further to the side for each tail that there is. */
export function tailBelow(balloon: Pick<Balloon, 'bodies' | 'tails'>, kind: TailKind, ppi: number): Tail {
  const body = balloon.bodies[balloon.bodies.length - 1];
  const { x, y } = bodyMiddle(body);
  const aside = balloon.tails.length * body.width * ASIDE;
  return tailTo(balloon, { x: x + aside, y: y + body.height / 2 + mmToPx(OUT_MM, ppi) }, kind);
}

/** How far beside the last tail the next one stands, as a share of its body's width. */
const ASIDE = 0.28;

/** How wide a new tail is at its root, as a share of its body's smaller side. */
const TAIL = 0.24;

/** A tail from the body that lies nearest to a place, with its tip there. */
export function tailTo({ bodies }: Pick<Balloon, 'bodies'>, tip: Point, kind: Tail['kind'] = 'pointed'): Tail {
  const index = nearestBody(bodies, tip);
  const body = bodies[index];
  const [a, b, c, d] = body.place;
  const scale = Math.sqrt(Math.abs(a * d - b * c));
  const width = Math.min(TAIL * Math.min(body.width, body.height) * scale, distance(bodyMiddle(body), tip));
  return { kind, body: index, root: directionTo(body, tip), width: Math.max(1, width), tip, bend: 0 };
}
