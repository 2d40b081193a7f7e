import { Router } from 'express';
import { writtenAsText } from '@true-nib/core/comic';
import { ChangeParams, checked, FolioBody, FolioChangeBody, TakeBackBody, WordsBody } from '../dto';
import {
  addFolio,
  changeFolio,
  deleteFolio,
  duplicateFolio,
  getFolio,
  listFolios,
  restoreFolio,
} from '../keeping/folios';
import { listPages } from '../keeping/pages';
import { replaceInFolio, takeBackWords, writtenInFolio } from '../keeping/words';
import type { Store } from '../keeping/store';
import { idOf } from './idOf';

export function folioRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json({ folios: await listFolios(store) });
  });
  routes.post('/', async (request, response) => {
    response.status(201).json(await addFolio(store, checked(FolioBody, request.body).name));
  });
  routes.get('/:id', async (request, response) => {
    const folio = await getFolio(store, idOf(request));
    response.json({ ...folio, pages: await listPages(store, folio.id) });
  });
  routes.patch('/:id', async (request, response) => {
    response.json(await changeFolio(store, idOf(request), { ...checked(FolioChangeBody, request.body) }));
  });
  routes.delete('/:id', async (request, response) => {
    await deleteFolio(store, idOf(request));
    response.status(204).end();
  });
  routes.post('/:id/restore', async (request, response) => {
    response.json(await restoreFolio(store, idOf(request)));
  });
  routes.post('/:id/duplicate', async (request, response) => {
    response.status(201).json(await duplicateFolio(store, idOf(request)));
  });
  // Lettering, all pages of a folio at once.
  routes.get('/:id/lettering', async (request, response) => {
    const pages = await writtenInFolio(store, idOf(request));
    response.json({
      pages: pages.map(({ id, name, written }) => ({
        ...{ id, name },
        texts: written.map(({ text, panel, voice }) => ({ id: text.id, panel, voice, runs: text.runs })),
      })),
    });
  });
  routes.get('/:id/lettering.txt', async (request, response) => {
    response.type('text/plain; charset=utf-8').send(writtenAsText(await writtenInFolio(store, idOf(request))));
  });
  routes.post('/:id/lettering/replace', async (request, response) => {
    const { by, words, other, asWritten, whole } = checked(WordsBody, request.body);
    const sought = { words, ...(asWritten && { asWritten }), ...(whole && { whole }) };
    response.json(await replaceInFolio(store, idOf(request), { sought, other, by }));
  });
  routes.post('/:id/lettering/take-back', async (request, response) => {
    const { changes, by } = checked(TakeBackBody, request.body);
    response.json(
      await takeBackWords(
        store,
        idOf(request),
        changes.map((one) => checked(ChangeParams, one)),
        by,
      ),
    );
  });
  return routes;
}
