import { MADE_AGO, type Problem } from '@wunsch/contract';

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

/** Whether what was asked for is not there, or can be nothing; anything else that goes wrong may pass. */
export const isMissing = (error: unknown): boolean =>
  error instanceof ApiProblem && [400, 404, 422].includes(error.problem.status);

/** Methods of the workshop's door. */
export type Method = 'GET' | 'PUT' | 'POST' | 'DELETE';

/** Turns an address of a workshop into one of this server. */
export type Address = (path: string) => string;

/** States with which whoever stands between says that the server is away or busy. */
const AWAY = new Set([408, 502, 503, 504]);

/**
 * What an answer says. Where it is none of ours (a page of whoever stands between: a guest network’s, a proxy’s) the server was not reached,
 * unless that turns this very request down.
 */
function readAnswer(text: string, { ok, status }: Response): unknown {
  if (text === '') return null;
  try {
    return JSON.parse(text) as unknown;
  } catch {
    if (ok || status >= 500) throw new ServerAway();
    throw new ApiProblem({
      type: 'about:blank',
      title: 'Refused on the way',
      status,
      code: 'refused-on-the-way',
      detail: `something between here and the workshop refused it (${status})`,
      params: { status: String(status) },
    });
  }
}

/** What goes along with a request beside its body. */
export interface Asked {
  /** The version a change was made from. */
  ifMatch?: number | undefined;
  /** How long ago an entry was made that is sent only now, s. */
  madeAgo?: number | undefined;
}

/**
 * One request to the server. Resolves to the reply's JSON (null when there is none).
 *
 * @throws ServerAway when it is not reached, is opening, or its answer does not arrive whole
 * @throws ApiProblem with what was wrong and what would be right
 */
export async function request<T>(
  method: Method,
  path: string,
  body?: unknown,
  { ifMatch, madeAgo }: Asked = {},
): Promise<T> {
  let response: Response;
  let text: string;
  try {
    response = await fetch(path, {
      method,
      credentials: 'same-origin',
      headers: {
        accept: 'application/json',
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(ifMatch !== undefined && { 'if-match': `"${ifMatch}"` }),
        ...(madeAgo !== undefined && { [MADE_AGO]: madeAgo.toFixed(1) }),
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
    text = await response.text();
  } catch {
    throw new ServerAway();
  }
  if (AWAY.has(response.status)) throw new ServerAway();
  const json = readAnswer(text, response);
  if (!response.ok) throw new ApiProblem(json as Problem);
  return json as T;
}
