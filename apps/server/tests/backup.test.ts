import { execFile } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import request from 'supertest';
import { startService, type Service } from './service';

const root = join(__dirname, '../../..');

/** Runs a script on a folder of data. Answers what it said; rejects with what it complained of. */
const run = async (script: string, folder: string, ...files: string[]): Promise<string> => {
  const env = { ...process.env, TRUE_NIB_DATA: folder };
  const { stdout } = await promisify(execFile)(process.execPath, [join(root, 'scripts', script), ...files], { env });
  return stdout;
};

const folios = async (service: Service): Promise<string[]> =>
  (await request(service.app).get('/api/folios')).body.folios.map(({ name }: { name: string }) => name).sort();
const add = (service: Service, name: string) => request(service.app).post('/api/folios').send({ name }).expect(201);
const kept = (folder: string) =>
  readdirSync(folder, { recursive: true }).filter((name) => /replaced-|new$/.test(`${name}`));

let folder: string;
let cut: string;
let service: Service;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'true-nib-backup-'));
  cut = `${folder}-cut`;
  service = await startService(join(folder, 'true-nib.sqlite'));
});
afterEach(async () => {
  await service.close();
  for (const path of [folder, cut]) rmSync(path, { recursive: true, force: true });
});

it('a backup is made while the server runs, and gone back to after a power cut, with what was there kept', async () => {
  await add(service, 'First');
  const backup = join(folder, 'copy.sqlite');
  await run('backup.mjs', folder, backup);
  await add(service, 'Second');
  // As a power cut would leave it: the second folio is only in the write-ahead log.
  cpSync(folder, cut, { recursive: true });
  expect(existsSync(join(cut, 'true-nib.sqlite-wal'))).toBe(true);
  expect(await run('restore.mjs', cut, backup)).toMatch(/is now .*copy\.sqlite/);
  expect(existsSync(join(cut, 'true-nib.sqlite-wal'))).toBe(false);
  const restored = await startService(join(cut, 'true-nib.sqlite'));
  expect(await folios(restored)).toEqual(['First']);
  await restored.close();
  const [replaced] = kept(cut);
  const before = await startService(join(cut, `${replaced}`));
  expect(await folios(before)).toEqual(['First', 'Second']);
  await before.close();
});

it('is not gone back to while the server runs, nor to what is no backup', async () => {
  await add(service, 'First');
  const backup = join(folder, 'copy.sqlite');
  await run('backup.mjs', folder, backup);
  await expect(run('restore.mjs', folder, backup)).rejects.toThrow(/in use. Stop True Nib first/);
  const other = join(folder, 'other.sqlite');
  writeFileSync(other, 'no database at all');
  await expect(run('restore.mjs', folder, other)).rejects.toThrow(/no whole backup/);
  await expect(run('restore.mjs', folder, join(folder, 'none'))).rejects.toThrow(/does not exist/);
  await expect(run('restore.mjs', folder, join(folder, 'true-nib.sqlite'))).rejects.toThrow(/the database itself/);
  await expect(run('restore.mjs', folder)).rejects.toThrow(/Name the backup/);
  expect(await folios(service)).toEqual(['First']);
  expect(kept(folder)).toEqual([]);
});
