import type { Store } from './query';

/** Templates that a desk may keep of its own. */
const MOST = 500;

/** The templates of this desk's own, as they were kept. */
export async function getTemplates(store: Store): Promise<unknown[]> {
  const rows = await store.all<{ body: string }>('SELECT body FROM templates ORDER BY rowid');
  return rows.map(({ body }) => JSON.parse(body) as unknown);
}

/** Keeps a template, in place of one of the same id. Answers false when the desk is full. */
export function keepTemplate(store: Store, id: string, body: object): Promise<boolean> {
  return store.atomically(async (inside) => {
    const row = await inside.one<{ count: number }>('SELECT COUNT(*) AS count FROM templates WHERE id <> ?', id);
    if ((row?.count ?? 0) >= MOST) return false;
    await inside.run(
      `INSERT INTO templates (id, body) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET body = $2`,
      id,
      JSON.stringify(body),
    );
    return true;
  });
}

export const dropTemplate = (store: Store, id: string): Promise<void> =>
  store.run('DELETE FROM templates WHERE id = $1', id);
