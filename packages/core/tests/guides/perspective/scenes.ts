import { PerspectiveCamera, Vector3 } from 'three';
import { seededRandom, type Point } from '../../../src/math';
import type { FrameWay, SightedEdge } from '../../../src/guides';

export const PAGE = { width: 2650, height: 4100 };

/** A box in front of a camera, projected by an independent library (three). */
export interface Scene {
  readonly focal: number;
  readonly fieldOfView: number;
  /** Unit directions in camera coordinates: x right, y down, z away. */
  readonly axes: Readonly<Record<FrameWay, readonly [number, number, number]>>;
  readonly edges: readonly SightedEdge[];
  readonly project: (place: Vector3) => Point;
}

export interface SceneOptions {
  readonly yaw: number;
  readonly tilt: number;
  readonly roll?: number;
  /** Vertical field of view, degrees. */
  readonly view: number;
  readonly perWay?: number;
  /** Spread of the edges' angles, degrees. */
  readonly noise?: number;
  readonly seed: number;
}

/** Edges of boxes at random places before a camera that is turned by degrees. */
export function scene({ yaw, tilt, roll = 0, view, perWay = 6, noise = 0, seed }: SceneOptions): Scene {
  const random = seededRandom(seed);
  const camera = new PerspectiveCamera(view, PAGE.width / PAGE.height, 0.01, 1000);
  camera.rotation.order = 'YXZ';
  camera.rotation.set((tilt * Math.PI) / 180, (-yaw * Math.PI) / 180, (-roll * Math.PI) / 180);
  camera.updateMatrixWorld();
  camera.updateProjectionMatrix();
  const project = (place: Vector3): Point => {
    const seen = place.clone().project(camera);
    return { x: ((seen.x + 1) / 2) * PAGE.width, y: ((1 - seen.y) / 2) * PAGE.height };
  };
  const inverse = camera.matrixWorldInverse;
  const seen = (x: number, y: number, z: number): readonly [number, number, number] => {
    const way = new Vector3(x, y, z).transformDirection(inverse);
    return [way.x, -way.y, -way.z];
  };
  const axes = { right: seen(1, 0, 0), left: seen(0, 0, -1), height: seen(0, 1, 0) };
  const ways: Readonly<Record<FrameWay, Vector3>> = {
    right: new Vector3(1, 0, 0),
    left: new Vector3(0, 0, -1),
    height: new Vector3(0, 1, 0),
  };
  const edges: SightedEdge[] = [];
  for (const way of ['right', 'left', 'height'] as const)
    while (edges.filter((edge) => edge.way === way).length < perWay) {
      // Somewhere the camera sees, some way off.
      const ray = new Vector3((2 * random() - 1) * 0.9, (2 * random() - 1) * 0.9, 0.5).unproject(camera).normalize();
      const from = ray.multiplyScalar(6 + 10 * random());
      const to = from.clone().addScaledVector(ways[way], (random() < 0.5 ? -1 : 1) * (1.5 + 2.5 * random()));
      if (to.clone().applyMatrix4(inverse).z > -1) continue;
      const [a, b] = [project(from), project(to)];
      if (Math.hypot(b.x - a.x, b.y - a.y) < 250) continue;
      if ([a, b].some(({ x, y }) => x < -800 || y < -800 || x > PAGE.width + 800 || y > PAGE.height + 800)) continue;
      edges.push(shaken({ way, from: a, to: b }, noise * normal(random)));
    }
  return {
    focal: PAGE.height / 2 / Math.tan((view * Math.PI) / 360),
    fieldOfView: 2 * Math.atan((PAGE.width / PAGE.height) * Math.tan((view * Math.PI) / 360)),
    ...{ axes, edges, project },
  };
}

/** An edge turned about its middle by degrees. */
function shaken({ way, from, to }: SightedEdge, degrees: number): SightedEdge {
  const middle = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const turned = ({ x, y }: Point): Point => ({
    x: middle.x + c * (x - middle.x) - s * (y - middle.y),
    y: middle.y + s * (x - middle.x) + c * (y - middle.y),
  });
  return { way, from: turned(from), to: turned(to) };
}

/** A number of the standard normal distribution (Box & Muller 1958). */
const normal = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

export const degrees = (radians: number): number => (radians * 180) / Math.PI;

/** The angle between two directions, either way round, degrees. */
export const between = (a: readonly number[], b: readonly number[]): number =>
  degrees(Math.acos(Math.min(1, Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]))));
