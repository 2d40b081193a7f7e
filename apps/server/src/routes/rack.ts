import { Router } from 'express';
import { checkRack } from '@true-nib/core/rack';
import { checked, RackBody } from '../dto';
import { getRack, keepRack } from '../keeping/rack';
import type { Store } from '../keeping/query';

/** The nib rack of this desk: one for all folios. */
export function rackRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getRack(store));
  });
  routes.put('/', async (request, response) => {
    const { since, nibs } = checked(RackBody, request.body);
    const { isKept, rack } = await keepRack(store, since, checkRack(nibs));
    response.status(isKept ? 200 : 409).json(rack);
  });
  return routes;
}
