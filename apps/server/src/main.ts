import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createApp } from './app';
import { seedDemo } from './demo/seed';
import { openDatabase } from './keeping/database';
import { storeOf } from './keeping/query';

const folder = resolve(process.env.TRUE_NIB_DATA ?? 'data');
const port = Number(process.env.PORT ?? 4820);
const version = process.env.TRUE_NIB_VERSION ?? '0.1.0';

async function start(): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const database = await openDatabase(join(folder, 'true-nib.sqlite'));
  const store = storeOf(database);
  await seedDemo(store);
  const web = process.env.TRUE_NIB_WEB ?? resolve(__dirname, '../../web/dist');
  const server = createApp({ store, web, version }).listen(port, '127.0.0.1', (error) => {
    if (error) {
      console.error(`Port ${port} cannot be used (${error.message}). Name another one: PORT=4821 npm start`);
      process.exit(1);
    }
    console.log(`True Nib is at http://127.0.0.1:${port}`);
  });
  const end = async () => {
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

start().catch(fail);
