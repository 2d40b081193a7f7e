import { literal, Op } from 'sequelize';
import type { Store } from './store';

/** Templates that a desk may keep of its own. */
const MOST = 500;

/** The templates of this desk's own, in the order in which they came. */
export async function getTemplates({ templates, within }: Store): Promise<unknown[]> {
  const rows = await templates.findAll({ order: literal('rowid'), ...within });
  return rows.map(({ body }) => JSON.parse(body) as unknown);
}

/** Keeps a template, in place of one of the same id. Answers false when the desk is full. */
export const keepTemplate = (store: Store, id: string, body: object): Promise<boolean> =>
  store.atomically(async ({ templates, within }) => {
    if ((await templates.count({ where: { id: { [Op.ne]: id } }, ...within })) >= MOST) return false;
    await templates.upsert({ id, body: JSON.stringify(body) }, within);
    return true;
  });

export const dropTemplate = (store: Store, id: string): Promise<void> =>
  store.atomically(async ({ templates, within }) => {
    await templates.destroy({ where: { id }, ...within });
  });
