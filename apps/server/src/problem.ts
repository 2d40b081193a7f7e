import { ChangeConflict, PageError } from '@true-nib/core/gate';
import { RackError } from '@true-nib/core/rack';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import { DatabaseError, ValidationError } from 'sequelize';

/** Something that a request did wrong, or that cannot be had; answered as RFC 9457 problem details. */
export class Problem extends Error {
  override readonly name = 'Problem';
  constructor(
    readonly status: number,
    /** What is wrong, in a few words that do not change from case to case. */
    readonly title: string,
    /** What happened here, and what to do. */
    readonly detail: string,
    readonly extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(`${title}. ${detail}`);
  }
}

export function sendProblem(response: Response, { status, title, detail, extra }: Problem): void {
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', title, status, detail, ...extra }));
}

export const unknownRoute: RequestHandler = (request) => {
  throw new Problem(
    404,
    'There is nothing at this address',
    `${request.method} ${request.path} is not part of this service.`,
  );
};

export const answerErrors: ErrorRequestHandler = (error: unknown, _request, response, next) => {
  if (response.headersSent) return next(error);
  sendProblem(response, problemOf(error));
};

function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof ChangeConflict)
    return new Problem(409, 'The page has changed meanwhile', error.message, { conflict: error.entityId });
  if (error instanceof PageError) return new Problem(400, 'This cannot be put on a page', error.message);
  if (error instanceof RackError) return new Problem(400, 'This is no nib rack', error.message);
  // What the models refuse and the envelope let pass.
  if (error instanceof ValidationError) return new Problem(400, 'This cannot be kept', `${error.message}.`);
  if (isBodyError(error)) {
    if (error.type === 'entity.too.large')
      return new Problem(
        413,
        'This is too large',
        'More was sent than this address takes. Pictures may have up to 64 MB.',
      );
    if (error.status < 500)
      return new Problem(
        error.status,
        'The request cannot be read',
        'Its body is not what its content type says, or it was cut short.',
      );
  }
  // What Express and its middleware refuse, such as an address that they cannot read.
  if (isRefusal(error)) return new Problem(error.status, 'The request cannot be read', 'It is not well-formed.');
  console.error(error);
  // RFC 4918, §11.5. SQLite undoes what it could not write (its documentation, "Result and Error Codes").
  if (isDiskFull(error))
    return new Problem(
      507,
      'The disk of the server is full',
      'Nothing can be saved until there is room on it. What was saved before is safe.',
    );
  return new Problem(
    500,
    'Something went wrong here',
    'What was saved before is safe. The server wrote down what happened.',
  );
}

const isDiskFull = (error: unknown): boolean =>
  error instanceof DatabaseError && 'code' in error.parent && error.parent.code === 'SQLITE_FULL';

const isRefusal = (error: unknown): error is { readonly status: number } =>
  error instanceof Error &&
  'status' in error &&
  typeof error.status === 'number' &&
  error.status >= 400 &&
  error.status < 500;

const isBodyError = (error: unknown): error is { readonly type: string; readonly status: number } =>
  error instanceof Error &&
  'type' in error &&
  typeof error.type === 'string' &&
  'status' in error &&
  typeof error.status === 'number';
