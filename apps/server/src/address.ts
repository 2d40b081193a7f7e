import type { RequestHandler } from 'express';
import { Problem } from './problem';

/** Refuses addresses that cannot be read: broken percent escapes, and control characters, which no name of ours has. */
export const plainAddress: RequestHandler = (request, _response, next) => {
  const address = decoded(request.originalUrl);
  if (address === undefined || /\p{Cc}/u.test(address))
    throw new Problem(400, 'This address cannot be read', 'It has a broken escape or a control character in it.');
  next();
};

function decoded(address: string): string | undefined {
  try {
    return decodeURIComponent(address);
  } catch {
    return undefined;
  }
}
