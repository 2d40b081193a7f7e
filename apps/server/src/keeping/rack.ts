import type { Rack } from '@true-nib/core/rack';
import type { Store } from './store';

/** There is one. */
const ID = 1;

/** The rack at a revision; none was kept yet at revision 0. */
export interface KeptRack {
  readonly revision: number;
  readonly nibs: Rack | null;
}

export async function getRack({ rack, within }: Store): Promise<KeptRack> {
  const row = await rack.findByPk(ID, within);
  return row ? { revision: row.revision, nibs: JSON.parse(row.nibs) } : { revision: 0, nibs: null };
}

/** Keeps a rack that grew out of revision `since`; when another one was kept since, that one comes back instead. */
export function keepRack(
  store: Store,
  since: number,
  nibs: Rack,
): Promise<{ readonly isKept: boolean; readonly rack: KeptRack }> {
  return store.atomically(async (inside) => {
    const known = await getRack(inside);
    if (known.revision !== since) return { isKept: false, rack: known };
    const revision = since + 1;
    await inside.rack.upsert({ id: ID, revision, nibs: JSON.stringify(nibs) }, inside.within);
    return { isKept: true, rack: { revision, nibs } };
  });
}
