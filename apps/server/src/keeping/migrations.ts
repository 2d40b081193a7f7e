import type { QueryInterface } from 'sequelize';
import type { RunnableMigration } from 'umzug';

/** Numbered steps from an empty file to today's tables. A step that has shipped is never edited; a new one is added. */
export const migrations: readonly RunnableMigration<QueryInterface>[] = [
  {
    name: '0001-folios-pages-journal',
    up: async ({ context }) => {
      const tables = [
        `CREATE TABLE folios (
          id TEXT PRIMARY KEY, name TEXT NOT NULL, createdAt INTEGER NOT NULL, deletedAt INTEGER)`,
        `CREATE TABLE pages (
          id TEXT PRIMARY KEY, folioId TEXT NOT NULL REFERENCES folios (id), name TEXT NOT NULL, position TEXT NOT NULL,
          width INTEGER NOT NULL, height INTEGER NOT NULL, ppi REAL NOT NULL, revision INTEGER NOT NULL DEFAULT 0,
          createdAt INTEGER NOT NULL, changedAt INTEGER NOT NULL, deletedAt INTEGER)`,
        `CREATE INDEX pages_of_folio ON pages (folioId, position)`,
        `CREATE TABLE changes (
          pageId TEXT NOT NULL REFERENCES pages (id), revision INTEGER NOT NULL, changeId TEXT NOT NULL, author TEXT NOT NULL,
          label TEXT NOT NULL, undoes TEXT, bytes BLOB NOT NULL,
          PRIMARY KEY (pageId, revision), UNIQUE (pageId, changeId))`,
        `CREATE TABLE entities (
          pageId TEXT NOT NULL REFERENCES pages (id), id TEXT NOT NULL, bytes BLOB NOT NULL,
          PRIMARY KEY (pageId, id)) WITHOUT ROWID`,
        `CREATE TABLE blobs (
          sha256 TEXT PRIMARY KEY, type TEXT NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, bytes BLOB NOT NULL)`,
        `CREATE TABLE thumbnails (
          pageId TEXT PRIMARY KEY REFERENCES pages (id), revision INTEGER NOT NULL, type TEXT NOT NULL, bytes BLOB NOT NULL)`,
      ];
      for (const table of tables) await context.sequelize.query(table);
    },
  },
  {
    name: '0002-layers-are-counted',
    up: async ({ context }) => {
      // Rows from before count as no layers: pages that old hold a handful.
      await context.sequelize.query(`ALTER TABLE entities ADD COLUMN kind TEXT NOT NULL DEFAULT ''`);
      await context.sequelize.query(`CREATE INDEX layers_of_page ON entities (pageId) WHERE kind = 'layer'`);
    },
  },
  {
    name: '0003-nib-rack',
    up: async ({ context }) => {
      await context.sequelize.query(
        `CREATE TABLE rack (id INTEGER PRIMARY KEY CHECK (id = 1), revision INTEGER NOT NULL, nibs TEXT NOT NULL)`,
      );
    },
  },
  {
    name: '0004-own-templates',
    up: async ({ context }) => {
      await context.sequelize.query(`CREATE TABLE templates (id TEXT PRIMARY KEY, body TEXT NOT NULL)`);
    },
  },
  {
    name: '0005-snapshots',
    up: async ({ context }) => {
      // Made from the rows of entities: a step that rewrites those has to empty it.
      await context.sequelize.query(
        `CREATE TABLE snapshots (
          pageId TEXT PRIMARY KEY REFERENCES pages (id), revision INTEGER NOT NULL, ids BLOB NOT NULL, bytes BLOB NOT NULL)`,
      );
    },
  },
  {
    name: '0006-when-blobs-were-kept',
    up: async ({ context }) => {
      await context.sequelize.query(`ALTER TABLE blobs ADD COLUMN keptAt INTEGER NOT NULL DEFAULT 0`);
      // What was there before is as if it had come today.
      await context.sequelize.query(`UPDATE blobs SET keptAt = ${Date.now()}`);
    },
  },
  {
    name: '0007-folios-are-read',
    up: async ({ context }) => {
      await context.sequelize.query(`ALTER TABLE folios ADD COLUMN reads TEXT NOT NULL DEFAULT 'left to right'`);
      await context.sequelize.query(`ALTER TABLE folios ADD COLUMN firstAlone INTEGER NOT NULL DEFAULT 1`);
    },
  },
  {
    name: '0008-library-of-sets',
    up: async ({ context }) => {
      await context.sequelize.query(
        `CREATE TABLE sets (
          id TEXT PRIMARY KEY, name TEXT NOT NULL, picture TEXT NOT NULL, blocks INTEGER NOT NULL, keptAt INTEGER NOT NULL,
          body TEXT NOT NULL)`,
      );
    },
  },
];
