/** Something is wrong with a page, an entity or a size; the message is a sentence for the user. */
export class PageError extends Error {
  override readonly name: string = 'PageError';
}

/** A change that no longer fits the page: what it replaces is not there, or is not the same any more. */
export class ChangeConflict extends PageError {
  override readonly name: string = 'ChangeConflict';
  constructor(
    message: string,
    readonly entityId: string,
  ) {
    super(message);
  }
}
