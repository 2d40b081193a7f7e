import { Op } from 'sequelize';
import { checkSetFile, modelsOf, setFileText } from '@true-nib/core/staging';
import { Problem } from '../problem';
import { hasBlob } from './blobs';
import type { SetRow } from './models';
import type { Store } from './store';

/** Sets that a desk may keep in its library. */
const MOST = 1_000;

/** A set of the library as its card shows it: `picture` is path data of lines, 120 by 84. */
export interface SetCard {
  readonly id: string;
  readonly name: string;
  readonly picture: string;
  readonly blocks: number;
  readonly keptAt: number;
}

const cardOf = ({ id, name, picture, blocks, keptAt }: SetRow): SetCard => ({ id, name, picture, blocks, keptAt });

/** The sets of the library, the newest first. */
export async function getSets({ sets, within }: Store): Promise<SetCard[]> {
  const rows = await sets.findAll({ attributes: { exclude: ['body'] }, order: [['keptAt', 'DESC']], ...within });
  return rows.map(cardOf);
}

/** A set as a file. Throws a Problem where it is not there. */
export async function getSet({ sets, within }: Store, id: string): Promise<unknown> {
  const row = await sets.findByPk(id, within);
  if (!row) throw new Problem(404, 'There is no such set', 'It may have been deleted from the library.');
  return JSON.parse(row.body) as unknown;
}

/** Keeps a set, in place of one of the same id. Throws a PageError or a Problem for what is none. */
export async function keepSet(
  store: Store,
  id: string,
  { picture, file }: { picture: string; file: unknown },
): Promise<SetCard> {
  const { models: _bytes, ...checked } = checkSetFile(file);
  const row = {
    ...{ id, name: checked.set.name, picture, blocks: checked.blocks.length, keptAt: Date.now() },
    body: setFileText(checked),
  };
  await store.atomically(async (inside) => {
    for (const sha256 of modelsOf(checked))
      if (!(await hasBlob(inside, { sha256, as: 'model' })))
        throw new Problem(409, 'A model is missing', 'Its bytes were not sent before the set that is made of it.');
    if ((await inside.sets.count({ where: { id: { [Op.ne]: id } }, ...inside.within })) >= MOST)
      throw new Problem(409, 'There is no room', `The library holds ${MOST} sets. Delete some first.`);
    await inside.sets.upsert(row, inside.within);
  });
  const { body: _body, ...card } = row;
  return card;
}

export const dropSet = (store: Store, id: string): Promise<void> =>
  store.atomically(async ({ sets, within }) => {
    await sets.destroy({ where: { id }, ...within });
  });

/** All that reads like a SHA-256 in any set of the library: the bytes of models that it needs. */
export async function namedInSets({ sets, within }: Store): Promise<string[]> {
  const rows = await sets.findAll({ attributes: ['body'], ...within });
  return rows.flatMap(({ body }) => [...body.matchAll(/[0-9a-f]{64}/g)].map(([word]) => word));
}
