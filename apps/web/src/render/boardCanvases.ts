/**
 * The canvases of the board, from the bottom up. Those with ink are transparent; `over` multiplies, `veil` dims what lies beside the page,
 * `sets`, `grids` and `guides` show what lines are held to.
 */
export interface BoardCanvases {
  readonly under: HTMLCanvasElement;
  readonly sets: HTMLCanvasElement;
  readonly ink: HTMLCanvasElement;
  readonly live: HTMLCanvasElement;
  readonly over: HTMLCanvasElement;
  readonly veil: HTMLCanvasElement;
  readonly grids: HTMLCanvasElement;
  readonly guides: HTMLCanvasElement;
  readonly overlay: HTMLCanvasElement;
}
