import { readFile } from 'node:fs/promises';
import { areaWithin, type AreaFill } from '@true-nib/core/area';
import {
  addLetters,
  balloonBorder,
  boxRing,
  middleOfText,
  placeOnPlane,
  plainBorder,
  ringThrough,
  shapedRing,
  tailTo,
  type NewLetters,
} from '@true-nib/core/comic';
import type { Spine } from '@true-nib/core/curve';
import { laidAs, markBox } from '@true-nib/core/drawn';
import { drawStroke } from '@true-nib/core/ink';
import type { FontFaces, LetterStyle } from '@true-nib/core/lettering';
import {
  afterwards,
  apply,
  boxesMeet,
  boxOfFlat,
  chain,
  projectiveOf,
  scaling,
  seededRandom,
  translation,
  type Box,
  type Matrix,
  type Point,
} from '@true-nib/core/math';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import {
  applyChange,
  draftChange,
  mmToPx,
  newLayer,
  newPage,
  ptToPx,
  type Change,
  type Edit,
  type Page,
  type PageSize,
} from '@true-nib/core/page';
import { packSamples } from '@true-nib/core/hand';
import type { Panel, PanelEntity } from '@true-nib/core/panel';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { freeText, readFont, textInBody, type ReadFonts } from '@true-nib/core/typeset';
import { sha256Of } from '../keeping/blobs';
import { crossing } from './crossing';
import { quayFrame } from './frames';
import { penSamples } from './hand';
import { heronInked } from './heronFinished';
import { lampStair } from './lampStair';
import { quay } from './quay';
import type { Sketch } from './sketch';

/** A font as it is kept with a page. */
export interface FontFile {
  readonly sha256: string;
  readonly bytes: Buffer;
}

/** A part of another drawing in a panel: its marks under a map. */
interface Scene {
  readonly sketch: Sketch;
  readonly map: Matrix;
  /** How much heavier its lines are. */
  readonly weight: number;
}

interface Cell {
  readonly panel: Panel;
  readonly scene: Scene;
  readonly fills?: readonly { readonly ring: Spine; readonly fill: AreaFill }[];
}

const ID = 'demo-tide';
const WHITE = '#ffffff';

/** A map that brings a place of a drawing to a place of the page, so much larger. */
const brought = (from: Point, to: Point, factor: number): Matrix =>
  chain(translation(-from.x, -from.y), scaling(factor), translation(to.x, to.y));

const tone = (share: number, angle: number, ramp?: readonly [from: Point, to: Point, share: number]): AreaFill => ({
  ...{ as: 'tone', color: INK_BLACK, screen: 'lines', period: 16, angle, at: { x: 0, y: 0 }, share },
  ...(ramp && { ramp: { shape: 'straight', from: ramp[0], to: ramp[1], share: ramp[2] } }),
});

/** *Before the tide turns*: five panels, of which one bleeds, one is slanted and one an inset. */
function cells({ width, height, ppi }: PageSize): Cell[] {
  const border = plainBorder(ppi);
  const gap = mmToPx(5, ppi);
  const [left, right, top] = [170, width - 170, 1760];
  const low = 2840;
  const box = (minX: number, minY: number, maxX: number, maxY: number): Box => ({ minX, minY, maxX, maxY });
  const [slant, lean] = [1180, 190];
  return [
    {
      panel: { ring: boxRing(box(-60, -60, width + 60, top)), border },
      scene: { sketch: quay(), map: brought({ x: 1325, y: 1900 }, { x: 1325, y: 980 }, 1.02), weight: 0.8 },
      fills: [
        {
          ring: boxRing(box(-60, -60, width + 60, 760)),
          fill: tone(0.32, 0, [{ x: 0, y: -60 }, { x: 0, y: 760 }, 0]),
        },
      ],
    },
    {
      panel: {
        ring: ringThrough([
          { x: left, y: top + gap },
          { x: slant + lean, y: top + gap },
          { x: slant - lean, y: low },
          { x: left, y: low },
        ]),
        border,
      },
      scene: { sketch: quay(), map: brought({ x: 330, y: 2660 }, { x: 560, y: 2330 }, 1.62), weight: 1.2 },
    },
    {
      panel: {
        ring: ringThrough([
          { x: slant + lean + gap, y: top + gap },
          { x: right, y: top + gap },
          { x: right, y: low },
          { x: slant - lean + gap, y: low },
        ]),
        border,
      },
      scene: { sketch: lampStair(), map: brought({ x: 1180, y: 1600 }, { x: 1840, y: 2230 }, 0.92), weight: 0.8 },
      fills: [
        {
          ring: boxRing(box(slant - lean, top, right, top + gap + 620)),
          fill: tone(0.85, 1.2, [{ x: 0, y: top }, { x: 0, y: top + gap + 620 }, 0]),
        },
      ],
    },
    {
      panel: {
        ring: shapedRing('oval', box(1960, 2380, 2420, 2760)),
        border: { nib: { ...border.nib, size: border.nib.size * 1.2 } },
        gutter: gap / 2,
      },
      scene: { sketch: heronInked(), map: brought({ x: 1060, y: 1130 }, { x: 2190, y: 2575 }, 0.62), weight: 0.7 },
    },
    {
      panel: { ring: boxRing(box(left, low + gap, right, height - 170)), border },
      scene: { sketch: crossing(), map: brought({ x: 800, y: 6120 }, { x: 1330, y: 3560 }, 1.12), weight: 1.1 },
      fills: [
        {
          ring: boxRing(box(left, low + gap, right, 3300)),
          fill: tone(0.55, 0.6, [{ x: 0, y: low }, { x: 0, y: 3300 }, 0.05]),
        },
      ],
    },
  ];
}

/** The lines of a scene that lie in a panel, drawn by a seeded hand. */
function inked({ sketch, map, weight }: Scene, panel: PanelEntity, inks: string, seed: number): Edit[] {
  const random = seededRandom(seed);
  const calm = { way: 'even', strength: 30 } as const;
  const frame = boxOfFlat(panel.ring.points, 3);
  let count = 0;
  return sketch.marks.flatMap((mark): Edit[] => {
    if (mark.as === 'construction') return [];
    const points = mark.points.map((at) => apply(map, at));
    const nib: Nib = {
      ...SHIPPED_NIBS[1].nib,
      ...{ size: (5 + 15 * mark.weight) * weight, thinnest: 0.25, color: INK_BLACK },
    };
    const samples = penSamples(points, 0.72, random);
    const id = `${panel.id}:stroke-${count}`;
    const place = { id, layerId: inks, order: `a${String(count).padStart(4, '0')}V`, panelId: panel.id };
    const stroke = laidAs(drawStroke(samples, nib, calm), place);
    if (!boxesMeet(markBox(stroke), frame)) return [];
    count++;
    const hand = { kind: 'samples', id: `${id}:hand`, packed: packSamples(samples) } as const;
    return [
      { before: null, after: hand },
      { before: null, after: { ...stroke, origin: { samples: hand.id, calm, zoom: 1 } } },
    ];
  });
}

/** The page, as changes, with the fonts that it names. */
export async function tidePage(
  size: PageSize,
): Promise<{ readonly changes: readonly Change[]; readonly fonts: readonly FontFile[] }> {
  const inks = newLayer({ id: `${ID}:inks`, medium: 'ink', name: 'Inks', order: 'a1' });
  const greys = newLayer({ id: `${ID}:greys`, medium: 'ink', name: 'Blacks', order: 'a0' });
  const borders = newLayer({ id: `${ID}:panels`, medium: 'ink', name: 'Panels', order: 'a2' });
  const all = cells(size);
  const panels = all.map(({ panel }, k): PanelEntity => ({
    ...{ kind: 'panel', id: `${ID}:panel-${k + 1}`, layerId: borders.id, order: `a${k}V` },
    ...panel,
  }));
  const change = (id: string, label: string, edits: readonly Edit[], needs: readonly string[] = []): Change => ({
    ...draftChange(label, edits, needs),
    ...{ id: `${ID}:${id}`, by: 'demo' },
  });
  const added = (entities: readonly NonNullable<Edit['after']>[]): Edit[] =>
    entities.map((after) => ({ before: null, after }));
  const laidOut = change('layout', 'Lay out panels', added([greys, inks, borders, ...panels]));
  const lines = all.map(({ scene }, k) =>
    change(`ink-${k}`, 'Ink the panel', inked(scene, panels[k], inks.id, 101 + k), [inks.id]),
  );
  const fills = all.flatMap(({ fills: own = [] }, k) =>
    own.map(({ ring, fill }, n) =>
      laidAs(areaWithin([ring], fill), {
        ...{ id: `${panels[k].id}:fill-${n}`, layerId: greys.id, order: `a${k}${n}V`, panelId: panels[k].id },
      }),
    ),
  );
  const filled = change('fill', 'Tones and blacks', added(fills), [greys.id]);
  const before = [laidOut, ...lines, filled];
  const page = before.reduce(applyChange, newPage(size));
  const { letters, fonts } = await lettered(page, panels);
  let count = 0;
  const lettering = addLetters(page, letters, 'Letter the page', () => `${ID}:letter-${++count}`);
  return { changes: [...before, { ...lettering, id: `${ID}:letters`, by: 'demo' }], fonts };
}

/** Files of fonts that ship with the app, by where they lie among its packages. */
const FILES = {
  plain: '@expo-google-fonts/comic-neue/400Regular/ComicNeue_400Regular.ttf',
  bold: '@expo-google-fonts/comic-neue/700Bold/ComicNeue_700Bold.ttf',
  loud: '@expo-google-fonts/bangers/400Regular/Bangers_400Regular.ttf',
} as const;

async function fontNamed(file: string) {
  const bytes = await readFile(require.resolve(file));
  const font = readFont(bytes);
  return { font, file: { sha256: sha256Of(bytes), bytes }, ref: { sha256: sha256Of(bytes), name: font.name } };
}

async function lettered(page: Page, panels: readonly PanelEntity[]) {
  const [plain, bold, loud] = await Promise.all([FILES.plain, FILES.bold, FILES.loud].map(fontNamed));
  const { ppi } = page.size;
  const style = (fonts: FontFaces, points: number): LetterStyle => ({
    ...{ fonts, size: ptToPx(points, ppi), leading: 1.12, tracking: 0, align: 'middle', capitals: true },
    color: INK_BLACK,
  });
  const speech = { plain: plain.ref, bold: bold.ref };
  const fonts: ReadFonts = { plain: plain.font, bold: bold.font };
  const says = (panel: number, at: Point, text: string, mouth?: Point, more: Partial<Says> = {}): NewLetters => {
    const { shape = 'oval', isThought = false } = more;
    const air = mmToPx(shape === 'box' ? 1.6 : 2, ppi);
    const runs = text.split('*').map((part, k) => ({ text: part, ...(k % 2 === 1 && { bold: true }) }));
    const made = textInBody({ runs: runs.filter((run) => run.text !== ''), style: style(speech, 8.5) }, fonts, {
      shape,
      air,
      at,
    });
    const bodies = [made.body];
    return {
      balloon: {
        bodies,
        tails: mouth ? [tailTo({ bodies }, mouth, isThought ? 'bubbles' : 'pointed')] : [],
        ...{ border: balloonBorder(ppi), ground: WHITE },
      },
      texts: [made.text],
      panelId: panels[panel - 1].id,
    };
  };
  const sound = freeText(
    { runs: [{ text: 'Klonk' }], style: { ...style({ plain: loud.ref }, 40), outline: { color: WHITE, width: 9 } } },
    { plain: loud.font },
    { x: 1090, y: 1180 },
  ).text;
  const wall = placeOnPlane(page, sound, { frame: quayFrame(page.size), plane: 'left' });
  const { x, y } = middleOfText({ place: wall });
  const letters: NewLetters[] = [
    says(1, { x: 470, y: 250 }, 'Low water, a quarter to nine.', undefined, { shape: 'box' }),
    says(1, { x: 2030, y: 330 }, 'Last boat *tonight*. After that the channel is mud till morning.', {
      x: 1760,
      y: 1010,
    }),
    {
      texts: [{ ...sound, place: afterwards(wall, projectiveOf(translation(1090 - x, 1180 - y))) }],
      panelId: panels[0].id,
    },
    says(
      2,
      { x: 1010, y: 1985 },
      'He says that every night.',
      { x: 690, y: 2030 },
      { shape: 'cloud', isThought: true },
    ),
    says(3, { x: 1760, y: 2700 }, 'Mind the *third* step.', { x: 1560, y: 2560 }),
    says(5, { x: 560, y: 3080 }, 'And if we are seen?', { x: 1010, y: 3240 }),
    says(5, { x: 2110, y: 3110 }, 'Then we were never here.', { x: 1640, y: 3250 }),
  ];
  return { letters, fonts: [plain, bold, loud].map(({ file }) => file) };
}

interface Says {
  readonly shape: 'oval' | 'box' | 'cloud';
  readonly isThought: boolean;
}
