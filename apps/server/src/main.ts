import { mkdirSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { createApp } from './app';
import { openDatabase } from './keeping/database';
import { storeOf, type Store } from './keeping/store';
import { KEPT_DAYS, tidy } from './keeping/tidy';

const folder = resolve(process.env.TRUE_NIB_DATA ?? 'data');
const port = Number(process.env.PORT ?? 4820);
const version = process.env.TRUE_NIB_VERSION ?? '0.1.0';

/** Bytes that are free on the disk of the data. */
async function freeBytes(): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

async function open() {
  mkdirSync(folder, { recursive: true });
  const database = await openDatabase(join(folder, 'true-nib.sqlite'));
  return { database, store: storeOf(database) };
}

/** Tidies alone, and gives the disk back what that frees. */
async function tidyOnly(): Promise<void> {
  const { database, store } = await open();
  await tidied(store);
  await database.query('VACUUM');
  await database.close();
}

async function tidied(store: Store): Promise<void> {
  const { folios, pages, pictures, bytes } = await tidy(store);
  if (folios + pages + pictures > 0)
    console.log(
      `Tidied: ${folios} folios and ${pages} pages that were deleted more than ${KEPT_DAYS} days ago, and ${pictures} pictures that nothing needs (${Math.ceil(bytes / 1e6)} MB).`,
    );
}

/** The demo folio is laid into a database that was never used; what draws it is loaded for that alone. */
async function seededOnce(store: Store): Promise<void> {
  if ((await store.folios.unscoped().count(store.within)) > 0) return;
  const { seedDemo } = await import('./demo/seed');
  await seedDemo(store);
}

async function start(): Promise<void> {
  const { database, store } = await open();
  await seededOnce(store);
  let tidying: Promise<unknown> = Promise.resolve();
  const web = process.env.TRUE_NIB_WEB ?? resolve(__dirname, '../../web/dist');
  const server = createApp({ store, web, version, free: freeBytes }).listen(port, '127.0.0.1', (error) => {
    if (error) {
      console.error(`Port ${port} cannot be used (${error.message}). Name another one: PORT=4821 npm start`);
      process.exit(1);
    }
    console.log(`True Nib is at http://127.0.0.1:${port}`);
    tidying = tidied(store).catch(console.error);
  });
  const end = async () => {
    await tidying;
    // A browser that left may have asked for something that is still being written.
    await store.atomically(() => Promise.resolve());
    await database.close();
    process.exit(0);
  };
  const stop = () => server.close(() => void end().catch(fail));
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

function fail(error: unknown): void {
  console.error(error);
  process.exit(1);
}

(process.argv[2] === 'tidy' ? tidyOnly() : start()).catch(fail);
