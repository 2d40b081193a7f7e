import { PACKED_TYPE } from '@true-nib/core/wire';
import type { Request, Response } from 'express';

/** A page that is fetched ahead of the app can say so in its address alone. */
export const wantsPacked = (request: Request): boolean =>
  request.headers.accept === PACKED_TYPE || request.query.form === 'packed';

/** Sends packed bytes as they are: a page may have tens of MB, which must be neither copied nor hashed for a tag. */
export const sendPacked = (response: Response, bytes: Uint8Array) =>
  response
    .type(PACKED_TYPE)
    .set('Cache-Control', 'no-cache')
    .set('Content-Length', String(bytes.byteLength))
    .end(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
