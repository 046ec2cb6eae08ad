import { Readable } from 'node:stream';
import type { FastifyRequest } from 'fastify';
import { COOKIE } from '../access/session.ts';
import { whoIs } from '../access/whoIs.ts';
import { Problem } from './problem.ts';
import { requireStorable } from './storable.ts';
import type { App, Guard } from './types.ts';

function refuse(detail: string): never {
  throw new Problem({ status: 403, code: 'other-site', detail });
}

/** Refuses to change anything for another site: by what the browser says of the request, and by its origin where it says nothing. */
function requireSameSite(request: FastifyRequest): void {
  if (request.method === 'GET' || request.method === 'HEAD' || request.method === 'OPTIONS') return;
  const site = request.headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none')
    refuse('requests from other sites are not accepted');
  const origin = request.headers.origin;
  if (origin === undefined || site !== undefined) return;
  let host: string | null = null;
  try {
    host = new URL(origin).host;
  } catch {
    // "null" and other words that are no address.
  }
  if (host === null || host !== request.headers.host)
    refuse(`requests from ${origin.slice(0, 100)} are not accepted`);
}

/** What holds for every route: no other site's requests, and nothing in a request that no store can hold. */
export function guardAll(app: App): void {
  app.addHook('onRequest', async (request) => requireSameSite(request));
  app.addHook('preValidation', async (request) => {
    if (request.is404) return;
    requireStorable(request.params, '');
    requireStorable(request.query, '');
    // What goes to the disk as it comes is looked at by whoever reads it there.
    if (!(request.body instanceof Readable)) requireStorable(request.body, '');
  });
  app.addHook('onRoute', (route) => {
    for (const method of [route.method].flat())
      if (method !== 'HEAD') app.registered.push({ method, url: route.url, guard: 'public' });
  });
}

/**
 * Opens a scope whose routes share a guard. In the scope `person` a hook runs for every route registered there, so that no
 * spelling of an address gets past it.
 */
export async function scope(app: App, guard: Guard, routes: (app: App) => void): Promise<void> {
  await app.register(async (plain) => {
    const inner = plain as unknown as App;
    inner.addHook('onRoute', (route) => {
      for (const known of inner.registered)
        if (known.url === route.url && [route.method].flat().includes(known.method)) known.guard = guard;
    });
    if (guard === 'person')
      inner.addHook('onRequest', async (request) => {
        request.person = await whoIs(request.home, request.cookies[COOKIE]);
        if (!request.person) throw new Problem({ status: 401, code: 'signed-out', detail: 'sign in first' });
      });
    routes(inner);
  });
}
