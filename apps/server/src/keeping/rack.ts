import type { Rack } from '@true-nib/core/rack';
import type { Store } from './query';

/** The rack at a revision; none was kept yet at revision 0. */
export interface KeptRack {
  readonly revision: number;
  readonly nibs: Rack | null;
}

export async function getRack(store: Store): Promise<KeptRack> {
  const row = await store.one<{ revision: number; nibs: string }>('SELECT revision, nibs FROM rack WHERE id = 1');
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
    await inside.run(
      `INSERT INTO rack (id, revision, nibs) VALUES (1, $1, $2)
        ON CONFLICT (id) DO UPDATE SET revision = $1, nibs = $2`,
      revision,
      JSON.stringify(nibs),
    );
    return { isKept: true, rack: { revision, nibs } };
  });
}
