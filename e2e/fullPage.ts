import { drawStroke } from '@true-nib/core/ink';
import { seededRandom } from '@true-nib/core/math';
import { newLayer, ordersBetween, type Edit } from '@true-nib/core/page';
import { pack, PACKED_TYPE } from '@true-nib/core/wire';
import { packSamples } from '@true-nib/core/hand';
import type { GuideEntity } from '@true-nib/core/guides';
import type { Nib } from '@true-nib/core/nib';
import type { StrokeEntity } from '@true-nib/core/stroke';

export const FULL_SIZE = { width: 3300, height: 4200, ppi: 300 };
const nib: Nib = { name: 'Pressure nib', size: 10, thinnest: 0.2, taperIn: 0, taperOut: 0, color: '#14161a' };

/** Some hundred drawn strokes of sixty samples, each laid down many times over the page, on so many layers in turn. */
function strokes(count: number, layers: number, guide: StrokeEntity['guide']): Edit[] {
  const random = seededRandom(11);
  const hands = Array.from({ length: 200 }, () => {
    const [turn, bend] = [random() * 7, (random() - 0.5) * 0.08];
    const samples = Array.from({ length: 60 }, (_, j) => ({
      x: 3 * j * Math.cos(turn + bend * j),
      y: 3 * j * Math.sin(turn + bend * j),
      pressure: 0.3 + 0.5 * random(),
    }));
    return { packed: packSamples(samples), drawn: drawStroke(samples, nib, { way: 'even', strength: 30 }) };
  });
  return ordersBetween(undefined, undefined, count).flatMap((order, k) => {
    const { packed, drawn } = hands[k % hands.length];
    const [dx, dy] = [random() * FULL_SIZE.width, random() * FULL_SIZE.height];
    const points = drawn.spine.points.map((value, i) => (i % 3 === 0 ? value + dx : i % 3 === 1 ? value + dy : value));
    const stroke: StrokeEntity = {
      ...{ kind: 'stroke', id: `s${k}`, layerId: layerId(k % layers), order, nib, ends: drawn.ends },
      ...(guide && { guide }),
      spine: { points, closed: false },
      origin: { samples: `h${k}`, calm: { way: 'even', strength: 30 }, zoom: 1, matrix: [1, 0, 0, 1, dx, dy] },
    };
    return [
      { before: null, after: { kind: 'samples', id: `h${k}`, packed } },
      { before: null, after: stroke },
    ];
  });
}

const layerId = (k: number): string => (k === 0 ? 'inks' : `inks-${k + 1}`);

export interface FullPageOptions {
  readonly count?: number;
  readonly layers?: number;
  readonly guides?: readonly GuideEntity[];
  /** What all strokes were drawn on. */
  readonly heldBy?: StrokeEntity['guide'];
}

/** What lays a page of so many strokes down, from nothing. */
export function fullEdits({ count = 20_000, layers = 1, guides = [], heldBy }: FullPageOptions = {}): Edit[] {
  const laid: Edit[] = ordersBetween(undefined, undefined, layers).map((order, k) => ({
    before: null,
    after: newLayer({ id: layerId(k), medium: 'ink', name: k === 0 ? 'Inks' : `Inks ${k + 1}`, order }),
  }));
  return [...laid, ...guides.map((after) => ({ before: null, after })), ...strokes(count, layers, heldBy)];
}

/** Lays a page of so many strokes down on a server, in a folio that is there; answers its id. */
export async function layFullPage(address: string, folioId: string, options: FullPageOptions = {}): Promise<string> {
  const made = await fetch(`${address}/api/pages`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ folioId, name: 'Full page', ...FULL_SIZE }),
  });
  const { id } = (await made.json()) as { id: string };
  const edits = fullEdits(options);
  const each = 4_000;
  for (let from = 0; from < edits.length; from += each) {
    const change = { id: `c${from}`, by: 'me', label: 'Lay', at: 1, needs: [], edits: edits.slice(from, from + each) };
    const body = new Uint8Array(pack({ since: from / each, changes: [change] }));
    const answer = await fetch(`${address}/api/pages/${id}/changes`, {
      method: 'POST',
      headers: { 'content-type': PACKED_TYPE },
      body,
    });
    if (answer.status !== 200) throw new Error(`The server answered ${answer.status} to a full page.`);
  }
  return id;
}
