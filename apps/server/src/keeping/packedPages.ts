/** Bytes of pages that are kept ready. */
const MOST_BYTES = 96 * 1024 * 1024;

interface Kept {
  readonly revision: number;
  readonly bytes: Uint8Array;
}

/** The entities of pages that were opened last, packed: a page that has not changed since is sent again without being read. */
export class PackedPages {
  /** The one that was asked for longest ago comes first. */
  private readonly pages = new Map<string, Kept>();
  private size = 0;

  constructor(private readonly most = MOST_BYTES) {}

  get(pageId: string, revision: number): Uint8Array | undefined {
    const kept = this.pages.get(pageId);
    if (kept?.revision !== revision) return undefined;
    this.pages.delete(pageId);
    this.pages.set(pageId, kept);
    return kept.bytes;
  }

  keep(pageId: string, revision: number, bytes: Uint8Array): void {
    this.forget(pageId);
    if (bytes.length > this.most) return;
    this.pages.set(pageId, { revision, bytes });
    this.size += bytes.length;
    for (const oldest of this.pages.keys()) {
      if (this.size <= this.most) break;
      this.forget(oldest);
    }
  }

  private forget(pageId: string): void {
    this.size -= this.pages.get(pageId)?.bytes.length ?? 0;
    this.pages.delete(pageId);
  }
}
