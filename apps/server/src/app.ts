import { existsSync } from 'node:fs';
import { extname, join } from 'node:path';
import express, { Router, type Express } from 'express';
import helmet from 'helmet';
import { guard } from './guard';
import type { Store } from './keeping/query';
import { answerErrors, unknownRoute } from './problem';
import { blobRoutes } from './routes/blobs';
import { folioRoutes } from './routes/folios';
import { pageRoutes } from './routes/pages';
import { rackRoutes } from './routes/rack';
import { templateRoutes } from './routes/templates';

export interface AppOptions {
  readonly store: Store;
  /** The folder of the built web app; without one only the API is served. */
  readonly web?: string;
  readonly version: string;
}

/** The whole service: API under /api, the built web app everywhere else. */
export function createApp({ store, web, version }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(guard);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'blob:', 'data:'],
          connectSrc: ["'self'", 'blob:', 'data:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use('/api', apiRoutes(store, version));
  if (web && existsSync(join(web, 'index.html'))) serveWeb(app, web);
  app.use(unknownRoute);
  app.use(answerErrors);
  return app;
}

function apiRoutes(store: Store, version: string): Router {
  const api = Router();
  // Blobs come before the JSON parser: a picture may call itself anything.
  api.use('/blobs', blobRoutes(store));
  api.use(express.json({ limit: '48mb' }));
  api.get('/health', async (_request, response) => {
    await store.one('SELECT 1');
    response.json({ status: 'ok', version });
  });
  api.use('/folios', folioRoutes(store));
  api.use('/pages', pageRoutes(store));
  api.use('/rack', rackRoutes(store));
  api.use('/templates', templateRoutes(store));
  api.use(unknownRoute);
  return api;
}

function serveWeb(app: Express, web: string): void {
  for (const folder of ['/_expo', '/assets'])
    app.use(
      folder,
      express.static(join(web, folder), { immutable: true, maxAge: '1y', index: false, redirect: false }),
      unknownRoute,
    );
  app.use(express.static(web, { index: false, redirect: false }));
  app.get('/{*path}', (request, response, next) => {
    if (extname(request.path)) return next();
    const [, pageId] = /^\/page\/([^/]+)$/.exec(request.path) ?? [];
    // A full page takes as long as the app does: the browser asks for both at once (RFC 8288; HTML Standard, preload).
    if (pageId !== undefined)
      response.set('Link', `</api/pages/${pageId}?form=packed>; rel=preload; as=fetch; crossorigin=anonymous`);
    response.set('Cache-Control', 'no-cache').sendFile(join(web, 'index.html'));
  });
}
