import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { folioPackage, plainName } from '@true-nib/core/formats';
import { PageError } from '@true-nib/core/gate';
import { Router } from 'express';
import { checked, PackageQuery } from '../dto';
import { sha256Of, type Keeping } from '../keeping/blobs';
import { folioFile, takeInFolio } from '../keeping/folioFile';
import { spooled } from '../keeping/spool';
import type { Store } from '../keeping/store';
import { Problem } from '../problem';
import { idOf } from './idOf';

/** Folios as one file each, to other desks and from them. */
export function packageRoutes(store: Store, keeping: Keeping): Router {
  const routes = Router();
  routes.get('/:id/package', async (request, response) => {
    const { journal } = checked(PackageQuery, request.query);
    const { head, parts } = await folioFile(store, idOf(request), journal !== 'no');
    response.type('application/zip');
    response.attachment(`${plainName(head.name)}.folio.zip`);
    // Whoever leaves ends it: nothing is made for nobody.
    await pipeline(Readable.from(folioPackage(head, parts, sha256Of)), response).catch((error: unknown) => {
      if (!response.destroyed) throw error;
    });
  });
  routes.post('/package', async (request, response) => {
    try {
      const folio = await spooled(request, keeping.free, (path) =>
        takeInFolio(store, () => createReadStream(path, { highWaterMark: 2 ** 18 }), keeping),
      );
      response.status(201).json(folio);
    } catch (error) {
      if (error instanceof PageError) throw new Problem(422, 'This folio cannot be brought in', error.message);
      throw error;
    }
  });
  return routes;
}
