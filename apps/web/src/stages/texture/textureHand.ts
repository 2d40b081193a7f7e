import type { Thing } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import type { Matrix } from '@true-nib/core/math';
import { begunSlot, isInHand, targetInHand, type Board, type Desk, type PageKeep } from '../../board';
import type { LineTarget } from '../../hand';
import type { TextureAsked } from '../../render';
import { Underway } from './underway';

/**
 * A tool whose rows or dots are under way until they are laid down: by Enter, by whatever is begun next, or when another tool
 * is taken up.
 */
export abstract class TextureHand implements PageKeep {
  protected target: LineTarget | undefined;
  protected isHeld = false;
  /** The panel that it was begun in. */
  private panelId: EntityId | undefined;
  private readonly underway: Underway;
  private stops: readonly (() => void)[] = [];

  constructor(
    protected readonly board: Board,
    private readonly tool: string,
    private readonly label: (count: number) => string,
  ) {
    this.underway = new Underway(board, tool, () => this.show());
  }

  /** Whether anything is under way. */
  protected abstract isBegun(): boolean;
  /** Lets go of what it is made from. */
  protected abstract forget(): void;
  /** It is made anew: a setting has changed. */
  protected abstract changed(): void;
  /** What is shown beside it. */
  protected abstract beside(context: CanvasRenderingContext2D, map: Matrix, ratio: number): void;

  /** What was made, as it is laid down. */
  protected turned(things: readonly Thing[]): readonly Thing[] {
    return things;
  }

  /** What it listens to for as long as the page is open. */
  protected listenTo(stops: readonly (() => void)[]): void {
    this.stops = stops;
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
    this.underway.forget();
  }

  follow(desk: Desk): void {
    const isHeld = isInHand(desk, this.tool);
    if (this.isHeld && !isHeld) this.settle();
    this.isHeld = isHeld;
  }

  leave(): void {
    this.settle();
  }

  letGo(): boolean {
    const had = this.isBegun();
    this.forget();
    this.underway.forget();
    this.show();
    return had;
  }

  settle(): boolean {
    const { board } = this;
    const target = this.targetNow();
    if (!this.isBegun() || !target) return false;
    this.forget();
    this.show();
    board.of(begunSlot).take(this.panelId);
    board.session.waitFor(this.underway.layDown(target, this.label, (things) => this.turned(things)));
    return true;
  }

  /** Where it is laid. A layer that was still to be made may be there by now. */
  private targetNow(): LineTarget | undefined {
    const { target, board } = this;
    const now = target && target.edits.length > 0 ? targetInHand(board) : target;
    return typeof now === 'string' ? target : now;
  }

  /** Where it will be laid, and in which panel; a reason where it cannot. */
  protected takeTarget(): LineTarget | string {
    if (!this.isBegun()) this.panelId = this.board.of(begunSlot).panelId;
    const target = targetInHand(this.board);
    if (typeof target === 'string' || !target.layer.holdsShape) return target;
    return `${target.layer.name} holds its shape: take another layer.`;
  }

  /** What was under way is seen no more; what it is made from stays. */
  protected letUnderwayGo(): void {
    this.underway.forget();
  }

  /** Asks the worker for it; says why that cannot be. */
  protected want(asked: TextureAsked | string): void {
    if (typeof asked === 'string') {
      this.board.notice(asked);
      this.underway.forget();
    } else {
      this.board.of(begunSlot).take(this.panelId);
      this.underway.want(asked);
    }
    this.show();
  }

  protected show(): void {
    const { underway, board } = this;
    if (!this.isBegun() && !underway.isAny) return board.picture.setSketch(undefined);
    const clip = this.target && board.picture.clipInHand(this.target.layer.id);
    board.picture.setSketch((context, map, ratio) => {
      underway.draw(context, map, clip);
      this.beside(context, map, ratio);
    });
  }
}
