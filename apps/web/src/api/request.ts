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
  const problem: unknown = await response.json().catch(() => ({}));
  const field = (name: string, fallback: string) =>
    typeof problem === 'object' && problem !== null && name in problem
      ? String(Object.entries(problem).find(([key]) => key === name)?.[1])
      : fallback;
  throw new ApiProblem(response.status, field('title', 'The server said no'), field('detail', ''));
}

export async function requestJson<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const response = await request(path, {
    method,
    headers: body === undefined ? undefined : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}
