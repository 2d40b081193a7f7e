import { Sequelize, type QueryInterface } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations';

/**
 * Opens the one SQLite file that keeps everything, and brings its tables up to date. Write-ahead log with a full sync on
 * every commit: what was answered with 200 survives a power cut.
 */
export async function openDatabase(file: string): Promise<Sequelize> {
  const database = new Sequelize({
    dialect: 'sqlite',
    storage: file,
    logging: false,
    // One connection: SQLite has one writer anyway, and every pragma below holds for it.
    pool: { max: 1, min: 1, idle: 2 ** 31 - 1 },
  });
  database.addHook('afterConnect', (connection: unknown) => setPragmas(connection));
  await database.query('PRAGMA journal_mode = WAL');
  const umzug = new Umzug<QueryInterface>({
    migrations: [...migrations],
    context: database.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: database }),
    logger: undefined,
  });
  await umzug.up();
  return database;
}

interface SqliteConnection {
  exec(sql: string, done: (error: Error | null) => void): void;
}

const isSqlite = (connection: unknown): connection is SqliteConnection =>
  typeof connection === 'object' &&
  connection !== null &&
  'exec' in connection &&
  typeof connection.exec === 'function';

function setPragmas(connection: unknown): Promise<void> {
  if (!isSqlite(connection)) return Promise.reject(new Error('The database driver is not sqlite3.'));
  return new Promise((resolve, reject) =>
    connection.exec('PRAGMA foreign_keys = ON; PRAGMA synchronous = FULL; PRAGMA busy_timeout = 5000;', (error) =>
      error ? reject(error) : resolve(),
    ),
  );
}
