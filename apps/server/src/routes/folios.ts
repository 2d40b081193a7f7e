import { Router } from 'express';
import { checked, FolioBody } from '../dto';
import {
  addFolio,
  deleteFolio,
  duplicateFolio,
  getFolio,
  listFolios,
  renameFolio,
  restoreFolio,
} from '../keeping/folios';
import { listPages } from '../keeping/pages';
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
    response.json(await renameFolio(store, idOf(request), checked(FolioBody, request.body).name));
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
  return routes;
}
