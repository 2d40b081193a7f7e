import { Document, WebIO, type Node, type Primitive } from '@gltf-transform/core';
import { PageError } from '../gate';
import type { Vector } from '../math';
import type { Model, StandingBlock } from '../set';
import { flatOfSolid } from './triangles';

const GLB = 0x46546c67;
/** Triangles that one file may have. */
const MOST = 4_000_000;
/** Extensions that change nothing of the shape, or that are read. */
const LET_BE = /^(KHR_materials_|KHR_texture_|KHR_lights_|KHR_mesh_quantization$|EXT_texture_)/;

interface Json {
  asset?: { version?: string };
  buffers?: { uri?: string }[];
  images?: unknown;
  textures?: unknown;
  samplers?: unknown;
  materials?: unknown;
  animations?: unknown;
  skins?: unknown;
  extensionsUsed?: string[];
  extensionsRequired?: string[];
  meshes?: { primitives: { material?: number; extensions?: unknown }[] }[];
  nodes?: { skin?: number; extensions?: unknown }[];
  extensions?: unknown;
}

/**
 * A model from a glTF file whose buffers are within it, or a GLB (glTF 2.0, Khronos), read by `@gltf-transform/core`: all meshes of
 * its scene as they stand, without materials and motion. z is up in the model, y in the file. Throws a PageError that says
 * what is wrong: nothing outside the file is fetched.
 */
export async function importGltf(bytes: Uint8Array, most = MOST): Promise<Model> {
  const { json, rest } = parts(bytes);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  const bare = stripped(json);
  bare.buffers?.forEach((buffer, k) => {
    if (buffer.uri === undefined) {
      if (k > 0 || !rest) throw new PageError('This file has lost a part of its bytes.');
      resources['@glb.bin'] = rest;
    } else {
      resources[`b${k}`] = embedded(buffer.uri);
      buffer.uri = `b${k}`;
    }
  });
  let document: Document;
  try {
    document = await new WebIO().readJSON({ json: bare as never, resources });
  } catch {
    throw new PageError('This file is no glTF that can be read: it is damaged, or cut short.');
  }
  return gathered(document, most);
}

/** The JSON of a file, and the bytes that come with it in a GLB. */
function parts(bytes: Uint8Array): { readonly json: Json; readonly rest: Uint8Array<ArrayBuffer> | undefined } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let text: Uint8Array = bytes;
  let rest: Uint8Array<ArrayBuffer> | undefined;
  if (bytes.length >= 20 && view.getUint32(0, true) === GLB) {
    const long = view.getUint32(12, true);
    if (view.getUint32(4, true) !== 2) throw new PageError('Only glTF 2.0 can be read.');
    if (20 + long > bytes.length) throw new PageError('This file is cut short.');
    text = bytes.subarray(20, 20 + long);
    const at = 20 + long;
    if (at + 8 <= bytes.length) rest = bytes.slice(at + 8, at + 8 + view.getUint32(at, true));
  }
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(text));
  } catch {
    throw new PageError('This file is no glTF: its text cannot be read.');
  }
  const isGltf = typeof json === 'object' && json !== null && 'asset' in json;
  if (!isGltf) throw new PageError('This file is no glTF.');
  return { json: json as Json, rest };
}

/** Without all that has no shape; what the shape itself needs and is not known is refused. */
function stripped(json: Json): Json {
  const unknown = (json.extensionsRequired ?? []).find((name) => !LET_BE.test(name));
  if (unknown !== undefined)
    throw new PageError(`This file is packed with ${unknown}, which cannot be read. Save it without that.`);
  const {
    images: _i,
    textures: _t,
    samplers: _s,
    materials: _m,
    animations: _a,
    skins: _k,
    extensions: _e,
    ...bare
  } = json;
  const kept = (names: string[] = []) => names.filter((name) => name === 'KHR_mesh_quantization');
  return {
    ...bare,
    extensionsUsed: kept(json.extensionsUsed),
    extensionsRequired: kept(json.extensionsRequired),
    buffers: json.buffers?.map((buffer) => ({ ...buffer })) ?? [],
    meshes:
      json.meshes?.map((mesh) => ({
        ...mesh,
        primitives: mesh.primitives.map(({ material: _material, extensions: _ext, ...primitive }) => primitive),
      })) ?? [],
    nodes: json.nodes?.map(({ skin: _skin, extensions: _ext, ...node }) => node) ?? [],
  };
}

/** The bytes of an address that holds them itself. */
function embedded(uri: string): Uint8Array<ArrayBuffer> {
  const [, base64] = /^data:[^,]*;base64,(.*)$/s.exec(uri) ?? [];
  if (base64 === undefined)
    throw new PageError(
      'This glTF needs another file beside it, which is not fetched. Save it as one file: GLB, or embedded.',
    );
  const text = atob(base64);
  return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
}

const TRIANGLES = 4;

function gathered(document: Document, most: number): Model {
  const corners: number[] = [];
  const triangles: number[] = [];
  const scenes = document.getRoot().listScenes();
  const scene = document.getRoot().getDefaultScene() ?? scenes[0];
  const add = (node: Node) => {
    const matrix = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) addPrimitive(primitive, matrix, corners, triangles);
    if (triangles.length / 3 > most)
      throw new PageError(`This model has more than ${most.toLocaleString('en-GB')} triangles.`);
  };
  if (scene) scene.traverse(add);
  else document.getRoot().listNodes().forEach(add);
  if (triangles.length === 0) throw new PageError('There are no faces in this file.');
  const positions = Float32Array.from(corners);
  if (!positions.every(Number.isFinite)) throw new PageError('Some corners of this model lie nowhere.');
  const count = positions.length / 3;
  if (triangles.some((corner) => !(corner < count)))
    throw new PageError('This model names corners that it does not have.');
  return { positions, triangles: Uint32Array.from(triangles) };
}

function addPrimitive(primitive: Primitive, m: readonly number[], corners: number[], triangles: number[]): void {
  const position = primitive.getAttribute('POSITION');
  if (!position || primitive.getMode() < TRIANGLES) return;
  const first = corners.length / 3;
  const place: number[] = [0, 0, 0];
  for (let k = 0; k < position.getCount(); k++) {
    position.getElement(k, place);
    const [x, y, z] = place;
    const at = (row: number) => m[row] * x + m[4 + row] * y + m[8 + row] * z + m[12 + row];
    corners.push(at(0), -at(2), at(1));
  }
  const indices = primitive.getIndices()?.getArray();
  const corner = (k: number) => first + (indices ? indices[k] : k);
  const count = indices?.length ?? position.getCount();
  const mode = primitive.getMode();
  if (mode === TRIANGLES)
    for (let k = 0; k + 2 < count; k += 3) triangles.push(corner(k), corner(k + 1), corner(k + 2));
  else
    for (let k = 2; k < count; k++) {
      // A strip turns every other triangle round, a fan keeps its first corner.
      const isStrip = mode === 5;
      if (isStrip && k % 2 === 1) triangles.push(corner(k - 1), corner(k - 2), corner(k));
      else triangles.push(corner(isStrip ? k - 2 : 0), corner(k - 1), corner(k));
    }
}

/** The blocks of a set as a GLB, one mesh each, y up: round surfaces as flats. */
export async function exportGltf(
  name: string,
  blocks: readonly (StandingBlock & { readonly name: string })[],
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene(name);
  for (const block of blocks) {
    const { corners, triangles } = flatOfSolid(block.solid);
    const positions = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.from(corners.flatMap(([x, y, z]: Vector) => [x, z, -y])))
      .setBuffer(buffer);
    const indices = document.createAccessor().setType('SCALAR').setArray(Uint32Array.from(triangles)).setBuffer(buffer);
    const primitive = document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices);
    scene.addChild(document.createNode(block.name).setMesh(document.createMesh(block.name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(document);
}
