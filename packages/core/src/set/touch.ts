import { dot, scaled, sum, type Point, type Vector } from '../math';
import { normalAt } from './solid';
import { Scene, type StandingBlock } from './scene';
import { rayThrough, viewOf, type Eye } from './view';

/** What of a set lies under a place of the page: the block, the number of its surface, the place and its outward normal. */
export interface Touched {
  readonly block: string;
  readonly surface: number;
  readonly at: Vector;
  readonly normal: Vector;
}

/** Looks for what lies under a hand. It is made for one camera and some blocks. */
export class Touching {
  private readonly scene: Scene;

  constructor(
    blocks: readonly StandingBlock[],
    private readonly camera: Eye,
  ) {
    this.scene = new Scene(blocks, viewOf(camera).map);
  }

  /** The nearest block under a place of the page. */
  at(place: Point): Touched | undefined {
    const { scene, camera } = this;
    const way = rayThrough(camera, place);
    const found = scene.nearest(way);
    if (!found) return undefined;
    const at = sum(camera.eye, scaled(way, found.at));
    const block = scene.blocks[scene.owner[found.item]];
    const normal = normalAt(scene.blockers[found.item].surface, at);
    // A sheet is touched on the side that is seen.
    const faces = dot(normal, way) <= 0;
    return { block: block.id, surface: found.item - block.first, at, normal: faces ? normal : scaled(normal, -1) };
  }
}
