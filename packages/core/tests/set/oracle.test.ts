import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { carriedBy, seededRandom, type Vector } from '../../src/math';
import { polygonOf } from './closedForms';
import { cameraAt, OVER, pulled, SIZE, straightScene } from './scenes';
import { picturedAt, placeMap, solidOf, viewOf, type BlockEntity, type Eye, type Solid } from '../../src/set';

/** The same camera in `three`: its lens is shifted by an off-axis frustum. */
function threeCamera({ eye, look }: Eye): THREE.Camera {
  const { centre, focal, axes } = look;
  const near = 0.1;
  const camera = new THREE.PerspectiveCamera();
  const at = (px: number) => (px * near) / focal;
  camera.projectionMatrix.makePerspective(
    ...([at(-centre.x), at(SIZE.width - centre.x), at(centre.y), at(centre.y - SIZE.height), near, 1000] as const),
  );
  // Rows of the turn: the picture's right, its up, and back out of it, in the set.
  const row = (k: 0 | 1 | 2) => new THREE.Vector3(axes.right[k], axes.left[k], axes.height[k]);
  const turn = new THREE.Matrix4().makeBasis(row(0), row(1).negate(), row(2).negate());
  camera.matrixWorld.copy(turn).setPosition(...eye);
  camera.matrixWorldInverse.copy(camera.matrixWorld).invert();
  return camera;
}

it.each([
  ['two points', cameraAt([-5, -13, 3], 20, 0)],
  ['three points', OVER],
  ['rolled, with a shifted lens', cameraAt([3, -9, 2], -25, 10, 12, { x: 300, y: 900 })],
])('pictures places as three.js does: %s', (_name, camera) => {
  const random = seededRandom(7);
  const other = threeCamera(camera);
  const { map, camera: look } = viewOf(camera);
  for (let k = 0; k < 500; k++) {
    const place: Vector = [random() * 20 - 10, random() * 20, random() * 6];
    const seen = carriedBy(map, place);
    if (seen[2] < 0.5) continue;
    const { x, y } = picturedAt(look, seen);
    const ndc = new THREE.Vector3(...place).applyMatrix4(other.matrixWorldInverse).applyMatrix4(other.projectionMatrix);
    expect(((ndc.x + 1) / 2) * SIZE.width).toBeCloseTo(x, 6);
    expect(((1 - ndc.y) / 2) * SIZE.height).toBeCloseTo(y, 6);
  }
});

/** The triangles of flat blocks, made by `three`'s own triangulation. */
function meshOf(blocks: readonly BlockEntity[]): MeshBVH {
  const corners: number[] = [];
  for (const block of blocks) {
    const map = placeMap(block);
    for (const surface of (solidOf(block.shape) as Solid).surfaces) {
      if (surface.kind !== 'face') throw new Error('Only flat blocks here.');
      const normal = new THREE.Vector3(...surface.normal);
      const across = new THREE.Vector3(...(Math.abs(normal.z) > 0.9 ? ([1, 0, 0] as const) : ([0, 0, 1] as const)))
        .cross(normal)
        .normalize();
      const up = normal.clone().cross(across);
      const flat = surface.rings.map((ring) =>
        ring.map((p) => new THREE.Vector2(new THREE.Vector3(...p).dot(across), new THREE.Vector3(...p).dot(up))),
      );
      const all = surface.rings.flat();
      for (const triangle of THREE.ShapeUtils.triangulateShape(flat[0], flat.slice(1)))
        for (const corner of triangle) corners.push(...carriedBy(map, all[corner]));
    }
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(corners, 3));
  return new MeshBVH(geometry);
}

describe('what is seen, against rays of three-mesh-bvh', () => {
  const scenes = [1, 2, 3, 4].map((seed) => ({ seed, blocks: straightScene(24, seed) }));

  it('agrees at 10,000 random places of edges, in at least 99.9 %', () => {
    let [asked, wrong] = [0, 0];
    for (const { seed, blocks } of scenes) {
      const camera = cameraAt([seed - 3, -16, 4 + seed], 4 * seed - 8, -14);
      const lines = pulled(blocks, camera, { nibs: { contour: nib, crease: nib } }).map(({ key, stroke }) => ({
        key,
        places: polygonOf(stroke.spine),
      }));
      const bvh = meshOf(blocks);
      const random = seededRandom(seed);
      const { map, camera: look } = viewOf(camera);
      const edges = blocks.flatMap((block) =>
        (solidOf(block.shape) as Solid).edges.map((edge, number) => ({
          ...{ edge, key: `${block.id}/${number}.`, map: placeMap(block), solid: solidOf(block.shape) as Solid },
        })),
      );
      for (let k = 0; k < 2_500;) {
        const { edge, key, map: place, solid } = edges[Math.floor(random() * edges.length)];
        if (edge.course.kind !== 'segment') continue;
        const t = random();
        const { from, to } = edge.course;
        const local: Vector = [0, 1, 2].map((axis) => from[axis] + (to[axis] - from[axis]) * t) as unknown as Vector;
        const p = carriedBy(place, local);
        const seen = carriedBy(map, p);
        const at = picturedAt(look, seen);
        if (seen[2] < 0.1 || at.x < 5 || at.y < 5 || at.x > SIZE.width - 5 || at.y > SIZE.height - 5) continue;
        k++;
        asked++;
        // A ray to a place a hair off the edge, out of both of its faces: what lies before it hides it.
        const out = edge.sides.reduce<[number, number, number]>(
          (sum, side) => {
            const surface = solid.surfaces[side];
            const normal = surface.kind === 'face' ? surface.normal : ([0, 0, 0] as const);
            return [sum[0] + normal[0], sum[1] + normal[1], sum[2] + normal[2]];
          },
          [0, 0, 0],
        );
        const off = carriedBy(place, [0, 1, 2].map((axis) => local[axis] + 1e-3 * out[axis]) as unknown as Vector);
        const eye = new THREE.Vector3(...camera.eye);
        const way = new THREE.Vector3(...off).sub(eye);
        const far = way.length();
        const hit = bvh.raycastFirst(new THREE.Ray(eye, way.normalize()), THREE.DoubleSide);
        const isSeen = !hit || hit.distance > far - 1e-4;
        // What is hidden may lie under the line of another edge; what is seen may be one with it.
        const own = isSeen ? lines : lines.filter((line) => line.key.startsWith(key));
        const isDrawn = own.some(({ places }) => isNear(places, at.x, at.y));
        if (isSeen !== isDrawn && !isUnsure(bvh, camera, off, far)) wrong++;
      }
    }
    expect(asked).toBe(10_000);
    expect(wrong).toBeLessThanOrEqual(10);
  });
});

const nib = { name: 'Nib', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };

/** Whether what hides a place changes within a fifth of a px: there a ray in single precision says nothing. */
function isUnsure(bvh: MeshBVH, { eye, look }: Eye, p: Vector, far: number): boolean {
  const step = (0.2 * far) / look.focal;
  const from = new THREE.Vector3(...eye);
  const seen = [
    [step, 0, 0],
    [-step, 0, 0],
    [0, step, 0],
    [0, -step, 0],
    [0, 0, step],
    [0, 0, -step],
  ].map((off) => {
    const way = new THREE.Vector3(p[0] + off[0], p[1] + off[1], p[2] + off[2]).sub(from);
    const long = way.length();
    const hit = bvh.raycastFirst(new THREE.Ray(from, way.normalize()), THREE.DoubleSide);
    return !hit || hit.distance > long - 5e-3;
  });
  return seen.some((one) => one !== seen[0]);
}

function isNear(line: readonly (readonly [number, number])[], x: number, y: number): boolean {
  for (let k = 0; k + 1 < line.length; k++) {
    const [[ax, ay], [bx, by]] = [line[k], line[k + 1]];
    const [dx, dy] = [bx - ax, by - ay];
    const share = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    if (Math.hypot(x - ax - share * dx, y - ay - share * dy) < 0.1) return true;
  }
  return false;
}
