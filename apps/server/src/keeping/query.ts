import PQueue from 'p-queue';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/** A value that SQLite can bind. */
export type Bound = string | number | null | Buffer;

/** The database, outside or inside a transaction: three verbs are all that the rooms above need. */
export interface Store {
  all<Row extends object>(sql: string, ...values: readonly Bound[]): Promise<Row[]>;
  one<Row extends object>(sql: string, ...values: readonly Bound[]): Promise<Row | undefined>;
  run(sql: string, ...values: readonly Bound[]): Promise<void>;
  /** Runs `work` as a whole or not at all. Works inside a transaction join it. */
  atomically<T>(work: (store: Store) => Promise<T>): Promise<T>;
}

export function storeOf(database: Sequelize, transaction?: Transaction): Store {
  const all = async <Row extends object>(sql: string, ...values: readonly Bound[]) => {
    // A question binds by ?, a deed by $1: the other sign would be read as nothing, without a word.
    if (/\$\d/.test(sql)) throw new TypeError(`A question binds its values by ?: ${sql}`);
    return database.query<Row>(sql, { replacements: [...values], type: QueryTypes.SELECT, transaction });
  };
  return {
    all,
    one: async <Row extends object>(sql: string, ...values: readonly Bound[]): Promise<Row | undefined> =>
      (await all<Row>(sql, ...values)).at(0),
    run: async (sql, ...values) => {
      const write = () => database.query(sql, { bind: [...values], transaction });
      // A write between the reading and the writing of a transaction would make that one fail.
      await (transaction ? write() : inTurn(database, write));
    },
    atomically: (work) =>
      transaction
        ? work(storeOf(database, transaction))
        : inTurn(database, () => database.transaction((t) => work(storeOf(database, t)))),
  };
}

const queues = new WeakMap<Sequelize, PQueue>();

/** Whatever writes to one database runs one after the other: SQLite has one writer, and waiting here beats failing there. */
function inTurn<T>(database: Sequelize, work: () => Promise<T>): Promise<T> {
  const queue = queues.get(database) ?? new PQueue({ concurrency: 1 });
  queues.set(database, queue);
  return queue.add(work);
}
