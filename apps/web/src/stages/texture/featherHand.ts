import { isDrawn, marksOf, type DrawnEntity } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, growBox, pointToLeg, type Point } from '@true-nib/core/math';
import type { PenSample } from '@true-nib/core/hand';
import { InkEdge, type EdgePlace, type FeatherEdge } from '@true-nib/core/texture';
import { seedNow } from '../../base';
import { refuse, type Board, type Gesture, type PageSlot, type Press } from '../../board';
import { FINGER } from '../../hand';
import { nibFor, useRack } from '../../nibs';
import { zoomOf } from '../../render';
import { TextureHand } from './textureHand';
import { useTexture } from './textureStore';

/** Page px by which an edge may stray where it is curved. */
const STRAY = 0.1;
/** The share of their length that rows have under no pressure. */
const LIGHTEST = 0.3;

/** Short rows out of an edge of black, as far as the pen goes along it. */
class FeatherHand extends TextureHand {
  private edge: FeatherEdge | undefined;
  private seed = 0;

  constructor(board: Board) {
    super(board, 'feather', (count) => (count === 1 ? 'Feather a row' : `Feather ${count} rows`));
    this.listenTo([
      useTexture.subscribe(({ feather }, before) => feather !== before.feather && this.changed()),
      useRack.subscribe(() => this.changed()),
    ]);
  }

  protected isBegun(): boolean {
    return this.edge !== undefined;
  }

  protected forget(): void {
    this.edge = undefined;
  }

  takeBack(): boolean {
    return this.letGo();
  }

  protected changed(): void {
    const { edge, board } = this;
    if (!edge) return;
    const { weight, length, spacing, slant, uneven } = useTexture.getState().feather;
    this.want({
      deed: 'feather',
      edge,
      settings: {
        nib: { ...nibFor(board.session.page), size: weight },
        ...{ length, spacing, slant: (slant * Math.PI) / 180, uneven: uneven / 100 },
      },
      seed: this.seed,
    });
  }

  protected beside(): void {
    // The rows say it all.
  }

  begin({ at }: Press): Gesture {
    const { board } = this;
    this.settle();
    const target = this.takeTarget();
    if (typeof target === 'string') return refuse(board.notice, target);
    const reach = (2 * FINGER) / zoomOf(board.picture.view);
    const edge = this.edgeAt(target.layer.id, at, reach);
    if (!edge) return refuse(board.notice, 'There is no edge of black here: begin on one, and draw along it.');
    this.target = target;
    this.seed = seedNow();
    const places: EdgePlace[] = [];
    const add = ({ x, y, pressure }: Pick<PenSample, 'x' | 'y' | 'pressure'>) =>
      places.push({
        at: edge.nearest({ x, y }, places.at(-1)?.at),
        reach: LIGHTEST + (1 - LIGHTEST) * Math.min(1, pressure * 1.5),
      });
    return {
      move: (samples) => {
        samples.forEach(add);
        this.edge = edge.stretch(places);
        this.changed();
      },
      end: () => {
        if (!this.edge) board.notice('Draw along the edge: rows grow out of it.');
      },
      cancel: () => void this.letGo(),
    };
  }

  /** The edge of ink that comes nearest to a place. */
  private edgeAt(layerId: EntityId, at: Point, reach: number): InkEdge | undefined {
    const { picture } = this.board;
    const near = picture.drawnOn(layerId, growBox(boxOfPoints([at]), reach)).filter(isInk);
    let best: { readonly ring: Float64Array; readonly rings: readonly Float64Array[] } | undefined;
    let least = reach * reach;
    for (const { rings: make } of near.flatMap((entity) => marksOf(entity))) {
      const rings = make(STRAY);
      for (const ring of rings)
        for (let k = 0, last = ring.length - 2; k < ring.length; last = k, k += 2) {
          const away = pointToLeg(at.x, at.y, ring[last], ring[last + 1], ring[k], ring[k + 1]);
          if (away < least) [least, best] = [away, { ring, rings }];
        }
    }
    return best && new InkEdge(best.ring, best.rings);
  }
}

/** Whether something is black with an edge. */
const isInk = (entity: DrawnEntity): boolean =>
  isDrawn(entity) &&
  entity.kind !== 'dots' &&
  entity.kind !== 'panel' &&
  !(entity.kind === 'area' && entity.fill.as !== 'colour');

export const featherSlot: PageSlot<FeatherHand> = { open: (board) => new FeatherHand(board) };
