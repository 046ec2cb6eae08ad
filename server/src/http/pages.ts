import fastifyStatic from '@fastify/static';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { nothingHere } from './problems.ts';
import type { App } from './types.ts';

/** The name of the build that pages come from, as it stands in them; null where there is none. */
export function releaseOf(web: string): string | null {
  const page = join(web, 'index.html');
  if (!existsSync(page)) return null;
  return /<meta name="release" content="([^"]+)"/.exec(readFileSync(page, 'utf8'))?.[1] ?? null;
}

/** The built pages; every address that is not a file or the API is the page itself, so that a link can be sent. */
export async function servePages(app: App, web: string): Promise<void> {
  await app.register(fastifyStatic, {
    root: web,
    preCompressed: true,
    setHeaders: (response, path) => {
      const isHashed = path.startsWith(join(web, 'assets'));
      response.header('cache-control', isHashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  app.setNotFoundHandler((request, reply) => {
    const path = request.url.split('?')[0]!;
    if (path.startsWith('/api/') || request.method !== 'GET' || /\.\w+$/.test(path)) throw nothingHere();
    return reply.header('cache-control', 'no-cache').sendFile('index.html');
  });
}
