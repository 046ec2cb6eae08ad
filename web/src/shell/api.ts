import type { Problem } from '@wunsch/contract';

/** A refusal of the server, with its problem details. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
    this.name = 'ApiProblem';
  }
}

/** Thrown when the server cannot be reached, or is still opening the workshop. */
export class ServerAway extends Error {
  constructor() {
    super('the server is away');
    this.name = 'ServerAway';
  }
}

/** Methods of the workshop's door. */
export type Method = 'GET' | 'PUT' | 'POST' | 'DELETE';

/** Turns an address of a workshop into one of this server. */
export type Address = (path: string) => string;

/**
 * One request to the server. Resolves to the reply's JSON (null when there is none).
 *
 * @throws ServerAway when it is not reached or is opening
 * @throws ApiProblem with what was wrong and what would be right
 */
export async function request<T>(method: Method, path: string, body?: unknown, ifMatch?: number): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      credentials: 'same-origin',
      headers: {
        accept: 'application/json',
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(ifMatch !== undefined && { 'if-match': `"${ifMatch}"` }),
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ServerAway();
  }
  if (response.status === 503 || response.status === 502) throw new ServerAway();
  const text = await response.text();
  const json: unknown = text === '' ? null : JSON.parse(text);
  if (!response.ok) throw new ApiProblem(json as Problem);
  return json as T;
}
