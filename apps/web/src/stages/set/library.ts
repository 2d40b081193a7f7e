import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { MODEL_TYPE, seeingAll, type MeshBlock } from '@true-nib/core/set';
import {
  blocksOf,
  checkSetFile,
  laySetFile,
  modelsOf,
  readSetFile,
  setFileOf,
  setFileText,
  windowOf,
  type SetFile,
} from '@true-nib/core/staging';
import { request, requestJson } from '../../api';
import { Hired, sha256Of } from '../../base';
import { begunSlot, takeTool, type Board } from '../../board';
import { chooseFile, download, say } from '../../look';
import { newId } from '../../session';
import { cameraInHand, setInHand, standingOn } from './inHand';
import type { ModelService, ReadModel } from './models.worker';
import { linesPath } from './pictures';
import { setSets } from './setStore';

/** A set of the library as its card shows it. */
export interface SetCard {
  readonly id: string;
  readonly name: string;
  /** Path data of lines, 120 by 84. */
  readonly picture: string;
  readonly blocks: number;
  readonly keptAt: number;
}

export const CARD = { minX: 0, minY: 0, maxX: 120, maxY: 84 } as const;

export const fetchSets = (): Promise<SetCard[]> => requestJson<SetCard[]>('/sets');

export const forgetSet = async (id: string): Promise<void> => {
  await request(`/sets/${encodeURIComponent(id)}`, { method: 'DELETE' });
};

/** Keeps the set in hand in the library, with a picture from its camera. One that was kept before is kept anew. */
export async function keepInLibrary(board: Board, known: readonly SetCard[]): Promise<void> {
  const { page } = board.session;
  const set = setInHand(page);
  if (!set) throw new PageError('There is no set on this page yet.');
  const picture = await pictureOf(board, set.id);
  const file = setFileOf(page, set.id);
  const id = known.find(({ name }) => name === set.name)?.id ?? newId();
  await board.session.flush();
  await requestJson(`/sets/${encodeURIComponent(id)}`, 'PUT', {
    picture,
    file: JSON.parse(setFileText(file)) as unknown,
  });
  say(`${set.name} is in the library.`);
}

/** The set as its first camera sees it, as a small drawing. */
async function pictureOf(board: Board, setId: EntityId): Promise<string> {
  const { page } = board.session;
  const camera = cameraInHand(page);
  const blocks = blocksOf(page, setId);
  if (!camera || blocks.length === 0) return '';
  const window = windowOf(page, camera);
  const small = (CARD.maxX - CARD.minX) / (window.maxX - window.minX);
  const look = { ...camera.look, focal: camera.look.focal * small, centre: { x: 60, y: 42 } };
  const seen = seeingAll({ eye: camera.eye, look }, standingOn(board, blocks), CARD);
  const nib = { name: '', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
  const settings = {
    nibs: { contour: nib, crease: nib, contact: nib },
    crease: 0.4,
    fall: 0,
    over: 0,
    halo: 0,
    dash: 2,
  };
  const asked = { setId, camera: seen, settings, window: CARD };
  const lines = await board.picture.besides.sets.pull(blocks, asked, () => undefined);
  return linesPath(lines ?? []).slice(0, 390_000);
}

/** Puts a set of the library on the page. */
export async function putOnPage(board: Board, id: string): Promise<void> {
  const file = checkSetFile(await requestJson<unknown>(`/sets/${encodeURIComponent(id)}`));
  lay(board, file);
}

function lay(board: Board, file: SetFile): void {
  const { session } = board;
  let laid: readonly EntityId[] = [];
  const isLaid = session.attempt((page) => {
    const change = laySetFile(page, file, newId, board.of(begunSlot).panelId);
    laid = change.edits.flatMap(({ after }) => (after?.kind === 'set' ? [after.id] : []));
    return change;
  });
  if (!isLaid) return;
  takeTool('camera');
  setSets({ setId: laid[0], cameraId: undefined, chosen: [] });
}

const inBase64 = (bytes: Uint8Array): string => {
  let text = '';
  for (let k = 0; k < bytes.length; k += 0x8000) text += String.fromCharCode(...bytes.subarray(k, k + 0x8000));
  return btoa(text);
};

/** Saves the set in hand as one file, with its models. */
export async function saveSetFile({ session }: Board): Promise<void> {
  const set = setInHand(session.page);
  if (!set) return;
  const file = setFileOf(session.page, set.id);
  const models: Record<string, string> = {};
  for (const sha256 of modelsOf(file))
    models[sha256] = inBase64(new Uint8Array(await (await session.blob(sha256)).arrayBuffer()));
  const text = setFileText({ ...file, models });
  download(new Blob([text], { type: 'application/json' }), `${set.name}.set.json`);
}

/** A worker that reads and writes models, for one piece of work. */
async function withModels<T>(work: (service: Hired<ModelService>['service']) => Promise<T>): Promise<T> {
  const worker = new Hired<ModelService>(new Worker(new URL('./models.worker.ts', import.meta.url)));
  try {
    return await worker.ask(work);
  } finally {
    worker.end();
  }
}

/** Saves the set in hand as a GLB, y up. */
export async function saveGltf(board: Board): Promise<void> {
  const { page } = board.session;
  const set = setInHand(page);
  if (!set) return;
  const blocks = blocksOf(page, set.id);
  const names = new Map(blocks.map(({ id, name }) => [id, name]));
  const standing = standingOn(board, blocks).map((block) => ({ ...block, name: names.get(block.id) ?? block.id }));
  const bytes = await withModels((service) => service.write(set.name, standing));
  download(new Blob([bytes], { type: 'model/gltf-binary' }), `${set.name}.glb`);
}

/** Bytes that one file may have. */
const MOST_BYTES = 200e6;

/** Asks for a file: a set of ours is laid on the page, a model is held in hand until it is put somewhere. */
export async function bringIn(board: Board): Promise<void> {
  const file = await chooseFile('.json,.obj,.glb,.gltf,application/json,model/gltf-binary,model/obj');
  if (!file) return;
  try {
    if (file.size > MOST_BYTES) throw new PageError(`This file has more than ${MOST_BYTES / 1e6} MB.`);
    if (/\.json$/i.test(file.name)) await bringSet(board, await file.text());
    else await bringModel(board, file);
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    say(error instanceof PageError ? error.message : 'This file cannot be read.');
  }
}

async function bringSet(board: Board, text: string): Promise<void> {
  const file = readSetFile(text);
  for (const [sha256, base64] of Object.entries(file.models ?? {})) {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    if ((await sha256Of(bytes)) !== sha256) throw new PageError('A model in this file was damaged on its way.');
    await board.session.keepBlob(sha256, new Blob([bytes], { type: MODEL_TYPE }));
  }
  lay(board, file);
}

async function bringModel(board: Board, file: File): Promise<void> {
  const { model: read, trouble } = await withModels((service) => service.read(file, /\.obj$/i.test(file.name)));
  if (!read) throw new PageError(trouble ?? 'This file cannot be read.');
  if (read.had > read.triangles)
    say(`${file.name} had ${read.had.toLocaleString('en-GB')} triangles: it was made simpler.`);
  setSets({ made: await keptModel(board, read), laying: undefined, chosen: [] });
  takeTool('blocks');
}

/** Longest side of a model, m, above and below which it is brought to a size that can be seen. */
const LARGEST = 200;
const SMALLEST = 0.05;
const FRESH = 2;

/** Keeps the bytes of a model, and answers the shape that is made of it. */
async function keptModel(board: Board, { bytes, triangles, size }: ReadModel): Promise<MeshBlock> {
  const sha256 = await sha256Of(bytes);
  await board.session.keepBlob(sha256, new Blob([bytes], { type: MODEL_TYPE }));
  board.picture.besides.sets.takeModel(sha256, bytes);
  const longest = Math.max(...size);
  const scale = longest > LARGEST || longest < SMALLEST ? FRESH / longest : 1;
  const sides = size.map((side) => Math.max(0.001, side * scale));
  return { kind: 'mesh', blob: sha256, triangles, scale, size: [sides[0], sides[1], sides[2]] };
}
