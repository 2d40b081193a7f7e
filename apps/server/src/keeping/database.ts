import { Sequelize, type QueryInterface } from 'sequelize';
import sqlite3 from 'sqlite3';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations';

const BUSY_MS = 5_000;

/**
 * A connection, of which Sequelize opens one for every transaction and calls no hook: each is to sync its commits, though
 * that is what SQLite does if nobody says otherwise.
 */
class Connection extends sqlite3.Database {
  constructor(file: string, mode: number, done: (error: Error | null) => void) {
    super(file, mode, function (this: sqlite3.Database, error) {
      if (error) return done(error);
      this.configure('busyTimeout', BUSY_MS);
      this.exec('PRAGMA foreign_keys = ON; PRAGMA synchronous = FULL;', done);
    });
    // Sequelize also sets a pragma that nobody listens to: that it fails must not end the server. Queries tell who asked.
    this.on('error', () => undefined);
  }
}

/**
 * Opens the one SQLite file that keeps everything, and brings its tables up to date. Write-ahead log with a full sync on
 * every commit: what was answered with 200 survives a power cut.
 */
export async function openDatabase(file: string): Promise<Sequelize> {
  const database = new Sequelize({
    dialect: 'sqlite',
    storage: file,
    logging: false,
    dialectModule: { ...sqlite3, Database: Connection },
  });
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
