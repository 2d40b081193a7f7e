import { PICTURE_LIMITS } from '@true-nib/core/page';
import { raw, Router } from 'express';
import { getBlob, keepBlob } from '../keeping/blobs';
import type { Store } from '../keeping/query';
import { Problem } from '../problem';

export function blobRoutes(store: Store): Router {
  const routes = Router();
  routes.get('/:sha256', async (request, response) => {
    const { type, bytes } = await getBlob(store, fingerprint(request.params.sha256));
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
    const blob = await keepBlob(
      store,
      fingerprint(request.params.sha256),
      body,
      request.headers['content-type']?.split(';')[0],
    );
    response.status(201).json(blob);
  });
  return routes;
}

function fingerprint(value: string): string {
  if (!/^[0-9a-f]{64}$/.test(value))
    throw new Problem(400, 'This is not a fingerprint', 'A SHA-256 has 64 hex digits in lower case.');
  return value;
}
