import {
  actsOn,
  guideGrips,
  waysWithin,
  type GripLook,
  type GuideEntity,
  type GuideShape,
} from '@true-nib/core/guides';
import type { EntityId } from '@true-nib/core/kind';
import type { Point } from '@true-nib/core/math';
import type { Edit } from '@true-nib/core/page';
import { layerInHand, workbench, type Board } from '../../board';
import {
  drawGuides,
  drawWayMarks,
  gridsOf,
  guideColour,
  TAG_HEIGHT,
  tagsOf,
  wayMarks,
  type Ghosts,
  type GuideTag,
  type ShownGuides,
  type WayMark,
} from '../../render';
import { frameInHand, guidesOf, newGuide, useDepth, useGuides } from '../../guiding';
import { drawGuideGrips } from './gripPicture';
import { drawSighting } from './sighting';

/** What a hand is doing to the guides, beside what the page keeps of them. */
export interface GuidesInHand {
  /** The shape of a guide while it is dragged, or before it is laid down. */
  readonly held: { readonly id: EntityId | undefined; readonly shape: GuideShape } | undefined;
  /** Edits that are shown but not kept. */
  readonly previewed: readonly Edit[];
  /** Where many tethered lines would go. */
  readonly ghosts: Ghosts | undefined;
  /** Whether the grips of the guide in hand are shown. */
  readonly isEditing: boolean;
  readonly gripLook: GripLook;
}

/** Paints the guides of the open page, and knows where their tags and letters lie on the board. */
export class GuideView {
  private tags: readonly GuideTag[] = [];
  private marks: readonly WayMark[] = [];

  constructor(private readonly board: Board) {}

  /** The tag of a guide under a touch. `at` in CSS px of the board. */
  tagAt(at: Point): GuideTag | undefined {
    return this.tags.find(
      ({ x, y, width }) => at.x >= x && at.x <= x + width && at.y >= y - 7 && at.y <= y + TAG_HEIGHT + 7,
    );
  }

  /** The letter of a direction under a touch. `at` in CSS px of the board. */
  markAt(at: Point): WayMark | undefined {
    return this.marks.find(({ x, y }) => Math.abs(at.x - x) <= 26 && at.y >= y + 10 && at.y <= y + 34);
  }

  /** Paints the guides, and the grips of the one in hand. */
  show({ held, previewed, ghosts, isEditing, gripLook }: GuidesInHand): void {
    const { picture } = this.board;
    const state = useGuides.getState();
    const { page } = this.board.session;
    // What hangs on a frame that is moved is shown where it would go.
    const moved = new Map(previewed.flatMap(({ after }) => (after?.kind === 'guide' ? [[after.id, after]] : [])));
    const guides = guidesOf(page).map((guide) =>
      held?.id === guide.id ? { ...guide, shape: held.shape } : (moved.get(guide.id) ?? guide),
    );
    if (held && held.id === undefined) guides.push(newGuide(page, held.shape));
    const isEmpty = guides.length === 0 && !ghosts && useDepth.getState().edges.length === 0;
    // A canvas that has nothing to show is let be. What is about to be delivered is seen as it will be.
    if (isEmpty || workbench.isPlain(this.board.desk())) {
      this.tags = [];
      this.marks = [];
      return picture.setGuides(undefined);
    }
    const shown = this.shownOf(guides, isEditing);
    const inHand = isEditing ? guides.find(({ id }) => id === state.guideId) : undefined;
    picture.setGuides(
      (context, map, ratio, colours) => {
        this.tags = tagsOf(shown, picture.view, picture.free);
        drawGuides(context, shown, map, ratio, this.tags);
        this.drawMarks(context, shown, ratio);
        drawSighting(context, page, map, ratio);
        if (!inHand) return;
        const grips = guideGrips(inHand.shape, gripLook);
        drawGuideGrips(context, inHand.shape, grips, gripLook.chosen, { map, ratio, colours });
      },
      { grids: gridsOf(shown), ghosts },
    );
  }

  private shownOf(guides: readonly GuideEntity[], isEditing: boolean): ShownGuides {
    const { guided, isFree, guideId, bearer, bearing } = useGuides.getState();
    const { stage, layerId } = this.board.desk();
    const { page } = this.board.session;
    return {
      guides,
      guided: guided && !isFree,
      inHand: isEditing ? guideId : undefined,
      layerId: layerInHand(page, layerId)?.layer.id,
      bearer,
      bearing,
      isEditing: stage === 'guides',
      page: page.size,
      ways: waysWithin(useDepth.getState().limit),
    };
  }

  /** The letters of the directions of the frame that lines run in now, or that is worked in. */
  private drawMarks(context: CanvasRenderingContext2D, shown: ShownGuides, ratio: number): void {
    const { picture, session } = this.board;
    const own = frameInHand(session.page);
    const guide = own && shown.guides.find(({ id }) => id === own.id);
    const isWanted = guide?.seen && (shown.isEditing || (shown.guided && actsOn(guide, shown.layerId)));
    this.marks = [];
    if (!isWanted || guide.shape.kind !== 'frame') return;
    const { asleep } = guide.shape;
    this.marks = wayMarks(guide.shape, session.page.size, picture.view, picture.free);
    const isTaken = (way: WayMark['way']) =>
      shown.guided && guide.acting && shown.ways.includes(way) && !asleep.includes(way);
    drawWayMarks(context, this.marks, isTaken, guideColour(guide), ratio);
  }
}
