import type { AreaFill } from '@true-nib/core/area';
import { cutAtLengths, segmentLengths, type Spine } from '@true-nib/core/curve';
import { drawStroke } from '@true-nib/core/ink';
import { seededRandom } from '@true-nib/core/math';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import {
  applyChange,
  newLayer,
  newPage,
  ofKind,
  ordersBetween,
  type Change,
  type Edit,
  type Page,
} from '@true-nib/core/page';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import {
  focalInPx,
  lookingAt,
  pullLines,
  shadedRings,
  solidsOf,
  Touching,
  viewOf,
  type CameraEntity,
  type PullSettings,
  type SetEntity,
} from '@true-nib/core/set';
import { handFrame, pulledEdits, setFileOf, setFileText, toneEdits, windowOf } from '@true-nib/core/staging';
import { penSamples } from './hand';
import { LANDING_COUNT, LANDING_VIEWS, landingBlocks } from './landing';

export const LANDING_SIZE = { width: 3000, height: 2100, ppi: 300 } as const;

export type LandingView = keyof typeof LANDING_VIEWS;

type Signed = (id: string, label: string, edits: readonly Edit[]) => Change;

const LIGHT = { round: -0.5, above: 0.8 };

const nib = (name: string, size: number, more: Partial<Nib> = {}): Nib => ({
  ...{ name, size, thinnest: 1, taperIn: 0, taperOut: 0, color: INK_BLACK },
  ...more,
});

const SETTINGS: PullSettings = {
  nibs: { contour: nib('Contour', 8), crease: nib('Crease', 4.5), contact: nib('Contact', 4.5), mark: nib('Mark', 3) },
  ...{ crease: 0.35, fall: 0.55, over: 3, halo: 9, dash: 14 },
};

/** Changes that lay the landing on a page, seen from one place; with its lines pulled, toned and worked on where that is asked. */
export function landingChanges(pageId: string, view: LandingView, signed: Signed, isInked: boolean): Change[] {
  const setId = `${pageId}:set`;
  let count = 0;
  const newId = () => `${pageId}:made-${count++}`;
  const set: SetEntity = { kind: 'set', id: setId, order: 'a0', name: 'The ferry landing', light: LIGHT };
  const blocks = landingBlocks(setId, ordersBetween(undefined, undefined, LANDING_COUNT));
  const { width, height } = LANDING_SIZE;
  const names = Object.keys(LANDING_VIEWS) as LandingView[];
  const cameras = names.map((name, k): CameraEntity => {
    const { eye, at, mm, level } = LANDING_VIEWS[name];
    const focal = focalInPx(mm, width);
    const middle = { x: width / 2, y: height / 2 };
    return {
      ...{ kind: 'camera', id: `${pageId}:${name}`, setId, order: `a${k}`, name: CAMERA_NAMES[name] },
      ...lookingAt(eye, at, { focal, middle, level }),
      ...{ seen: name === view, opacity: 0.6 },
    };
  });
  const inks = newLayer({ id: `${pageId}:inks`, medium: 'ink', name: 'Inks', order: 'a0' });
  const built = signed(
    `${pageId}:build`,
    'Build the landing',
    [inks, set, ...blocks, ...cameras].map((after) => ({ before: null, after })),
  );
  let page = applyChange(newPage(LANDING_SIZE), built);
  const changes = [built];
  const then = (id: string, label: string, make: (now: Page) => readonly Edit[]) => {
    const change = signed(`${pageId}:${id}`, label, make(page));
    changes.push(change);
    page = applyChange(page, change);
  };
  const cameraId = `${pageId}:${view}`;
  if (!isInked) {
    then('frame', 'Frame of the camera', (now) => handFrame(now, cameraId, newId).edits);
    return changes;
  }
  const cameraOn = (now: Page) => ofKind(now, 'camera').find(({ id }) => id === cameraId) as CameraEntity;
  then('pull', 'Pull lines', (now) => {
    const camera = cameraOn(now);
    const lines = pullLines(blocks, camera, SETTINGS, windowOf(now, camera));
    return pulledEdits(now, camera, lines, { settings: SETTINGS, newId, follows: true, order: 'a2' }).edits;
  });
  then('tone', 'Tone the dark faces', (now) => tones(now, cameraOn(now), blocks, newId));
  then('work', 'Work on the lines', worn);
  then('water', 'Water', (now) =>
    water(pageId, inks.id, new Touching(solidsOf(blocks), cameraOn(now)), `${setId}:block-0`),
  );
  return changes;
}

const CAMERA_NAMES: Readonly<Record<LandingView, string>> = {
  water: 'From the water',
  stair: 'Up the stair',
  quay: 'Along the quay',
};

function tones(
  page: Page,
  camera: CameraEntity,
  blocks: ReturnType<typeof landingBlocks>,
  newId: () => string,
): Edit[] {
  const { round, above } = LIGHT;
  const from = [Math.cos(above) * Math.cos(round), Math.cos(above) * Math.sin(round), Math.sin(above)] as const;
  const work = shadedRings(solidsOf(blocks), viewOf(camera), { from, most: 0.2 }, windowOf(page, camera));
  let step = work.next();
  while (!step.done) step = work.next();
  const fill: AreaFill = {
    ...{ as: 'tone' as const, screen: 'lines' as const, color: INK_BLACK, period: 11, angle: -Math.PI / 4 },
    ...{ at: { x: 0, y: 0 }, share: 0.3 },
  };
  return toneEdits(page, camera, step.value, { fill, newId, order: 'a1' });
}

/** Every third crease is broken, as a hand leaves a line out where light falls on it; far ones run out. */
function worn(page: Page): Edit[] {
  const random = seededRandom(23);
  const creases = ofKind(page, 'stroke').filter(({ nib: own, pulled }) => pulled && own.name === 'Crease');
  return creases.flatMap((before): Edit[] => {
    const lengths = segmentLengths(before.spine);
    const whole = lengths.reduce((sum, own) => sum + own, 0);
    if (whole < 160 || random() > 0.3) return [];
    const cut = whole * (0.45 + 0.3 * random());
    return [{ before, after: { ...before, spine: startOf(before.spine, cut), ends: ['round', 'round'] } }];
  });
}

/** The start of a line of one cubic, up to a length. */
function startOf(spine: Spine, length: number): Spine {
  const { points } = cutAtLengths(spine, segmentLengths(spine), [length]);
  return { points: points.slice(0, points.length - 9), closed: false };
}

/** Ripples on the water, drawn by a seeded hand. */
function water(pageId: string, layerId: string, touching: Touching, surface: string): Edit[] {
  const random = seededRandom(41);
  const { width, height } = LANDING_SIZE;
  const brush: Nib = { ...SHIPPED_NIBS[1].nib, size: 7, thinnest: 0.2, color: INK_BLACK };
  const orders = ordersBetween(undefined, undefined, 90);
  return orders.flatMap((order, k): Edit[] => {
    const depth = random() ** 0.9;
    const y = height * (0.62 + 0.36 * depth);
    const long = (60 + 260 * depth) * (0.5 + random());
    const x = random() * (width - long);
    const wave = (5 + 9 * depth) * (random() < 0.5 ? 1 : -1);
    const points = Array.from({ length: 9 }, (_, at) => ({
      x: x + (long * at) / 8,
      y: y + wave * Math.sin((at / 8) * Math.PI * (1 + Math.floor(random() * 1.2))),
    }));
    // Only where there is water: whatever stands in it stays free.
    if (points.some((point) => touching.at(point)?.block !== surface)) return [];
    const samples = penSamples(points, 0.6, random);
    const stroke = drawStroke(samples, { ...brush, size: 4 + 5 * depth }, { way: 'even', strength: 40 });
    return [{ before: null, after: { kind: 'stroke', id: `${pageId}:ripple-${k}`, layerId, order, ...stroke } }];
  });
}

/** The landing as the library keeps it: a small drawing, and all of it. */
export function landingCard(page: Page, setId: string): { readonly picture: string; readonly file: unknown } {
  const blocks = ofKind(page, 'block');
  const [camera] = ofKind(page, 'camera');
  const card = { minX: 0, minY: 0, maxX: 120, maxY: 84 };
  const small = card.maxX / LANDING_SIZE.width;
  const look = { ...camera.look, focal: camera.look.focal * small };
  const centre = { x: camera.look.centre.x * small, y: camera.look.centre.y * small };
  const lines = pullLines(
    blocks,
    { eye: camera.eye, look: { ...look, centre } },
    { ...SETTINGS, over: 0, halo: 0 },
    card,
  );
  return {
    picture: lines.map(({ stroke }) => pathOf(stroke.spine)).join(''),
    file: JSON.parse(setFileText(setFileOf(page, setId))) as unknown,
  };
}

function pathOf({ points: p }: Spine): string {
  const at = (k: number) => `${p[k].toFixed(1)} ${p[k + 1].toFixed(1)}`;
  let d = `M${at(0)}`;
  for (let k = 3; k < p.length; k += 9) d += `C${at(k)} ${at(k + 3)} ${at(k + 6)}`;
  return d;
}
