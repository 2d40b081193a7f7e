import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { PICTURE_LIMITS } from '@true-nib/core/page';
import express, { Router, type Express } from 'express';
import helmet from 'helmet';
import { plainAddress } from './address';
import { guard } from './guard';
import type { Keeping } from './keeping/blobs';
import { Examiner } from './keeping/examiner';
import type { Store } from './keeping/store';
import { hasThumbnail } from './keeping/thumbnails';
import { answerErrors, unknownRoute } from './problem';
import { blobRoutes } from './routes/blobs';
import { conversionRoutes } from './routes/conversions';
import { folioRoutes } from './routes/folios';
import { packageRoutes } from './routes/packages';
import { pageRoutes } from './routes/pages';
import { rackRoutes } from './routes/rack';
import { setRoutes } from './routes/sets';
import { templateRoutes } from './routes/templates';

export interface AppOptions {
  readonly store: Store;
  /** The folder of the built web app; without one only the API is served. */
  readonly web?: string;
  readonly version: string;
  /** Bytes that are free on the disk. */
  readonly free?: () => Promise<number>;
}

/** The whole service: API under /api, the built web app everywhere else. */
export function createApp({ store, web, version, free }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(guard, plainAddress);
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
  app.use('/api', apiRoutes(store, version, { examiner: new Examiner(PICTURE_LIMITS), free }));
  if (web && existsSync(join(web, 'index.html'))) serveWeb(app, web, store);
  app.use(unknownRoute);
  app.use(answerErrors);
  return app;
}

function apiRoutes(store: Store, version: string, keeping: Keeping): Router {
  const api = Router();
  // What comes as bytes is read before the JSON parser: a picture may call itself anything.
  api.use('/blobs', blobRoutes(store, keeping));
  api.use('/conversions', conversionRoutes());
  api.use('/folios', packageRoutes(store, keeping));
  api.use(express.json({ limit: '48mb' }));
  api.get('/health', async (_request, response) => {
    await store.database.authenticate();
    response.json({ status: 'ok', version });
  });
  api.use('/folios', folioRoutes(store));
  api.use('/pages', pageRoutes(store));
  api.use('/rack', rackRoutes(store));
  api.use('/templates', templateRoutes(store));
  api.use('/sets', setRoutes(store));
  api.use(unknownRoute);
  return api;
}

function serveWeb(app: Express, web: string, store: Store): void {
  for (const folder of ['/_expo', '/assets'])
    app.use(
      folder,
      express.static(join(web, folder), { immutable: true, maxAge: '1y', index: false, redirect: false }),
      unknownRoute,
    );
  app.use(express.static(web, { index: false, redirect: false }));
  const document = join(web, 'index.html');
  app.get('/page/:id', async (request, response) => {
    const { id } = request.params;
    const page = `/api/pages/${encodeURIComponent(id)}`;
    // A full page takes as long as the app does: the browser asks for both at once (RFC 8288; HTML Standard, preload).
    response.set('Link', `<${page}?form=packed>; rel=preload; as=fetch; crossorigin=anonymous`);
    const [html, hasPicture] = await Promise.all([readFile(document, 'utf8'), hasThumbnail(store, id)]);
    response
      .set('Cache-Control', 'no-cache')
      .send(hasPicture ? html.replace(ROOT, `${firstPicture(page)}${ROOT}`) : html);
  });
  app.get('/{*path}', (request, response, next) => {
    if (extname(request.path)) return next();
    response.set('Cache-Control', 'no-cache').sendFile(document);
  });
}

/** Where the app goes in the document. */
const ROOT = '<div id="root">';

/** The shelf's picture of a page, which stands in for it until the app has come. */
const firstPicture = (page: string): string => `<img id="first-picture" src="${page}/thumbnail" alt="">`;
