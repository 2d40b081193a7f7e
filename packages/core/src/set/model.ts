import { PageError } from '../gate';
import { cross, dot, minus, unit, type Vector } from '../math';
import { BLOCK_LIMITS } from './blocks/table';
import type { Edge, Face, Solid } from './solid';

/** A model as it was read from a file: x, y, z of each corner, and three corner numbers of each triangle. z is up. */
export interface Model {
  readonly positions: Float32Array;
  readonly triangles: Uint32Array;
}

/** What a packed model is called among bytes. */
export const MODEL_TYPE = 'application/x-true-nib-model';

/** "TNM1", read as a number. */
const SEAL = 0x314d4e54;
const HEAD = 12;

/** A model as bytes: a seal, how many corners and triangles, then both, little-endian. */
export function packModel({ positions, triangles }: Model): Uint8Array {
  const bytes = new Uint8Array(HEAD + 4 * (positions.length + triangles.length));
  const view = new DataView(bytes.buffer);
  view.setUint32(0, SEAL, true);
  view.setUint32(4, positions.length / 3, true);
  view.setUint32(8, triangles.length / 3, true);
  positions.forEach((value, k) => view.setFloat32(HEAD + 4 * k, value, true));
  triangles.forEach((value, k) => view.setUint32(HEAD + 4 * (positions.length + k), value, true));
  return bytes;
}

/** The model in bytes. Throws a PageError for what is cut short, is no model, or names corners that are not there. */
export function unpackModel(bytes: Uint8Array): Model {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEAD || view.getUint32(0, true) !== SEAL) throw new PageError('These bytes are no model.');
  const [corners, count] = [view.getUint32(4, true), view.getUint32(8, true)];
  if (count > BLOCK_LIMITS.triangles || bytes.length !== HEAD + 12 * (corners + count))
    throw new PageError('This model is cut short or damaged.');
  const positions = new Float32Array(3 * corners);
  const triangles = new Uint32Array(3 * count);
  for (let k = 0; k < positions.length; k++) positions[k] = view.getFloat32(HEAD + 4 * k, true);
  for (let k = 0; k < triangles.length; k++) triangles[k] = view.getUint32(HEAD + 12 * corners + 4 * k, true);
  return checkedModel({ positions, triangles });
}

/** The same model, looked at. Throws a PageError that says what is wrong with it. */
export function checkedModel(model: Model): Model {
  const { positions, triangles } = model;
  if (triangles.length === 0) throw new PageError('There are no faces in this model.');
  if (triangles.length / 3 > BLOCK_LIMITS.triangles)
    throw new PageError(
      `This model has ${(triangles.length / 3).toLocaleString('en-GB')} triangles; at most ${BLOCK_LIMITS.triangles.toLocaleString('en-GB')} can be drawn from.`,
    );
  if (!positions.every(Number.isFinite)) throw new PageError('Some corners of this model lie nowhere.');
  const corners = positions.length / 3;
  if (!triangles.every((corner) => corner < corners))
    throw new PageError('This model names corners that it does not have.');
  return model;
}

/** The box of a model: least x, y, z, then most. */
export function boxOfModel({ positions }: Model): readonly number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let k = 0; k < positions.length; k++) {
    const axis = k % 3;
    if (positions[k] < box[axis]) box[axis] = positions[k];
    if (positions[k] > box[axis + 3]) box[axis + 3] = positions[k];
  }
  return box;
}

/** A model moved so that it stands on the floor about the middle of its box. */
export function standingModel(model: Model): Model {
  const [x, y, z, X, Y] = boxOfModel(model);
  const off = [(x + X) / 2, (y + Y) / 2, z];
  return { ...model, positions: model.positions.map((value, k) => value - off[k % 3]) };
}

/** The cosine of the angle under which two triangles are one plane. */
const FLAT = 1 - 1e-7;

/** A model as a solid, `scale` m per unit. Corners at one place are one; triangles without area are left out. */
export function solidOfModel(model: Model, scale: number): Solid {
  const { corners, faces } = welded(model, scale);
  const surfaces = faces.map(([a, b, c]): Face => {
    const rings = [[corners[a], corners[b], corners[c]]];
    return { kind: 'face', rings, normal: normalOf(corners[a], corners[b], corners[c]) };
  });
  const sides = new Map<number, { readonly from: number; readonly to: number; readonly faces: number[] }>();
  faces.forEach((face, k) =>
    face.forEach((a, at) => {
      const b = face[(at + 1) % 3];
      const key = Math.min(a, b) * corners.length + Math.max(a, b);
      const known = sides.get(key);
      if (known) known.faces.push(k);
      else sides.set(key, { from: a, to: b, faces: [k] });
    }),
  );
  let closed = true;
  const edges: Edge[] = [];
  for (const { from, to, faces: own } of sides.values()) {
    if (own.length !== 2) closed = false;
    // Where more than two meet, each is a border of its own.
    const pairs: readonly (readonly [number, number])[] =
      own.length === 2 ? [[own[0], own[1]]] : own.map((face) => [face, -1] as const);
    for (const pair of pairs) {
      const isFlat = pair[1] >= 0 && dot(surfaces[pair[0]].normal, surfaces[pair[1]].normal) > FLAT;
      if (!isFlat)
        edges.push({ course: { kind: 'segment', from: corners[from], to: corners[to] }, sides: pair, run: 'mesh' });
    }
  }
  return { surfaces, edges, closed: closed && isOutward(surfaces) };
}

/** Whether the surfaces of a closed mesh look outwards: then what it holds is above 0. */
function isOutward(surfaces: readonly Face[]): boolean {
  let volume = 0;
  for (const { rings } of surfaces) volume += dot(rings[0][0], cross(rings[0][1], rings[0][2]));
  return volume > 0;
}

const normalOf = (a: Vector, b: Vector, c: Vector): Vector => unit(cross(minus(b, a), minus(c, a)));

function welded({ positions, triangles }: Model, scale: number) {
  const corners: Vector[] = [];
  const known = new Map<string, number>();
  const at = new Uint32Array(positions.length / 3);
  for (let k = 0; k < at.length; k++) {
    const place = [positions[3 * k], positions[3 * k + 1], positions[3 * k + 2]] as const;
    const name = place.join(' ');
    let number = known.get(name);
    if (number === undefined) {
      number = corners.push([place[0] * scale, place[1] * scale, place[2] * scale]) - 1;
      known.set(name, number);
    }
    at[k] = number;
  }
  const faces: (readonly [number, number, number])[] = [];
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [at[triangles[k]], at[triangles[k + 1]], at[triangles[k + 2]]];
    if (a === b || b === c || c === a) continue;
    const area = cross(minus(corners[b], corners[a]), minus(corners[c], corners[a]));
    if (Math.hypot(...area) > 0) faces.push([a, b, c]);
  }
  if (faces.length === 0) throw new PageError('This model is flat to a line: it has no faces.');
  return { corners, faces };
}

/**
 * A model with at most about so many triangles: corners that share a cell of a grid become one (Rossignac & Borrel 1993). The
 * grid is made coarser until it is enough.
 */
export function simplifiedModel(model: Model, most: number): Model {
  const box = boxOfModel(model);
  const side = Math.max(box[3] - box[0], box[4] - box[1], box[5] - box[2]);
  for (let cells = 512; cells >= 4; cells = Math.floor(cells * 0.8)) {
    const made = clustered(model, box, side / cells);
    if (made.triangles.length / 3 <= most) return made;
  }
  return clustered(model, box, side / 4);
}

function clustered({ positions, triangles }: Model, box: readonly number[], cell: number): Model {
  const sums = new Map<string, { readonly sum: number[]; count: number; readonly at: number }>();
  const at = new Uint32Array(positions.length / 3);
  for (let k = 0; k < at.length; k++) {
    const place = [0, 1, 2].map((axis) => positions[3 * k + axis]);
    const name = place.map((value, axis) => Math.floor((value - box[axis]) / cell)).join(' ');
    const known = sums.get(name) ?? { sum: [0, 0, 0], count: 0, at: sums.size };
    sums.set(name, known);
    place.forEach((value, axis) => (known.sum[axis] += value));
    known.count++;
    at[k] = known.at;
  }
  const middles = Float32Array.from([...sums.values()].flatMap(({ sum, count }) => sum.map((value) => value / count)));
  const kept: number[] = [];
  const seen = new Set<string>();
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [at[triangles[k]], at[triangles[k + 1]], at[triangles[k + 2]]];
    const name = [a, b, c].sort((p, q) => p - q).join(' ');
    if (a === b || b === c || c === a || seen.has(name)) continue;
    seen.add(name);
    kept.push(a, b, c);
  }
  return { positions: middles, triangles: Uint32Array.from(kept) };
}
