import { drawStroke } from '@true-nib/core/ink';
import { seededRandom } from '@true-nib/core/math';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { bringInRough, fittedPlacement, placementMatrix } from '@true-nib/core/tools';
import { laidAs } from '@true-nib/core/drawn';
import { pageToSvg } from '@true-nib/core/formats';
import {
  applyChange,
  newLayer,
  newPage,
  ordersBetween,
  TRACE_SETTINGS,
  type Change,
  type Edit,
  type PageSize,
  type TraceRecord,
} from '@true-nib/core/page';
import {
  centreLines,
  evenLight,
  flatSheet,
  inkOf,
  layTrace,
  sheetCorners,
  straighten,
  type Picture,
} from '@true-nib/core/trace';
import sharp from 'sharp';
import { penSamples } from './hand';
import { heronBlacks, heronInked } from './heronFinished';
import { cornersInShot, paperPhoto, type Shot } from './paperPhoto';

/** The mask on a square of the sketchbook's page. */
const MASK = { width: 2800, height: 2800 } as const;
/** An A5 sheet, px. */
const SHEET = { width: 1400, height: 1980 } as const;
const SHOT: Shot = { width: 1500, height: 2000, lens: 2100, turn: 0.07, tilt: 0.3, lean: 0.12, away: 1.3 };
/** A5 at 300 ppi. */
export const SKETCHBOOK_SIZE: PageSize = { width: 1748, height: 2480, ppi: 300 };

type Draft = (id: string, label: string, edits: readonly Edit[]) => Change;

/** A photo of a page of the sketchbook: *the heron mask* in ink over blue pencil, on the table of the ferryman's hut. A JPEG. */
export async function sketchbookPhoto(): Promise<Buffer> {
  const svg = sheetSvg();
  const { data } = await sharp(Buffer.from(svg), { unlimited: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const sheet: Picture = { ...SHEET, data: new Uint8ClampedArray(data) };
  const photo = paperPhoto(sheet, cornersInShot(SHOT, SHEET.width / SHEET.height), SHOT, 73);
  const raw = { width: photo.width, height: photo.height, channels: 4 as const };
  return sharp(Buffer.from(photo.data.buffer), { raw }).removeAlpha().jpeg({ quality: 90 }).toBuffer();
}

/** What is drawn on the sheet: blue pencil, loose, and ink over it. */
function sheetSvg(): string {
  const random = seededRandom(41);
  const sketch = heronInked();
  const inks = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });
  const blacks = heronBlacks().things;
  const orders = ordersBetween(undefined, undefined, sketch.marks.length + blacks.length);
  const lines = sketch.marks.map((mark, k) => {
    const nib = { ...SHIPPED_NIBS[1].nib, size: 9 + 14 * mark.weight, thinnest: 0.4, color: '#17181c' };
    const stroke = drawStroke(penSamples(mark.points, 0.72, random), nib, { way: 'even', strength: 30 });
    return laidAs(stroke, { id: `line-${k}`, layerId: inks.id, order: orders[k] });
  });
  const areas = blacks.map((thing, k) =>
    laidAs(thing, { id: `black-${k}`, layerId: inks.id, order: orders[lines.length + k] }),
  );
  const page = applyChange(newPage({ ...MASK, ppi: 350 }), {
    id: 'sheet',
    by: '',
    label: '',
    at: 0,
    needs: [],
    edits: [inks, ...lines, ...areas].map((after) => ({ before: null, after })),
  });
  const [, inside] = /<svg[^>]*>(.*)<\/svg>/s.exec(pageToSvg(page, { paper: false })) ?? [];
  const pencil = heronInked().marks.map(({ points }) => {
    const [dx, dy] = [24 * (random() - 0.5), 24 * (random() - 0.5)];
    const d = points.map(({ x, y }, k) => `${k === 0 ? 'M' : 'L'}${(x + dx).toFixed(1)} ${(y + dy).toFixed(1)}`);
    return `<path d="${d.join('')}"/>`;
  });
  const place = `translate(60 330) scale(${1280 / MASK.width})`;
  return `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${SHEET.width}" height="${SHEET.height}"><rect width="100%" height="100%" fill="#fff"/><g transform="${place}" fill="none" stroke="#8fc1e6" stroke-width="9" stroke-linecap="round">${pencil.join('')}</g><g transform="${place}">${inside ?? ''}</g></svg>`;
}

/** A page with the photo as its rough, as it was taken: to be straightened and traced. */
export const photographed = (pageId: string, blob: string, draft: Draft): Change[] => {
  const { edits } = bringInRough(
    newPage(SKETCHBOOK_SIZE),
    { blob, width: SHOT.width, height: SHOT.height },
    { layer: `${pageId}:rough`, picture: `${pageId}:photo` },
  );
  return [draft(`${pageId}:start`, 'Bring in the photo', edits.map(asPhoto))];
};

/** In its own colours, as strong as it is. */
function asPhoto(edit: Edit): Edit {
  return edit.after?.kind === 'picture' ? { ...edit, after: { ...edit.after, opacity: 1, tint: 'none' } } : edit;
}

/** The same, laid flat, its light even and its blue pencil gone, and traced: by the very steps that the desk takes. */
export async function tracedSheet(pageId: string, blob: string, photo: Buffer, draft: Draft): Promise<Change[]> {
  const [start] = photographed(pageId, blob, draft);
  const { data, info } = await sharp(photo).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const picture: Picture = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
  const corners = sheetCorners(picture) ?? cornersInShot(SHOT, SHEET.width / SHEET.height);
  const { width, height } = flatSheet(corners, picture);
  const light = { evened: true, drop: ['blue' as const] };
  const placement = fittedPlacement({ width, height }, SKETCHBOOK_SIZE);
  const page = applyChange(newPage(SKETCHBOOK_SIZE), start);
  const before = page.entities.get(`${pageId}:photo`);
  if (before?.kind !== 'picture') return [start];
  const taken = { width: picture.width, height: picture.height };
  const scan = { taken, corners, ...light };
  const after = { ...before, width, height, placement, scan };
  const flat = draft(`${pageId}:flat`, 'Straighten the rough', [{ before, after }]);
  const ink = inkOf(evenLight(straighten(picture, corners, { width, height }), light));
  const settings = { ...TRACE_SETTINGS, smallMarks: 4 };
  const record: TraceRecord = {
    ...{ from: before.id, name: `${pageId}:line`, map: placementMatrix(placement, { width, height }), takes: 'lines' },
    ...{ pixels: { as: 'picture', blob, width, height, scan }, settings, said: [] },
  };
  const traced = centreLines(ink, settings);
  const { edits } = layTrace(applyChange(page, flat), record, traced, {
    layerId: `${pageId}:traced`,
    color: '#17181c',
  });
  return [start, flat, draft(`${pageId}:trace`, 'Trace Rough', edits)];
}
