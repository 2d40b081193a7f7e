import { PICTURE_LIMITS } from '@true-nib/core/page';
import { raw, Router, type Request } from 'express';
import { BlobParam, checked } from '../dto';
import { getBlob, keepBlob, type Keeping } from '../keeping/blobs';
import type { Store } from '../keeping/store';
import { Problem } from '../problem';

export function blobRoutes(store: Store, keeping: Keeping): Router {
  const routes = Router();
  routes.get('/:sha256', async (request, response) => {
    const { type, bytes } = await getBlob(store, fingerprintIn(request));
    // Named by its content, so it never changes; shown as a picture, never as a page.
    response
      .set('Cache-Control', 'private, max-age=31536000, immutable')
      .set('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox")
      .type(type)
      .send(bytes);
  });
  routes.put('/:sha256', raw({ type: () => true, limit: PICTURE_LIMITS.bytes }), async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body) || body.length === 0)
      throw new Problem(400, 'The picture is empty', 'No bytes came with it.');
    const sent = { sha256: fingerprintIn(request), bytes: body, type: request.headers['content-type']?.split(';')[0] };
    const blob = await keepBlob(store, sent, keeping);
    response.status(201).json(blob);
  });
  return routes;
}

const fingerprintIn = (request: Request): string => checked(BlobParam, request.params).sha256;
