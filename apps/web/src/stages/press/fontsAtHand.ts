import type { LetteringEntity } from '@true-nib/core/lettering';
import type { PageSession } from '../../session';

/** Which of the fonts that a page names are on this desk. */
export class FontsAtHand {
  private readonly found = new Set<string>();

  constructor(private readonly session: PageSession) {}

  /** Those of some texts that are there, by their SHA-256. */
  async named(texts: readonly LetteringEntity[]): Promise<ReadonlySet<string>> {
    const named = new Set<string>();
    for (const { style } of texts)
      for (const ref of Object.values(style.fonts)) if (ref && !this.found.has(ref.sha256)) named.add(ref.sha256);
    await Promise.all(
      [...named].map(async (sha256) => {
        const isThere = await this.session.blob(sha256).then(
          () => true,
          () => false,
        );
        if (isThere) this.found.add(sha256);
      }),
    );
    return this.found;
  }
}
