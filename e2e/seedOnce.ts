import { mkdirSync, rmSync } from 'node:fs';
import { Desk, SEEDED } from './desk';

/** Lays the demo data down once; every story works on a copy. */
export default async function seedOnce(): Promise<void> {
  rmSync(SEEDED, { recursive: true, force: true });
  mkdirSync(SEEDED, { recursive: true });
  const desk = await Desk.open(SEEDED);
  await desk.stop();
}
