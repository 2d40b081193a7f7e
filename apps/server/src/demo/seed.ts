import { laidAs } from '@true-nib/core/drawn';
import { FONT_TYPE } from '@true-nib/core/lettering';
import { ridingOn, type FrameShape, type GuideEntity } from '@true-nib/core/guides';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import { drawStroke } from '@true-nib/core/ink';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { seededRandom } from '@true-nib/core/math';
import {
  PICTURE_LIMITS,
  applyChange,
  newLayer,
  newPage,
  orderBetween,
  ordersBetween,
  type Change,
  type Edit,
  type LayerEntity,
  type Page,
  type PageSize,
} from '@true-nib/core/page';
import { packSamples, type Calm, type PenSample } from '@true-nib/core/hand';
import type { Stroke } from '@true-nib/core/stroke';
import { fittedPlacement } from '@true-nib/core/tools';
import { pageToSvg } from '@true-nib/core/formats';
import { keepBlob, sha256Of } from '../keeping/blobs';
import { Examiner } from '../keeping/examiner';
import { addFolio } from '../keeping/folios';
import { appendChanges } from '../keeping/journal';
import { addPage } from '../keeping/pages';
import type { Store } from '../keeping/store';
import { keepSet } from '../keeping/sets';
import { keepThumbnail } from '../keeping/thumbnails';
import type { Blacks } from './blacks';
import { crossing } from './crossing';
import { crossingPage } from './crossingPage';
import { DEPTH_SAMPLER_SIZE, depthSampler } from './depthSampler';
import { meantPath, quayFrame, stairFrame } from './frames';
import { penSamples } from './hand';
import { GUIDE_SAMPLER_SIZE, guideSampler } from './guideSampler';
import { heronBlacks, heronFlats, heronInked } from './heronFinished';
import { heronTexture } from './heronTexture';
import { heronMask } from './heronMask';
import { change, FOLIO, keepPage, thumbnailFrom } from './keptPage';
import { LANDING_SIZE, landingCard, landingChanges } from './landingPage';
import { lampNight } from './lampNight';
import { lampStair } from './lampStair';
import { nibSampler, SAMPLER_SIZE } from './nibSampler';
import { pencilled } from './pencil';
import { quay } from './quay';
import type { Sketch } from './sketch';
import { seedSketchbook } from './seedSketchbook';
import { tidePage } from './tidePage';

interface DemoPage {
  readonly id: string;
  readonly name: string;
  readonly size: PageSize;
  readonly sketch: () => Sketch;
  /** Width of the rough's picture, px. */
  readonly scan: number;
  readonly seed: number;
  /** The frame that its straight marks were built on: they are inked along it. */
  readonly frame?: FrameShape;
  /** Its blacks and flats. A page that has some is finished: its rough is hidden. */
  readonly blacks?: readonly Blacks[];
  /** What is drawn over it in panels: such a page is finished too. */
  readonly comic?: (start: Page) => Promise<Drawn>;
}

type Drawn = Awaited<ReturnType<typeof tidePage>>;

const COMIC: PageSize = { width: 2650, height: 4100, ppi: 400 };
const MASK: PageSize = { width: 2800, height: 2800, ppi: 350 };

const PAGES: readonly DemoPage[] = [
  {
    id: 'demo-quay',
    name: 'Quay at low tide',
    size: COMIC,
    sketch: quay,
    scan: 1700,
    seed: 11,
    frame: quayFrame(COMIC),
  },
  {
    ...{ id: 'demo-stair', name: 'Down the lamp stair', size: COMIC, sketch: lampStair, scan: 1500, seed: 23 },
    frame: stairFrame(COMIC),
    blacks: [lampNight(COMIC)],
  },
  {
    id: 'demo-heron',
    name: 'The heron mask',
    size: MASK,
    sketch: heronMask,
    scan: 1600,
    seed: 31,
  },
  {
    ...{ id: 'demo-mask', name: 'Heron mask, finished', size: MASK, sketch: heronInked, scan: 1600, seed: 31 },
    blacks: [heronFlats(MASK), heronBlacks(), heronTexture()],
  },
  {
    id: 'demo-crossing',
    name: 'The crossing',
    size: { width: 1600, height: 14000, ppi: 300 },
    sketch: crossing,
    scan: 900,
    seed: 47,
    comic: crossingPage,
  },
];

/** Puts the demo folio *Saltmarsh Ferry* into an empty database; leaves one that was ever used alone. */
export async function seedDemo(store: Store): Promise<void> {
  if ((await store.folios.unscoped().count(store.within)) > 0) return;
  // All or nothing: a start that is cut short seeds again next time.
  const examiner = new Examiner(PICTURE_LIMITS);
  await store.atomically(async (inside) => {
    await addFolio(inside, 'Saltmarsh Ferry', FOLIO);
    for (const page of PAGES) {
      await seedPage(inside, page, examiner);
      if (page.id === 'demo-quay') await seedTide(inside, examiner);
    }
    for (const [k, view] of LANDING.entries()) await seedLanding(inside, view, k === 0);
    await seedSketchbook(inside, examiner);
    await seedNibs(inside);
    await seedGuides(inside);
    await seedDepth(inside);
  });
}

async function seedPage(
  store: Store,
  { id, name, size, sketch: draw, scan, seed, frame, blacks = [], comic }: DemoPage,
  examiner: Examiner,
): Promise<void> {
  const sketch = draw();
  await addPage(store, { id, name, folioId: FOLIO, ...size });
  const rough = await pencilled(sketch, size, scan, seed);
  const { sha256, width, height } = await keepBlob(
    store,
    { sha256: sha256Of(rough), bytes: rough, type: 'image/png' },
    { examiner },
  );
  const [roughOrder, below, inkOrder, above] = ordersBetween(undefined, undefined, 4);
  const roughLayer = {
    ...layer(`${id}:rough`, 'rough', 'Rough', roughOrder),
    hidden: blacks.length > 0 || comic !== undefined,
  };
  const inkLayer = layer(`${id}:inks`, 'ink', 'Inks', inkOrder);
  const placement = fittedPlacement({ width, height }, size);
  const changes: Change[] = [
    change(`${id}:start`, 'Bring in the rough', [
      { before: null, after: roughLayer },
      ...(comic ? [] : [{ before: null, after: inkLayer }]),
      {
        before: null,
        after: {
          kind: 'picture',
          id: `${id}:scan`,
          layerId: roughLayer.id,
          order: 'a0',
          blob: sha256,
          width,
          height,
          placement,
          opacity: 0.5,
          tint: 'blue',
        },
      },
    ]),
    ...(frame ? [change(`${id}:frame`, 'Sight a frame', [{ before: null, after: frameGuide(id, frame) }])] : []),
    ...inkedMarks(sketch, id, inkLayer, seed, frame && { frame, size }),
    ...blacks.map((own) => filledLayer(id, own, own.at === 'below' ? below : above)),
  ];
  const start = changes.reduce(applyChange, newPage(size));
  const drawn = comic && (await comic(start));
  if (drawn) await keepFonts(store, drawn, examiner);
  const all = [...changes, ...(drawn?.changes ?? [])];
  await appendChanges(store, id, { since: 0 }, all);
  const page = (drawn?.changes ?? []).reduce(applyChange, start);
  await keepThumbnail(store, id, all.length, await thumbnailOf(page, rough));
}

/** The sister page of the quay: laid out in panels, inked and lettered. */
async function seedTide(store: Store, examiner: Examiner): Promise<void> {
  const id = 'demo-tide';
  const drawn = await tidePage(COMIC);
  await keepFonts(store, drawn, examiner);
  await keepPage(store, { id, name: 'Before the tide turns', size: COMIC }, drawn.changes);
}

/** The pages that the ferry landing is seen on; on the first its lines are pulled. */
const LANDING = ['water', 'stair', 'quay'] as const;
const LANDING_NAMES = { water: 'The ferry landing', stair: 'Up the landing stair', quay: 'Along the quay' } as const;

/** A page on which the set of the ferry landing stands, seen by one of its cameras; with the first it goes into the library. */
async function seedLanding(store: Store, view: (typeof LANDING)[number], isInked: boolean): Promise<void> {
  const id = `demo-landing-${view}`;
  const changes = landingChanges(id, view, change, isInked);
  const page = await keepPage(store, { id, name: LANDING_NAMES[view], size: LANDING_SIZE }, changes);
  if (isInked) await keepSet(store, 'demo-landing', landingCard(page, `${id}:set`));
}

async function keepFonts(store: Store, { fonts }: Drawn, examiner: Examiner): Promise<void> {
  for (const font of fonts) await keepBlob(store, { ...font, type: FONT_TYPE }, { examiner });
}

/** Blacks or flats of a page on a layer of their own. */
function filledLayer(pageId: string, { name, things }: Blacks, order: string): Change {
  const filled = layer(`${pageId}:${name.toLowerCase()}`, 'ink', name, order);
  const orders = ordersBetween(undefined, undefined, things.length);
  const laid = things.map((thing, k) =>
    laidAs(thing, { id: `${filled.id}-${k}`, layerId: filled.id, order: orders[k] }),
  );
  return change(
    `${filled.id}:fill`,
    name,
    [filled, ...laid].map((after) => ({ before: null, after })),
  );
}

/** The page on which every nib of the rack is drawn. */
function seedNibs(store: Store): Promise<void> {
  const lines = nibSampler(61).map(({ stroke, samples, calm, isWhole }) => ({
    stroke,
    hand: isWhole ? { samples, calm } : undefined,
  }));
  return seedSampler(
    store,
    { id: 'demo-nibs', name: 'Nib sampler', size: SAMPLER_SIZE, label: 'Try every nib' },
    lines,
  );
}

/** The page on which guides show what they hold a hand to. */
function seedGuides(store: Store): Promise<void> {
  const { guides, lines, calm } = guideSampler(71);
  const laid = lines.map(({ stroke, samples }) => ({ stroke, hand: samples && { samples, calm } }));
  const page = { id: 'demo-guides', name: 'Guide sampler', size: GUIDE_SAMPLER_SIZE, label: 'Try every guide' };
  return seedSampler(store, page, laid, guides);
}

/** The page on which a street is built in depth. */
function seedDepth(store: Store): Promise<void> {
  const { guides, strokes } = depthSampler();
  const laid = strokes.map((stroke) => ({ stroke, hand: undefined }));
  const page = { id: 'demo-depth', name: 'Street sampler', size: DEPTH_SAMPLER_SIZE, label: 'Build a street' };
  return seedSampler(store, page, laid, guides);
}

interface SamplerPage {
  readonly id: string;
  readonly name: string;
  readonly size: PageSize;
  readonly label: string;
}

interface SeededLine {
  readonly stroke: Stroke;
  readonly hand: { readonly samples: readonly PenSample[]; readonly calm: Calm } | undefined;
}

/** A page without a rough: lines on one Ink layer, and guides. */
async function seedSampler(
  store: Store,
  { id, name, size, label }: SamplerPage,
  seeded: readonly SeededLine[],
  guides: readonly GuideEntity[] = [],
): Promise<void> {
  const inks = layer(`${id}:inks`, 'ink', 'Inks', orderBetween(undefined, undefined));
  let order: string | undefined;
  const lines = seeded.flatMap(({ stroke, hand }, k): Edit[] => {
    const strokeId = `${id}:stroke-${k}`;
    order = orderBetween(order, undefined);
    const laid = { kind: 'stroke' as const, id: strokeId, layerId: inks.id, order, ...stroke };
    if (!hand) return [{ before: null, after: laid }];
    const samples = { kind: 'samples' as const, id: `${strokeId}:hand`, packed: packSamples(hand.samples) };
    const origin = { samples: samples.id, calm: hand.calm, zoom: 1 };
    return [
      { before: null, after: samples },
      { before: null, after: { ...laid, origin } },
    ];
  });
  const changes = [
    change(`${id}:start`, 'Add Ink layer', [{ before: null, after: inks }]),
    ...(guides.length > 0
      ? [
          change(
            `${id}:guides`,
            'Lay down guides',
            guides.map((after) => ({ before: null, after })),
          ),
        ]
      : []),
    change(`${id}:lines`, label, lines, [inks.id]),
  ];
  await keepPage(store, { id, name, size }, changes);
}

const frameId = (pageId: string): string => `${pageId}:frame-1`;

/** The frame of a page: asleep, so that a first line on the page is free. */
const frameGuide = (pageId: string, shape: FrameShape): GuideEntity => ({
  ...{ kind: 'guide', id: frameId(pageId), order: orderBetween(undefined, undefined), name: 'Perspective frame' },
  ...{ seen: true, acting: false, locked: false, tethers: true, reach: 'all', hue: 1, shape },
});

/** The marks that are to be inked, drawn by a seeded hand with a pressure nib, one change a stroke. */
function inkedMarks(
  sketch: Sketch,
  pageId: string,
  inkLayer: LayerEntity,
  seed: number,
  built?: { readonly frame: FrameShape; readonly size: PageSize },
): Change[] {
  const random = seededRandom(seed * 7919);
  let order: string | undefined;
  return sketch.marks
    .filter((mark) => mark.as === 'ink')
    .map((mark, k) => {
      const nib: Nib = { ...SHIPPED_NIBS[1].nib, size: 6 + 15 * mark.weight, thinnest: 0.25, color: INK_BLACK };
      const samples = penSamples(mark.points, 0.72, random);
      const calm = { way: 'even', strength: 30 } as const;
      const strokeId = `${pageId}:stroke-${k}`;
      const path = built && meantPath(built.frame, built.size, mark.points);
      const bornOn = path && { guide: { id: frameId(pageId), path } };
      order = orderBetween(order, undefined);
      return change(
        `${pageId}:draw-${k}`,
        'Stroke',
        [
          { before: null, after: { kind: 'samples', id: `${strokeId}:hand`, packed: packSamples(samples) } },
          {
            before: null,
            after: {
              kind: 'stroke',
              id: strokeId,
              layerId: inkLayer.id,
              order,
              ...drawStroke(samples, nib, calm, { riding: path && ridingOn(path) }),
              ...bornOn,
              origin: { samples: `${strokeId}:hand`, calm, zoom: 1 },
            },
          },
        ],
        [inkLayer.id],
      );
    });
}

/** The page at 320 px across, inks over the dimmed rough, as the shelf shows it. */
async function thumbnailOf(page: Page, rough: Buffer): Promise<Buffer> {
  const address = `data:image/png;base64,${rough.toString('base64')}`;
  return thumbnailFrom(pageToSvg(page, { pictureAddress: () => address }));
}

const layer = (id: string, medium: LayerEntity['medium'], name: string, order: string): LayerEntity =>
  newLayer({ id, medium, name, order, locked: medium === 'rough' });
