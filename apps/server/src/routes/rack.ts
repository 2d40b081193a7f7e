import { Router } from 'express';
import { checkRack } from '@true-nib/core/rack';
import { checked, RackBody } from '../dto';
import { getRack, keepRack } from '../keeping/rack';
import type { Store } from '../keeping/store';

/** The nib rack of this desk: one for all folios. */
export function rackRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getRack(store));
  });
  routes.put('/', async (request, response) => {
    const { since, nibs } = checked(RackBody, request.body);
    const { isKept, rack } = await keepRack(store, since, checkRack(nibs));
    // Two browsers that open this desk ask like this all the time: it is no mistake.
    response.json({ ...rack, isKept });
  });
  return routes;
}
