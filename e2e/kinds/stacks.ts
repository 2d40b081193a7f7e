// Runs in the browser: paints pages with random stacks as the board does it, and in bands as a PNG is made.
import { boxRing } from '@true-nib/core/comic';
import type { PanelEntity } from '@true-nib/core/panel';
import { nested, type AreaFill, type ToneFill } from '@true-nib/core/area';
import { pageToSvg } from '@true-nib/core/formats';
import { seededRandom, translation } from '@true-nib/core/math';
import {
  applyChange,
  draftChange,
  newLayer,
  newPage,
  paperOf,
  roughsOf,
  type Entity,
  type LayerEntity,
  type Page,
  type PictureEntity,
} from '@true-nib/core/page';
import { rectSpine } from '@true-nib/core/shapes';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { InkDesk } from '../../apps/web/src/render/inkDesk';
import { paintPage } from '../../apps/web/src/render/pagePaint';
import { pyramidOf, type PyramidLevel } from '../../apps/web/src/render/picturePieces';
import { drawPaper, drawRoughs, roughsUnder } from '../../apps/web/src/render/roughSurface';
import { plainLook } from '../../apps/web/src/render/stackLook';

export const SIDE = 240;
const BAND = 100;
const COLOURS = ['#14161a', '#b8402a', '#2a6f97', '#e0b030'] as const;
const FADES = [1, 1, 0.5, 0.3] as const;

interface Made {
  readonly page: Page;
  /** The pictures of its roughs: flat colours, some of which let one see through them. */
  readonly pictures: ReadonlyMap<string, OffscreenCanvas>;
}

function randomPage(seed: number): Made {
  const random = seededRandom(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)];
  const entities: Entity[] = [];
  const pictures = new Map<string, OffscreenCanvas>();
  const groups: string[] = [];
  // Half of the pages have panels, one over the other: what is begun in them is clipped.
  const panels = seed % 2 === 0 ? [] : [panel('panel-1', random), panel('panel-2', random)];
  if (panels.length > 0)
    entities.push(newLayer({ id: 'panels', medium: 'ink', name: 'Panels', order: 'a9' }), ...panels);
  const framed = <E extends Entity>(entity: E): E =>
    panels.length > 0 && random() < 0.6 ? { ...entity, panelId: pick(panels).id } : entity;
  for (let k = 0; k < 7; k++) {
    const medium = pick<LayerEntity['medium']>(['ink', 'ink', 'rough', 'rough', 'group']);
    const id = `layer-${k}`;
    const parentId = random() < 0.5 ? groups.at(-1) : undefined;
    entities.push(
      newLayer({
        id,
        medium,
        name: id,
        order: `a${k}`,
        opacity: pick(FADES),
        hidden: random() < 0.1,
        ...(parentId && { parentId }),
      }),
    );
    if (medium === 'group') groups.push(id);
    for (let n = 0; n < 2; n++) {
      if (medium === 'ink') entities.push(framed(band(`${id}-${n}`, id, pick(COLOURS), random)));
      if (medium === 'ink' && n === 0) entities.push(framed(textured(`${id}-t`, id, pick(COLOURS), random)));
      if (medium === 'ink' && n === 1 && random() < 0.5) entities.push(framed(balloon(`${id}-b`, id, random)));
      if (medium === 'rough') {
        const picture = block(`${id}-${n}`, id, random);
        entities.push(picture);
        pictures.set(picture.id, flat(pick(COLOURS), random() < 0.3 ? 0.6 : 1));
      }
    }
  }
  const edits = entities.map((after) => ({ before: null, after }));
  return { page: applyChange(newPage({ width: SIDE, height: SIDE, ppi: 300 }), draftChange('all', edits)), pictures };
}

/** A panel with a thick border, or none, and at times bare paper round it. */
function panel(id: string, random: () => number): PanelEntity {
  const at = () => Math.round(random() * 0.6 * SIDE);
  const [x, y] = [at(), at()];
  const nib = { name: 'Border', size: 14, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };
  return {
    ...{ kind: 'panel', id, layerId: 'panels', order: id },
    ring: boxRing({ minX: x, minY: y, maxX: x + 70 + at() / 2, maxY: y + 70 + at() / 2 }),
    ...(random() < 0.7 && { border: { nib } }),
    ...(random() < 0.5 && { gutter: 12 }),
  };
}

/** Two bodies that touch, with a tail and a thick border. */
function balloon(id: string, layerId: string, random: () => number): Entity {
  const at = () => 60 + Math.round(random() * (SIDE - 120));
  const [x, y] = [at(), at()];
  const border = { name: 'Balloon', size: 14, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };
  const bodies = [
    { shape: 'oval', width: 90, height: 60, place: [1, 0, 0, 1, x, y] },
    { shape: 'rounded', width: 70, height: 60, place: [1, 0, 0, 1, x + 50, y + 30] },
  ] as const;
  const tail = { kind: 'pointed', body: 0, root: 2, width: 30, tip: { x: x - 20, y: y + 90 }, bend: 0.2 } as const;
  return { kind: 'balloon', id, layerId, order: `${id}z`, bodies, tails: [tail], border, ground: '#ffffff' };
}

function band(id: string, layerId: string, color: string, random: () => number): StrokeEntity {
  const at = () => Math.round(random() * SIDE);
  const [x, y, u, v] = [at(), at(), at(), at()];
  const width = 30 + 40 * random();
  const points = Float64Array.from([0, 1, 2, 3].flatMap((k) => [x + ((u - x) * k) / 3, y + ((v - y) * k) / 3, width]));
  return {
    ...{ kind: 'stroke', id, layerId, order: id, ends: ['round', 'flat'] },
    spine: { points, closed: false },
    nib: { name: 'Liner', size: width, thinnest: 1, taperIn: 0, taperOut: 0, color, opacity: random() < 0.3 ? 0.5 : 1 },
  };
}

/** An area with a tone or a gradient, or with dots large enough that there are px within them; or a nick. */
function textured(id: string, layerId: string, color: string, random: () => number): Entity {
  const at = () => Math.round(random() * SIDE);
  const [x, y, wide, high] = [at() - 40, at() - 40, 60 + at() / 2, 60 + at() / 2];
  const place = { id, layerId, order: `${id}z` };
  const from = { x, y };
  const ramp = { shape: random() < 0.5 ? 'straight' : 'round', from, to: { x: x + wide, y: y + high } } as const;
  const kind = Math.floor(random() * 4);
  if (kind === 3) {
    const dots = Float64Array.from({ length: 36 }, (_, k) => (k % 3 === 2 ? 24 + 20 * random() : at()));
    return { kind: 'dots', ...place, dots, fill: random() < 0.5 ? { as: 'nothing' } : { as: 'colour', color } };
  }
  const screen = (['dots', 'lines', 'crossed'] as const)[Math.floor(random() * 3)];
  const tone: ToneFill = { as: 'tone', color, screen, period: 40, angle: random() * 3, at: from, share: 0.5 };
  const stops = [
    { at: 0, color },
    { at: 0.4, color: '#ffffff' },
    { at: 1, color, opacity: 0.4 },
  ];
  const fills: readonly AreaFill[] = [
    random() < 0.5 ? tone : { ...tone, ramp: { ...ramp, share: 0.8 } },
    { as: 'gradient', ramp, stops },
    { as: 'nothing' },
  ];
  const rings = nested([rectSpine(from, { x: x + wide, y: y + high })]);
  return { kind: 'area', ...place, rings, fill: fills[kind] };
}

function block(id: string, layerId: string, random: () => number): PictureEntity {
  return {
    ...{ kind: 'picture', id, layerId, order: id, blob: id, width: 90, height: 60, tint: 'none' },
    // On whole px: renderers differ in what they make of a picture's edge.
    placement: {
      x: Math.round(random() * SIDE),
      y: Math.round(random() * SIDE),
      scale: random() < 0.5 ? 1 : 2,
      angle: 0,
    },
    opacity: random() < 0.5 ? 1 : 0.6,
  };
}

function flat(color: string, alpha: number): OffscreenCanvas {
  const canvas = new OffscreenCanvas(90, 60);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('No canvas.');
  context.globalAlpha = alpha;
  context.fillStyle = color;
  context.fillRect(0, 0, 90, 60);
  return canvas;
}

function ground(height = SIDE): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(SIDE, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('No canvas.');
  return context;
}

function coded(context: OffscreenCanvasRenderingContext2D): string {
  const { data } = context.getImageData(0, 0, SIDE, SIDE);
  let text = '';
  for (let i = 0; i < data.length; i += 8192) text += String.fromCharCode(...data.subarray(i, i + 8192));
  return btoa(text);
}

const WHOLE = { minX: 0, minY: 0, maxX: SIDE, maxY: SIDE };

type Levels = ReadonlyMap<string, readonly PyramidLevel[]>;

/** As the board's canvases lie over one another: ground, inks, and what multiplies both. */
function asBoard(page: Page, desk: InkDesk, levels: Levels): OffscreenCanvasRenderingContext2D {
  const { under, over } = roughsUnder(page, plainLook);
  const levelsOf = ({ id }: PictureEntity) => levels.get(id);
  const [lowest, inks, highest] = [ground(), ground(), ground()];
  // Paper asks for nothing that only a window's context has.
  drawPaper(lowest as unknown as CanvasRenderingContext2D, page, [1, 0, 0, 1, 0, 0]);
  drawRoughs(lowest, under, levelsOf, [1, 0, 0, 1, 0, 0]);
  desk.paint(inks, [1, 0, 0, 1, 0, 0], WHOLE);
  highest.globalCompositeOperation = 'multiply';
  drawRoughs(highest, over, levelsOf, [1, 0, 0, 1, 0, 0]);
  lowest.setTransform(1, 0, 0, 1, 0, 0);
  lowest.drawImage(inks.canvas, 0, 0);
  lowest.globalCompositeOperation = 'multiply';
  lowest.drawImage(highest.canvas, 0, 0);
  return lowest;
}

function inBands(page: Page, desk: InkDesk, levels: Levels): OffscreenCanvasRenderingContext2D {
  const whole = ground();
  const what = {
    desk,
    paper: paperOf(page),
    roughs: roughsOf(page),
    levelsOf: ({ id }: PictureEntity) => levels.get(id),
  };
  for (let top = 0; top < SIDE; top += BAND) {
    const part = ground(BAND);
    paintPage(part, what, translation(0, -top), { minX: 0, minY: 0, maxX: SIDE, maxY: BAND });
    whole.drawImage(part.canvas, 0, top);
  }
  return whole;
}

const addressOf = async (canvas: OffscreenCanvas): Promise<string> => {
  const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  return `data:image/png;base64,${btoa(String.fromCharCode(...bytes))}`;
};

/** The px of a random page as board and PNG have them, coded, and its SVG. */
async function shown(seed: number) {
  const { page, pictures } = randomPage(seed);
  const levels = new Map<string, readonly PyramidLevel[]>();
  const addresses = new Map<string, string>();
  for (const [id, canvas] of pictures) {
    levels.set(id, await pyramidOf(await createImageBitmap(canvas), 'none'));
    addresses.set(id, await addressOf(canvas));
  }
  const desk = new InkDesk(page.size, [...page.entities]);
  const svg = pageToSvg(page, { pictureAddress: ({ blob }) => addresses.get(blob) });
  return { board: coded(asBoard(page, desk, levels)), png: coded(inBands(page, desk, levels)), svg };
}

Object.assign(window, { shown });
