/** An answer of the server that says no: RFC 9457 problem details. */
export class ApiProblem extends Error {
  override readonly name = 'ApiProblem';
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
  ) {
    super(detail === '' ? title : `${title}. ${detail}`);
  }
}

/** The server did not answer at all. */
export class Offline extends Error {
  override readonly name = 'Offline';
  constructor() {
    super('The server does not answer. What you draw is kept here and sent when it is back.');
  }
}

/** A request to the API. Throws `Offline` or an `ApiProblem`; other answers, 409 with `accept` included, come back. */
export async function request(path: string, init: RequestInit = {}, accept: readonly number[] = []): Promise<Response> {
  const response = await fetch(`/api${path}`, init).catch(() => {
    throw new Offline();
  });
  if (response.ok || accept.includes(response.status)) return response;
  // A proxy before a server that is down answers in its place.
  if (response.status === 502 || response.status === 503) throw new Offline();
  throw await problemIn(response);
}

/** What an answer says is wrong. */
async function problemIn(response: Response): Promise<ApiProblem> {
  const problem: unknown = await response.json().catch(() => ({}));
  const field = (name: string, fallback: string) =>
    typeof problem === 'object' && problem !== null && name in problem
      ? String(Object.entries(problem).find(([key]) => key === name)?.[1])
      : fallback;
  return new ApiProblem(response.status, field('title', 'The server said no'), field('detail', ''));
}

/** What is wrong with a request itself. Other answers may be different another time: a page that is gone can come back. */
const REFUSED = new Set([400, 409, 413, 415, 422]);

/** Whether the server says no to what was sent, and will whenever it is sent again. */
export const isRefusal = (error: unknown): error is ApiProblem =>
  error instanceof ApiProblem && REFUSED.has(error.status);

export async function requestJson<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const response = await request(path, {
    method,
    headers: body === undefined ? undefined : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}
