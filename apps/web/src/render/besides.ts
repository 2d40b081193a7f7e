import type { Matrix } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import type { BoardCanvases } from './boardCanvases';
import type { PictureBytes } from './pictures';
import { GridSurface } from './gridSurface';
import { SetSurface } from './setSurface';
import type { View } from './view';

/** The canvases that workers of their own paint: sets and grids. */
export class Besides {
  readonly grids: GridSurface;
  readonly sets: SetSurface;

  /** `changed` is called when something else is to be shown; `bytes` are those of models. */
  constructor({ grids, sets }: BoardCanvases, bytes: PictureBytes, changed: () => void) {
    this.grids = new GridSurface(grids);
    this.sets = new SetSurface(sets, bytes, changed);
  }

  dispose(): void {
    this.grids.dispose();
    this.sets.dispose();
  }

  /** Shows both in a view of a page, of which `map` takes px to device px. */
  show(page: PageSize, map: Matrix, ratio: number, view: View): void {
    this.grids.show(page, map, ratio, view);
    this.sets.show(map, ratio, view);
  }

  carry(view: View): void {
    this.grids.carry(view);
    this.sets.carry(view);
  }

  /** The canvases have been cleared by another size. */
  forget(): void {
    this.grids.forget();
    this.sets.forget();
  }
}
