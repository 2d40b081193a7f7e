import { readFileSync } from 'node:fs';
import bunny from 'bunny';
import * as THREE from 'three';
import { exportGltf, importGltf, importObj } from '../src/models';
import {
  boxOfModel,
  checkedModel,
  packModel,
  pullLines,
  simplifiedModel,
  solidOfModel,
  solidsOf,
  standingModel,
  unpackModel,
} from '../src/set';
import { block, OVER, PAGE, PLAIN } from './set/scenes';

const cube = `# a cube, y up
${[0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => `v ${x} ${y} ${z}`))).join('\n')}
f 1 2 4 3\nf 5 7 8 6\nf 1 5 6 2\nf 3 4 8 7\nf 1 3 7 5\nf 2 6 8 4\n`;

const pulledOff = (model: ReturnType<typeof importObj>) => {
  const shape = { kind: 'mesh', blob: 'a', triangles: 1, scale: 2, size: [2, 2, 2] } as const;
  return pullLines([block('model', shape)], OVER, PLAIN, PAGE, new Map([['a', standingModel(model)]]));
};

describe('OBJ files', () => {
  it('read a cube with faces of four corners: nine of its edges are seen, no diagonal', () => {
    expect(pulledOff(importObj(cube))).toHaveLength(9);
  });

  it('count corners backwards too, and leave out all else', () => {
    const { triangles } = importObj('o x\nvn 0 0 1\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl red\nf -3//1 -2/2 -1\n');
    expect([...triangles]).toEqual([0, 1, 2]);
  });

  it.each([
    ['a corner that is not there', 'v 0 0 0\nf 1 2 3', /Line 2 .* corner that is not there/],
    ['a corner without a place', 'v 0 zero 0', /Line 1/],
    ['a face of two corners', 'v 0 0 0\nv 1 0 0\nf 1 2', /fewer than three/],
    ['nothing', '', /no faces/],
  ])('refuse %s', (_name, text, reason) => {
    expect(() => importObj(text)).toThrow(reason);
  });
});

describe('glTF files', () => {
  const sample = (name: string) =>
    new Uint8Array(readFileSync(require.resolve(`@webxr-input-profiles/assets/dist/profiles/generic-hand/${name}`)));

  it('read a GLB that a package carries, with the very number of triangles that three.js counts', async () => {
    const bytes = sample('left.glb');
    const model = checkedModel(await importGltf(bytes));
    const [x, y, z, X, Y, Z] = boxOfModel(model);
    expect(X - x).toBeGreaterThan(0.01);
    expect(Z - z + (Y - y)).toBeGreaterThan(0.01);
    expect(model.triangles.length / 3).toBe(trianglesIn(bytes));
  });

  it('go out and come back as they were', async () => {
    const set = [block('box', { kind: 'box', size: [1, 2, 3] }, [4, 5, 0]), block('wall', WALL)];
    const bytes = await exportGltf(
      'Landing',
      solidsOf(set).map((one) => ({ ...one, name: one.id })),
    );
    const model = await importGltf(bytes);
    const box = boxOfModel(model).map((value) => Math.round(value * 1e4) / 1e4);
    expect(box).toEqual([-2, -0.15, 0, 4.5, 6, 3]);
    // As large as it is: a box's 12 triangles and the wall's face with its hole.
    expect(areaOf(model)).toBeCloseTo(2 * (2 + 3 + 6) + wallArea, 3);
  });

  const gltf = (more: object) => new TextEncoder().encode(JSON.stringify({ asset: { version: '2.0' }, ...more }));
  it.each([
    ['another file beside it', gltf({ buffers: [{ uri: 'far.bin', byteLength: 4 }] }), /another file beside it/],
    [
      'an address that is fetched',
      gltf({ buffers: [{ uri: 'https://example.org/a.bin', byteLength: 4 }] }),
      /not fetched/,
    ],
    ['an extension that it cannot be without', gltf({ extensionsRequired: ['KHR_draco_mesh_compression'] }), /draco/],
    ['no text', new Uint8Array([1, 2, 3]), /cannot be read/],
    ['a list', new TextEncoder().encode('[]'), /no glTF/],
    ['no faces', gltf({ scenes: [{ nodes: [] }], scene: 0 }), /no faces/],
  ])('refuse %s', async (_name, bytes, reason) => {
    await expect(importGltf(bytes)).rejects.toThrow(reason);
  });

  it('refuse a GLB that is cut short', async () => {
    await expect(importGltf(sample('left.glb').slice(0, 400))).rejects.toThrow();
  });
});

const WALL = {
  kind: 'wall',
  size: [4, 0.3, 3],
  openings: [{ at: [0, 1], size: [1, 1], arched: false }],
} as const;
/** Both faces without the hole, four edges round, four round the hole. */
const wallArea = 2 * (12 - 1) + 2 * 0.3 * (4 + 3) + 4 * 0.3;

function areaOf({ positions, triangles }: ReturnType<typeof importObj>): number {
  const at = (k: number) => new THREE.Vector3(...positions.subarray(3 * k, 3 * k + 3));
  let sum = 0;
  for (let k = 0; k < triangles.length; k += 3)
    sum += new THREE.Triangle(at(triangles[k]), at(triangles[k + 1]), at(triangles[k + 2])).getArea();
  return sum;
}

/** What the file itself says of its triangles (glTF 2.0, §3.7.2). */
function trianglesIn(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))));
  return json.meshes
    .flatMap(({ primitives }: { primitives: { indices: number }[] }) => primitives)
    .reduce((sum: number, { indices }: { indices: number }) => sum + json.accessors[indices].count / 3, 0);
}

describe('models', () => {
  const rabbit = {
    positions: Float32Array.from(bunny.positions.flat()),
    triangles: Uint32Array.from(bunny.cells.flat()),
  };

  it('are packed and unpacked to the last bit, and refused where they are cut short or wrong', () => {
    const bytes = packModel(rabbit);
    expect(unpackModel(bytes)).toEqual(rabbit);
    expect(() => unpackModel(bytes.slice(0, -4))).toThrow(/cut short/);
    expect(() => unpackModel(new Uint8Array(40))).toThrow(/no model/);
    const wrong = { ...rabbit, triangles: Uint32Array.of(0, 1, 1e6) };
    expect(() => unpackModel(packModel(wrong))).toThrow(/does not have/);
    const nowhere = { ...rabbit, positions: rabbit.positions.map((value, k) => (k === 7 ? NaN : value)) };
    expect(() => unpackModel(packModel(nowhere))).toThrow(/nowhere/);
  });

  it('are made simpler on request, about as large as they were', () => {
    const simple = simplifiedModel(rabbit, 1_500);
    expect(simple.triangles.length / 3).toBeLessThanOrEqual(1_500);
    boxOfModel(simple).forEach((value, k) => expect(Math.abs(value - boxOfModel(rabbit)[k])).toBeLessThan(1));
  });

  it('of a round thing give few lines: its contour goes on from edge to edge', () => {
    const model = standingModel({ ...rabbit, positions: rabbit.positions.map((value) => value / 10) });
    const shape = { kind: 'mesh', blob: 'a', triangles: 1, scale: 1, size: [1, 1, 1] } as const;
    const lines = pullLines([block('rabbit', shape)], OVER, { ...PLAIN, crease: 1.2 }, PAGE, new Map([['a', model]]));
    expect(lines.length).toBeGreaterThan(3);
    expect(lines.length).toBeLessThan(160);
    for (const { stroke } of lines) expect(stroke.spine.points.every(Number.isFinite)).toBe(true);
  });

  it('may be flat, open, crossing themselves or inside out', () => {
    const flat = { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), triangles: Uint32Array.of(0, 1, 2) };
    expect(solidOfModel(flat, 1)).toMatchObject({ closed: false });
    expect(pulledOff(flat)).toHaveLength(3);
    const cubeOf = importObj(cube);
    const insideOut = { ...cubeOf, triangles: Uint32Array.from([...cubeOf.triangles].reverse()) };
    expect(solidOfModel(insideOut, 1).closed).toBe(false);
    expect(pulledOff(insideOut).length).toBeGreaterThanOrEqual(9);
    const line = { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0), triangles: Uint32Array.of(0, 1, 2) };
    expect(() => solidOfModel(line, 1)).toThrow(/flat to a line/);
  });
});
