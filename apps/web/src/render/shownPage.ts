import { editedId, type Edit, type Entity, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { applyEdits } from './draft';

/** A page as it is shown: as it is kept, but for what previews show otherwise. */
export class ShownPage {
  private kept: Page;
  /** What is shown otherwise than it is kept. */
  private readonly ahead = new Set<EntityId>();
  now: Page;

  constructor(page: Page) {
    this.kept = this.now = page;
  }

  /** Takes over edits that led to `page`, as it is kept. Answers how what is shown changes by that. */
  edit(page: Page, edits: readonly Edit[]): readonly Edit[] {
    this.kept = page;
    if (this.ahead.size === 0) {
      this.now = page;
      return edits;
    }
    const unseen = this.unseen(edits);
    for (const edit of edits) this.ahead.delete(editedId(edit));
    this.now = this.ahead.size === 0 ? page : applyEdits(this.now, unseen);
    return unseen;
  }

  /** Shows edits that are not kept, or not yet. Answers how what is shown changes by that. */
  preview(edits: readonly Edit[]): readonly Edit[] {
    const unseen = this.unseen(edits);
    this.now = applyEdits(this.now, unseen);
    for (const edit of unseen) {
      const id = editedId(edit);
      if ((this.kept.entities.get(id) ?? null) === edit.after) this.ahead.delete(id);
      else this.ahead.add(id);
    }
    return unseen;
  }

  /** What leads back to how the entities of some edits are kept. */
  back(edits: readonly Edit[]): Edit[] {
    return [...new Set(edits.map(editedId))].flatMap((id) => {
      const [before, after] = [this.now, this.kept].map(({ entities }) => entities.get(id) ?? null);
      return before === after ? [] : [{ before, after }];
    });
  }

  /** Edits that change what is shown, each from what the one before has left. */
  private unseen(edits: readonly Edit[]): Edit[] {
    const latest = new Map<EntityId, Entity | null>();
    return edits.flatMap((edit) => {
      const id = editedId(edit);
      const known = latest.get(id);
      const before = known === undefined ? (this.now.entities.get(id) ?? null) : known;
      if (before === edit.after) return [];
      latest.set(id, edit.after);
      return [before === edit.before ? edit : { before, after: edit.after }];
    });
  }
}
