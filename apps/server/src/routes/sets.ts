import { Router } from 'express';
import { checked, SetBody } from '../dto';
import { dropSet, getSet, getSets, keepSet } from '../keeping/sets';
import type { Store } from '../keeping/store';
import { idOf } from './idOf';

/** The library of sets of this desk: one for all folios. */
export function setRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getSets(store));
  });
  routes.get('/:id', async (request, response) => {
    response.json(await getSet(store, idOf(request)));
  });
  routes.put('/:id', async (request, response) => {
    response.json(await keepSet(store, idOf(request), checked(SetBody, request.body)));
  });
  routes.delete('/:id', async (request, response) => {
    await dropSet(store, idOf(request));
    response.status(204).end();
  });
  return routes;
}
