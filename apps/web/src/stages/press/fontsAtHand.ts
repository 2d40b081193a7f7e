import type { LetteringEntity } from '@true-nib/core/lettering';
import { ApiProblem } from '../../api';
import type { PageSession } from '../../session';

/** Which of the fonts that a page names are on this desk: each is asked for once. */
export class FontsAtHand {
  private readonly asked = new Map<string, Promise<boolean>>();

  constructor(private readonly session: PageSession) {}

  /** Those of some texts that are there, by their SHA-256; where the server does not answer, nothing is said against one. */
  async named(texts: readonly LetteringEntity[]): Promise<ReadonlySet<string>> {
    for (const { style } of texts)
      for (const ref of Object.values(style.fonts))
        if (ref && !this.asked.has(ref.sha256)) this.asked.set(ref.sha256, this.isThere(ref.sha256));
    const all = await Promise.all([...this.asked].map(async ([sha256, is]) => ((await is) ? [sha256] : [])));
    return new Set(all.flat());
  }

  private isThere(sha256: string): Promise<boolean> {
    return this.session.blob(sha256).then(
      () => true,
      (error: unknown) => !(error instanceof ApiProblem && error.status === 404),
    );
  }
}
