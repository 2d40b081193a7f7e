import type { Point } from '@true-nib/core/math';
import { type Board, type PageKeep, type PageSlot, type Desk, still, type Gesture } from '../../board';
import { beginKnife } from './knifeHand';
import { beginReweigh, beginRetrace, beginSwell, beginTug } from './lineHand';
import { brushSketch } from './mendSketch';
import { useMend } from './mendStore';
import { Planner, plannedTool } from './planner';
import { reachedLayers } from '../../hand';
import { SnipHand } from './snipHand';

/** Tools that mend lines, besides their points. */
export type MendingTool =
  'snip' | 'tug' | 'retrace' | 'reweigh' | 'swell' | 'bridge' | 'tidy' | 'ease' | 'pool' | 'knife';

/** The mending tools of a board. */
export class MendTool implements PageKeep {
  readonly planner: Planner;
  private readonly snip: SnipHand;
  private isHovering = false;
  private stage: string | undefined;

  constructor(private readonly board: Board) {
    this.planner = new Planner(board);
    this.snip = new SnipHand(board);
  }

  dispose(): void {
    this.planner.dispose();
  }

  begin(tool: MendingTool, at: Point, notice: Board['notice']): Gesture {
    const board = { ...this.board, notice };
    switch (tool) {
      case 'snip':
        return this.snip.begin(at);
      case 'tug':
        return beginTug(board, at);
      case 'retrace':
        return beginRetrace(board, at);
      case 'reweigh':
        return beginReweigh(board, at);
      case 'swell':
        return beginSwell(board);
      case 'knife':
        return beginKnife(board);
      case 'tidy':
      case 'ease':
      case 'bridge':
      case 'pool':
        return plannedTool() ? this.planner.begin(at) : still;
    }
  }

  /** What a tool would do where a pen or mouse hovers; nothing where it has left the board. */
  hovers(at: Point | undefined): void {
    const { stage, tool } = this.board.desk();
    const { tug, swell } = useMend.getState();
    // Where the pen has left the board, what was shown goes in any stage.
    if (at && stage !== 'mend') return;
    if (tool === 'snip') return this.snip.hovers(at);
    if (!at || (tool !== 'tug' && tool !== 'swell')) return this.endHover();
    this.isHovering = true;
    this.board.picture.setSketch(
      tool === 'tug' ? brushSketch(at, tug.radius) : brushSketch(at, swell.radius, swell.width),
    );
  }

  /** Follows the tool in hand: what was shown of another one goes. */
  follow(desk: Desk, before: Desk | undefined): void {
    if (before && before.tool === desk.tool && before.stage === desk.stage && before.layerId === desk.layerId) return;
    this.snip.clear();
    this.endHover();
    this.planner.take(plannedTool());
    const { stage } = desk;
    if (stage === 'mend' && this.stage !== stage) this.getReady();
    this.stage = stage;
  }

  /** Deeds over a whole page are asked for soon. */
  private getReady(): void {
    const { session, picture } = this.board;
    const reached = reachedLayers(session.page, 'inks');
    if (typeof reached !== 'string') picture.inks.beside.readyToMend(reached.met);
  }

  private endHover(): void {
    if (this.isHovering) this.board.picture.setSketch(undefined);
    this.isHovering = false;
  }
}

/** The mending tools on the open page. */
export const mendSlot: PageSlot<MendTool> = { open: (board) => new MendTool(board) };
