import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { applyChange, newLayer, newPage, type Change, type Edit, type Page } from '@true-nib/core/page';
import { PACKED_TYPE, pack, unpack } from '@true-nib/core/wire';
import { packSamples } from '@true-nib/core/hand';
import type { Express } from 'express';
import sharp from 'sharp';
import type { Sequelize } from 'sequelize';
import request from 'supertest';
import { createApp } from '../src/app';
import { sha256Of } from '../src/keeping/blobs';
import { openDatabase } from '../src/keeping/database';
import { storeOf, type Store } from '../src/keeping/store';

export interface Service {
  readonly app: Express;
  readonly store: Store;
  readonly database: Sequelize;
  readonly file: string;
  close(): Promise<void>;
}

/** A service on a database of its own; `file` opens one that is there already. */
export async function startService(file?: string): Promise<Service> {
  const folder = file ? undefined : mkdtempSync(join(tmpdir(), 'true-nib-'));
  const path = file ?? join(folder ?? '', 'test.sqlite');
  const database = await openDatabase(path);
  const store = storeOf(database);
  return {
    app: createApp({ store, version: 'test' }),
    store,
    database,
    file: path,
    close: async () => {
      await database.close();
      if (folder) rmSync(folder, { recursive: true, force: true });
    },
  };
}

export async function folioWithPage(app: Express): Promise<{ folioId: string; pageId: string }> {
  const folio = await request(app).post('/api/folios').send({ name: 'Saltmarsh Ferry' }).expect(201);
  const page = await request(app)
    .post('/api/pages')
    .send({ folioId: folio.body.id, name: 'Quay', width: 2000, height: 3000, ppi: 300 })
    .expect(201);
  return { folioId: folio.body.id, pageId: page.body.id };
}

export const layer = newLayer({ id: 'inks', medium: 'ink', name: 'Inks', order: 'a0' });

export const stroke = (id: string, x = 0) =>
  ({
    kind: 'stroke',
    id,
    layerId: 'inks',
    order: 'a0',
    spine: { points: Float64Array.of(x, 0, 5, x + 10, 0, 5, x + 20, 9, 5, x + 30, 9, 5), closed: false },
    nib: { name: 'Liner', size: 5, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' },
    ends: ['round', 'round'],
    origin: { samples: `${id}:hand`, calm: { way: 'raw' }, zoom: 1 },
  }) as const;

export const hand = (id: string) =>
  ({ kind: 'samples', id: `${id}:hand`, packed: packSamples([{ x: 1, y: 2, pressure: 0.5 }]) }) as const;

let count = 0;
export const change = (edits: readonly Edit[], more: Partial<Change> = {}): Change => ({
  id: `change-${++count}`,
  by: 'me',
  label: 'Stroke',
  at: 1,
  needs: [],
  edits,
  ...more,
});
export const drawing = (id: string, x = 0, more: Partial<Change> = {}): Change =>
  change(
    [
      { before: null, after: hand(id) },
      { before: null, after: stroke(id, x) },
    ],
    { needs: ['inks'], ...more },
  );
export const start = (): Change => change([{ before: null, after: layer }], { label: 'Inks' });

export const sendChanges = (
  app: Express,
  pageId: string,
  since: number,
  changes: readonly unknown[],
  lastId?: string,
) =>
  request(app)
    .post(`/api/pages/${pageId}/changes`)
    .set('content-type', PACKED_TYPE)
    .send(Buffer.from(pack({ since, changes, ...(lastId === undefined ? {} : { lastId }) })));

export async function entitiesOf(app: Express, pageId: string): Promise<Map<string, { readonly kind: string }>> {
  const { body } = await request(app).get(`/api/pages/${pageId}`).expect(200);
  return new Map(body.entities.map((entity: { id: string; kind: string }) => [entity.id, entity]));
}

/** What a client that has seen all changes would hold. */
export const replayed = (changes: readonly Change[]): Page =>
  changes.reduce(applyChange, newPage({ width: 2000, height: 3000, ppi: 300 }));

export const picture = (width = 40, height = 30) =>
  sharp({ create: { width, height, channels: 3, background: '#8899aa' } });

export const putBlob = (app: Express, bytes: Buffer, type: string, sha256 = sha256Of(bytes)) =>
  request(app).put(`/api/blobs/${sha256}`).set('content-type', type).send(bytes);

export const packedBody = (response: { body: unknown }): unknown => unpack(new Uint8Array(response.body as Buffer));
