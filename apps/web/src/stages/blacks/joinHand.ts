import { isInArea, type Area, type AreaEntity } from '@true-nib/core/area';
import { areaMarks, isDrawn, type DrawnEntity } from '@true-nib/core/drawn';
import { boxOfPoints, growBox, type Point } from '@true-nib/core/math';
import { commonRings } from '@true-nib/core/mend';
import { cutAreas, inkAsArea, joinAreas } from '@true-nib/core/regions';
import { byOrder, type Edit } from '@true-nib/core/page';
import {
  inPanel,
  nodeInHand,
  refuse,
  still,
  type Board,
  type Gesture,
  type PageKeep,
  type PageSlot,
} from '../../board';
import { FINGER } from '../../hand';
import { newId } from '../../session';
import { pathOf, zoomOf, type Sketch } from '../../render';
import { useBlacks, type JoinDeed } from './blackStore';

const DEEDS: Readonly<Record<JoinDeed, { readonly label: string; readonly next: string }>> = {
  join: { label: 'Join areas', next: 'Touch the area that is to be one with it.' },
  take: { label: 'Take an area off', next: 'Touch the area whose shape is taken off it.' },
  common: { label: 'Keep what is common', next: 'Touch the area with which it is to have all in common.' },
};

/** Makes one area of two that are touched one after the other. */
export class JoinHand implements PageKeep {
  private first: DrawnEntity | undefined;
  private readonly stop: () => void;

  constructor(private readonly board: Board) {
    this.stop = board.session.onEdits(() => this.first && !this.isThere(this.first) && this.letGo());
  }

  dispose(): void {
    this.stop();
  }

  letGo(): boolean {
    const had = this.first !== undefined;
    this.take(undefined);
    return had;
  }

  follow({ tool }: { readonly tool: string }): void {
    if (tool !== 'join') this.letGo();
  }

  begin(at: Point): Gesture {
    const { board, first } = this;
    const node = nodeInHand(board);
    if (node?.layer.medium !== 'ink') return refuse(board.notice, 'Areas lie on Ink layers: take one in hand.');
    if (node.isLocked) return refuse(board.notice, `${node.layer.name} is locked.`);
    const found = this.areaAt(node.layer.id, at);
    if (!found) {
      this.letGo();
      return refuse(board.notice, 'There is no area here: touch a blot, a nick or a flat.');
    }
    if (first && first.id !== found.id) {
      this.join(first, found);
      return still;
    }
    this.take(first ? undefined : found);
    if (!first) board.notice(DEEDS[useBlacks.getState().joins].next);
    return still;
  }

  private isThere = (entity: DrawnEntity): boolean => this.board.session.page.entities.get(entity.id) === entity;

  private areaAt(layerId: string, at: Point): DrawnEntity | undefined {
    const reach = FINGER / zoomOf(this.board.picture.view) / 4;
    return this.board.picture
      .drawnOn(layerId, growBox(boxOfPoints([at]), reach))
      .filter((entity) => isDrawn(entity) && asArea(entity) !== undefined)
      .sort(byOrder)
      .findLast((entity) => isInArea(asArea(entity) ?? { rings: [], fill: { as: 'nothing' } }, at));
  }

  private take(first: DrawnEntity | undefined): void {
    if (first === this.first) return;
    this.first = first;
    const area = first && asArea(first);
    this.board.picture.setSketch(area && chosenSketch(area));
  }

  private join(first: DrawnEntity, second: DrawnEntity): void {
    const [a, b] = [asArea(first), asArea(second)];
    const { joins } = useBlacks.getState();
    this.letGo();
    if (!a || !b) return;
    const made = joined(joins, a, b);
    if (!made || made.rings.length === 0) return this.board.notice('These two have nothing in common.');
    const { rings } = made;
    const { layerId, order, panelId } = first;
    const after: AreaEntity = { kind: 'area', id: newId(), layerId, order, ...inPanel(panelId), rings, fill: a.fill };
    const edits: Edit[] =
      first.kind === 'area'
        ? [{ before: first, after: { ...first, rings } }]
        : [
            { before: first, after: null },
            { before: null, after },
          ];
    // What is taken off another stays where it is.
    const gone: Edit[] = joins === 'take' ? [] : [{ before: second, after: null }];
    this.board.session.commit(DEEDS[joins].label, [...edits, ...gone]);
  }
}

function joined(deed: JoinDeed, a: Area, b: Area): Area | undefined {
  switch (deed) {
    case 'join':
      return joinAreas([a, b]);
    case 'take':
      return cutAreas(a, b)?.[0];
    case 'common':
      return { ...a, rings: commonRings([a, b]) };
  }
}

/** Something filled as an area: blots that are lines become areas when they are touched. */
function asArea(entity: DrawnEntity): Area | undefined {
  if (entity.kind === 'area') return entity;
  return entity.kind === 'stroke' && entity.fills ? inkAsArea(entity) : undefined;
}

/** The area that was touched first, in the colour of what is active. */
const chosenSketch =
  (area: Area): Sketch =>
  (context, map, ratio, colours) => {
    context.setTransform(...map);
    context.globalAlpha = 0.35;
    context.fillStyle = colours.seal;
    for (const mark of areaMarks(area)) context.fill(pathOf(mark, 0.1), mark.rule);
    context.globalAlpha = 1;
    context.lineWidth = (2 * ratio) / Math.hypot(map[0], map[1]);
    context.strokeStyle = colours.seal;
    for (const mark of areaMarks(area)) context.stroke(pathOf(mark, 0.1));
    context.setTransform(1, 0, 0, 1, 0, 0);
  };

export const joinSlot: PageSlot<JoinHand> = { open: (board) => new JoinHand(board) };
