import PQueue from 'p-queue';
import type { Sequelize, Transaction } from 'sequelize';
import { modelsOf, type Models } from './models';

/** The database, outside or inside a transaction. */
export interface Store extends Models {
  readonly database: Sequelize;
  /** What a question to a model takes along, so that it belongs to the transaction that this is inside of. */
  readonly within: { readonly transaction?: Transaction };
  /** Runs `work` as a whole or not at all. Works inside a transaction join it. Whatever writes does it in here. */
  atomically<T>(work: (store: Store) => Promise<T>): Promise<T>;
}

/** The store of a database; one for each, since its writers wait for one another. */
export function storeOf(database: Sequelize): Store {
  const models = modelsOf(database);
  // SQLite has one writer, and waiting here beats failing there.
  const queue = new PQueue({ concurrency: 1 });
  const inside = (transaction: Transaction): Store => {
    const store: Store = { ...models, database, within: { transaction }, atomically: (work) => work(store) };
    return store;
  };
  return {
    ...{ ...models, database, within: {} },
    atomically: (work) => queue.add(() => database.transaction((transaction) => work(inside(transaction)))),
  };
}
