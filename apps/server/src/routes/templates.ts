import { Router } from 'express';
import { checkOwnTemplate, templateToJson } from '@true-nib/core/templates';
import { checked, TemplateBody } from '../dto';
import type { Store } from '../keeping/store';
import { dropTemplate, getTemplates, keepTemplate } from '../keeping/templates';
import { Problem } from '../problem';
import { idOf } from './idOf';

/** The templates of this desk's own: one list for all folios. */
export function templateRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getTemplates(store));
  });
  routes.put('/:id', async (request, response) => {
    const { name, rings } = checked(TemplateBody, request.body);
    const template = templateToJson(checkOwnTemplate({ id: idOf(request), name, rings }));
    if (!(await keepTemplate(store, template.id, template)))
      throw new Problem(409, 'There is no room', 'This desk has 500 templates of its own. Delete some first.');
    response.json(template);
  });
  routes.delete('/:id', async (request, response) => {
    await dropTemplate(store, idOf(request));
    response.status(204).end();
  });
  return routes;
}
