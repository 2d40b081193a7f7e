import type { RequestHandler } from 'express';
import { Problem } from './problem';

const LOCAL = new Set(['127.0.0.1', 'localhost', '[::1]']);

/**
 * Keeps other web pages out: the Host must be this machine, and what changes something must come from our own pages
 * (or from no page at all). Without this a foreign page could reach a local server through a name it controls.
 */
export const guard: RequestHandler = (request, _response, next) => {
  if (!LOCAL.has(hostName(request.headers.host ?? '')))
    throw new Problem(403, 'This address is not served here', 'True Nib answers to 127.0.0.1 and localhost only.');
  const { origin } = request.headers;
  if (origin !== undefined && origin !== `http://${request.headers.host}`)
    throw new Problem(403, 'Another page asked for this', 'Requests are taken from True Nib itself only.');
  next();
};

const hostName = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();
