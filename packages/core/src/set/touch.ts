import { dot, minus, rigidBack, carriedBy, turnedBy, type Point, type Vector } from '../math';
import { normalAt } from './solid';
import { Scene, type StandingBlock } from './scene';
import { viewOf, type Eye } from './view';

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
  at({ x, y }: Point): Touched | undefined {
    const { centre, focal } = this.camera.look;
    const way: Vector = [(x - centre.x) / focal, (y - centre.y) / focal, 1];
    const found = this.scene.nearest(way);
    if (!found) return undefined;
    const seen: Vector = [way[0] * found.at, way[1] * found.at, found.at];
    const block = this.scene.blocks[this.scene.owner[found.item]];
    const back = rigidBack(viewOf(this.camera).map);
    const normal = turnedBy(back, normalAt(this.scene.blockers[found.item].surface, seen));
    const at = carriedBy(back, seen);
    // A sheet is touched on the side that is seen.
    const faces = dot(normal, minus(this.camera.eye, at)) >= 0;
    return {
      block: block.id,
      surface: found.item - block.first,
      at,
      normal: faces ? normal : [-normal[0], -normal[1], -normal[2]],
    };
  }
}
