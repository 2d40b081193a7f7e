import type { Point } from '@true-nib/core/math';
import { useDesk, type MendingTool, type Stage, type Tool } from '../../board/desk';
import { still, type Board, type Gesture } from '../../hand/inkHand';
import type { Selection } from '../../select/selection';
import { beginKnife } from './knifeHand';
import { beginReweigh, beginRetrace, beginSwell, beginTug } from './lineHand';
import { brushSketch } from './mendSketch';
import { useMend } from './mendStore';
import { Planner, plannedTool } from './planner';
import { reachedLayers } from '../../hand/reach';
import { SnipHand } from './snipHand';

const MENDING: readonly Tool[] = [
  'snip',
  'tug',
  'retrace',
  'reweigh',
  'swell',
  'bridge',
  'tidy',
  'ease',
  'pool',
  'knife',
];

export const isMending = (tool: Tool): tool is MendingTool => MENDING.includes(tool);

/** The mending tools of a board. */
export class MendTool {
  readonly planner: Planner;
  private readonly snip: SnipHand;
  private isHovering = false;
  private stage: Stage | undefined;

  constructor(private readonly board: Board & { readonly selection: Selection }) {
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
  hovers(tool: Tool, at: Point | undefined): void {
    const { tug, swell } = useMend.getState();
    if (tool === 'snip') return this.snip.hovers(at);
    if (!at || (tool !== 'tug' && tool !== 'swell')) return this.letGo();
    this.isHovering = true;
    this.board.picture.setSketch(
      tool === 'tug' ? brushSketch(at, tug.radius) : brushSketch(at, swell.radius, swell.width),
    );
  }

  /** Follows the tool in hand: what was shown of another one goes. */
  follow(): void {
    this.snip.clear();
    this.letGo();
    this.planner.take(plannedTool());
    const { stage } = useDesk.getState();
    if (stage === 'mend' && this.stage !== stage) this.getReady();
    this.stage = stage;
  }

  /** Deeds over a whole page are asked for soon. */
  private getReady(): void {
    const { session, picture } = this.board;
    const reached = reachedLayers(session.page, 'inks');
    if (typeof reached !== 'string') picture.inks.readyToMend(reached.met);
  }

  private letGo(): void {
    if (this.isHovering) this.board.picture.setSketch(undefined);
    this.isHovering = false;
  }
}
