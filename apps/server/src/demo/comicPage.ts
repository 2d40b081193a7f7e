import { readFile } from 'node:fs/promises';
import { areaWithin, type AreaFill } from '@true-nib/core/area';
import { addLetters, middleOfText, newBalloon, tailTo, type NewLetters } from '@true-nib/core/comic';
import type { Spine } from '@true-nib/core/curve';
import { laidAs, markBox } from '@true-nib/core/drawn';
import { drawStroke } from '@true-nib/core/ink';
import { runsFrom, type FontFaces, type LetterFit, type LetterStyle } from '@true-nib/core/lettering';
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
  type Matrix,
  type Matrix3x3,
  type Point,
} from '@true-nib/core/math';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import {
  applyChange,
  draftChange,
  mmToPx,
  newLayer,
  ptToPx,
  type Change,
  type Edit,
  type Page,
} from '@true-nib/core/page';
import { packSamples } from '@true-nib/core/hand';
import type { Panel, PanelEntity } from '@true-nib/core/panel';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { freeText, readFont, textInBody, type ReadFonts } from '@true-nib/core/typeset';
import { sha256Of } from '../keeping/blobs';
import { penSamples } from './hand';
import type { Sketch } from './sketch';

/** A font as it is kept with a page. */
export interface FontFile {
  readonly sha256: string;
  readonly bytes: Buffer;
}

/** A part of another drawing in a panel: its marks under a map. */
export interface Scene {
  readonly sketch: Sketch;
  readonly map: Matrix;
  /** How much heavier its lines are. */
  readonly weight: number;
  /** Black where it is missing. */
  readonly color?: string;
}

export interface Cell {
  readonly panel: Panel;
  readonly scenes: readonly Scene[];
  readonly fills?: readonly { readonly ring: Spine; readonly fill: AreaFill }[];
}

/** A map that brings a place of a drawing to a place of the page, so much larger. */
export const brought = (from: Point, to: Point, factor: number): Matrix =>
  chain(translation(-from.x, -from.y), scaling(factor), translation(to.x, to.y));

export const tone = (
  share: number,
  angle: number,
  ramp?: readonly [from: Point, to: Point, share: number],
): AreaFill => ({
  ...{ as: 'tone', color: INK_BLACK, screen: 'lines', period: 16, angle, at: { x: 0, y: 0 }, share },
  ...(ramp && { ramp: { shape: 'straight', from: ramp[0], to: ramp[1], share: ramp[2] } }),
});

/** The lines of a scene that lie in a panel, drawn by a seeded hand. */
function inked(
  { sketch, map, weight, color = INK_BLACK }: Scene,
  panel: PanelEntity,
  inks: string,
  seed: number,
): Edit[] {
  const random = seededRandom(seed);
  const calm = { way: 'even', strength: 30 } as const;
  const frame = boxOfFlat(panel.ring.points, 3);
  let count = 0;
  return sketch.marks.flatMap((mark): Edit[] => {
    if (mark.as === 'construction') return [];
    const points = mark.points.map((at) => apply(map, at));
    const nib: Nib = {
      ...SHIPPED_NIBS[1].nib,
      ...{ size: (5 + 15 * mark.weight) * weight, thinnest: 0.25, color },
    };
    const samples = penSamples(points, 0.72, random);
    const id = `${panel.id}:stroke-${seed}-${count}`;
    const place = { id, layerId: inks, order: `a${seed}${String(count).padStart(4, '0')}V`, panelId: panel.id };
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

/** What letters a page, in the fonts that ship with the app. */
export interface Letterer {
  /** A balloon about a place of a panel, with a tail to a mouth where there is one. */
  readonly says: (panel: number, at: Point, text: string, mouth?: Point, more?: Partial<Says>) => NewLetters;
  /** A text of its own about a place of a panel, in loud letters of so many points. */
  readonly loud: (panel: number, at: Point, text: string, points: number, more?: Partial<Loud>) => NewLetters;
}

interface Says {
  readonly shape: 'oval' | 'box' | 'cloud' | 'burst';
  readonly isThought: boolean;
}

interface Loud {
  readonly color: string;
  readonly outline: string;
  readonly fit: LetterFit;
  /** The same text elsewhere: on a wall. */
  readonly placed: (place: Matrix3x3) => Matrix3x3;
}

/** What is drawn and written on a comic page of the demo. */
export interface ComicDrawing {
  readonly id: string;
  readonly cells: readonly Cell[];
  /** How large its speech is, points. */
  readonly points: number;
  readonly letters: (letterer: Letterer) => readonly NewLetters[];
}

/** A page as it is drawn from a page that is there, as changes, with the fonts that it names. */
export async function comicPage(
  start: Page,
  { id: pageId, cells, points: speechPoints, letters }: ComicDrawing,
): Promise<{ readonly changes: readonly Change[]; readonly fonts: readonly FontFile[] }> {
  const inks = newLayer({ id: `${pageId}:lines`, medium: 'ink', name: 'Inks', order: 'a8' });
  const greys = newLayer({ id: `${pageId}:greys`, medium: 'ink', name: 'Blacks', order: 'a7' });
  const borders = newLayer({ id: `${pageId}:panels`, medium: 'ink', name: 'Panels', order: 'a9' });
  const panels = cells.map(({ panel }, k): PanelEntity => ({
    ...{ kind: 'panel', id: `${pageId}:panel-${k + 1}`, layerId: borders.id, order: `a${k}V` },
    ...panel,
  }));
  const change = (id: string, label: string, edits: readonly Edit[], needs: readonly string[] = []): Change => ({
    ...draftChange(label, edits, needs),
    ...{ id: `${pageId}:${id}`, by: 'demo' },
  });
  const added = (entities: readonly NonNullable<Edit['after']>[]): Edit[] =>
    entities.map((after) => ({ before: null, after }));
  const laidOut = change('layout', 'Lay out panels', added([greys, inks, borders, ...panels]));
  const lines = cells.flatMap(({ scenes }, k) =>
    scenes.map((scene, n) =>
      change(`ink-${k}-${n}`, 'Ink the panel', inked(scene, panels[k], inks.id, 101 + k * 7 + n), [inks.id]),
    ),
  );
  const fills = cells.flatMap(({ fills: own = [] }, k) =>
    own.map(({ ring, fill }, n) =>
      laidAs(areaWithin([ring], fill), {
        ...{ id: `${panels[k].id}:fill-${n}`, layerId: greys.id, panelId: panels[k].id },
        order: `a${k}${String(n).padStart(2, '0')}V`,
      }),
    ),
  );
  const filled = change('fill', 'Tones and blacks', added(fills), [greys.id]);
  const before = [laidOut, ...lines, filled];
  const page = before.reduce(applyChange, start);
  const { letterer, fonts } = await letterFor(page, panels, speechPoints);
  let count = 0;
  const lettering = addLetters(page, letters(letterer), 'Letter the page', () => `${pageId}:letter-${++count}`);
  return { changes: [...before, { ...lettering, id: `${pageId}:letters`, by: 'demo' }], fonts };
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

async function letterFor(
  { size: { ppi } }: Page,
  panels: readonly PanelEntity[],
  speechPoints: number,
): Promise<{ readonly letterer: Letterer; readonly fonts: readonly FontFile[] }> {
  const [plain, bold, loud] = await Promise.all([FILES.plain, FILES.bold, FILES.loud].map(fontNamed));
  const style = (fonts: FontFaces, points: number): LetterStyle => ({
    ...{ fonts, size: ptToPx(points, ppi), leading: 1.12, tracking: 0, align: 'middle', capitals: true },
    color: INK_BLACK,
  });
  const speech = { plain: plain.ref, bold: bold.ref };
  const fonts: ReadFonts = { plain: plain.font, bold: bold.font };
  const letterer: Letterer = {
    says: (panel, at, text, mouth, { shape = 'oval', isThought = false } = {}) => {
      const air = mmToPx(shape === 'box' ? 1.6 : 2, ppi);
      const made = textInBody({ runs: runsFrom(text), style: style(speech, speechPoints) }, fonts, { shape, air, at });
      const bodies = [made.body];
      return {
        balloon: {
          ...newBalloon(made.body, 'none', ppi),
          tails: mouth ? [tailTo({ bodies }, mouth, isThought ? 'bubbles' : 'pointed')] : [],
        },
        texts: [made.text],
        panelId: panels[panel - 1].id,
      };
    },
    loud: (panel, at, text, points, { color = INK_BLACK, outline, fit, placed } = {}) => {
      const look: LetterStyle = {
        ...style({ plain: loud.ref }, points),
        color,
        ...(outline !== undefined && { outline: { color: outline, width: mmToPx(0.6, ppi) } }),
      };
      const { text: set } = freeText({ runs: runsFrom(text), style: look }, { plain: loud.font }, at, fit);
      if (!placed) return { texts: [set], panelId: panels[panel - 1].id };
      // A map may take it elsewhere: it is brought back.
      const place = placed(set.place);
      const { x, y } = middleOfText({ place });
      const back = afterwards(place, projectiveOf(translation(at.x - x, at.y - y)));
      return { texts: [{ ...set, place: back }], panelId: panels[panel - 1].id };
    },
  };
  return { letterer, fonts: [plain, bold, loud].map(({ file }) => file) };
}
