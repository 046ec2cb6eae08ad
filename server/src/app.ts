import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import fastifyStatic from '@fastify/static';
import swagger from '@fastify/swagger';
import Fastify, {
  type FastifyBaseLogger,
  type FastifyInstance,
  type FastifyTypeProvider,
  type RawReplyDefaultExpression,
  type RawRequestDefaultExpression,
  type RawServerDefault,
} from 'fastify';
import {
  hasZodFastifySchemaValidationErrors,
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
} from 'fastify-type-provider-zod';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Person } from '@wunsch/contract';
import { accessRoutes } from './access/routes.ts';
import { COOKIE, personOf } from './access/session.ts';
import { Problem } from './formats/problem.ts';
import { ledgerRoutes } from './ledger/routes.ts';
import { doorRoutes } from './live/door.ts';
import { eventRoutes } from './live/events.ts';
import { attachmentRoutes } from './stations/beans/attachments.ts';
import { beansRoutes } from './stations/beans/routes.ts';
import { grindRoutes } from './stations/grind/routes.ts';
import { machineRoutes } from './stations/grind/machines.ts';
import { trialRoutes } from './stations/recipe/trials.ts';
import { winnowRoutes } from './stations/winnow/routes.ts';
import { trapRoutes } from './stations/beans/traps.ts';
import { sampleRoutes } from './stations/beans/samples.ts';
import { recipeRoutes } from './stations/recipe/routes.ts';
import { roastRoutes } from './stations/roast/routes.ts';
import { sortRoutes } from './stations/sort/routes.ts';
import { tasteRoutes } from './stations/taste/routes.ts';
import type { Store } from './store.ts';
import { findRoutes } from './views/find.ts';

/** The version answered by /api/health. */
export const VERSION = '0.1.0';

declare module 'fastify' {
  interface FastifyRequest {
    person: Person | null;
  }
  interface FastifyContextConfig {
    /** Reachable without signing in. */
    public?: boolean;
  }
  interface FastifyInstance {
    /** The open store; throws a Problem while it is being opened. */
    store: () => Store;
    isOpen: () => boolean;
  }
}

/** Types of a request and a reply from their Zod schemas. The package's own provider loses them under bundler resolution. */
interface ZodTypeProvider extends FastifyTypeProvider {
  validator: this['schema'] extends z.ZodType ? z.output<this['schema']> : unknown;
  serializer: this['schema'] extends z.ZodType ? z.input<this['schema']> : unknown;
}

/** Fastify with Zod schemas. */
export type App = FastifyInstance<
  RawServerDefault,
  RawRequestDefaultExpression,
  RawReplyDefaultExpression,
  FastifyBaseLogger,
  ZodTypeProvider
>;

/** What the app is built from. */
export interface AppOptions {
  /** The store, or null while it is being opened: the page is answered at once all the same. */
  store: () => Store | null;
  /** Folder of the built pages; left out in tests of the routes. */
  web?: string;
  logger?: boolean;
}

/** Builds the server with all routes; it does not listen yet. */
export async function buildApp(options: AppOptions): Promise<App> {
  const app: App = Fastify({
    logger: options.logger ?? false,
    bodyLimit: 2 * 1024 * 1024,
    forceCloseConnections: true,
  }).withTypeProvider<ZodTypeProvider>();
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.decorate('isOpen', () => options.store() !== null);
  app.decorate('store', () => {
    const store = options.store();
    if (!store)
      throw new Problem({
        status: 503,
        code: 'opening',
        detail: 'the workshop is being opened; try again in a moment',
      });
    return store;
  });
  app.decorateRequest('person', null);
  answerProblems(app);
  await app.register(cookie);
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        // Charts and primitives set style attributes.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
    referrerPolicy: { policy: 'same-origin' },
  });
  await app.register(rateLimit, {
    global: false,
    errorResponseBuilder: (_, context) =>
      new Problem({
        status: 429,
        code: 'too-many-tries',
        detail: `too many tries; wait ${context.after}`,
        params: { after: context.after },
      }),
  });
  await app.register(swagger, {
    openapi: {
      openapi: '3.1.0',
      info: {
        title: 'Wunsch',
        version: VERSION,
        description:
          'The workshop’s one door: everything the pages do, any program signed in may do. Creating is an idempotent PUT with an id made by the client; masses are whole milligrams, temperatures °C, times UTC.',
      },
    },
    transform: jsonSchemaTransform,
  });
  for (const type of ['text/csv', 'text/plain'])
    app.addContentTypeParser(type, { parseAs: 'string' }, (_, body, done) => done(null, body));
  guard(app);

  app.get(
    '/api/health',
    {
      schema: {
        tags: ['health'],
        summary: 'Version and database',
        response: {
          200: z.object({ status: z.enum(['ok', 'opening']), version: z.string(), database: z.string() }),
        },
      },
      config: { public: true },
    },
    async () => {
      const store = options.store();
      return {
        status: store ? ('ok' as const) : ('opening' as const),
        version: VERSION,
        database: store?.kind ?? 'opening',
      };
    },
  );
  app.get('/api/openapi.json', { schema: { hide: true }, config: { public: true } }, async () =>
    app.swagger(),
  );
  accessRoutes(app);
  ledgerRoutes(app);
  beansRoutes(app);
  trapRoutes(app);
  sampleRoutes(app);
  attachmentRoutes(app);
  recipeRoutes(app);
  trialRoutes(app);
  machineRoutes(app);
  grindRoutes(app);
  winnowRoutes(app);
  roastRoutes(app);
  sortRoutes(app);
  tasteRoutes(app);
  findRoutes(app);
  doorRoutes(app);
  eventRoutes(app);
  if (options.web && existsSync(options.web)) await servePages(app, options.web);
  else
    app.setNotFoundHandler(() => {
      throw new Problem({ status: 404, code: 'no-such-address', detail: 'there is nothing at this address' });
    });
  await app.ready();
  return app;
}

/** Everyone signed in may read; writing is checked against the role of each entry. Requests from other sites are refused. */
function guard(app: App): void {
  app.addHook('onRequest', async (request) => {
    if (!request.url.startsWith('/api/')) return;
    const site = request.headers['sec-fetch-site'];
    if (
      request.method !== 'GET' &&
      request.method !== 'HEAD' &&
      site !== undefined &&
      site !== 'same-origin' &&
      site !== 'none'
    ) {
      throw new Problem({
        status: 403,
        code: 'other-site',
        detail: 'requests from other sites are not accepted',
      });
    }
    const isPublic = request.routeOptions.config.public === true;
    if (isPublic || !request.routeOptions.url) return;
    const { db } = app.store();
    request.person = await personOf(db, request.cookies[COOKIE], new Date().toISOString());
    if (!request.person) throw new Problem({ status: 401, code: 'signed-out', detail: 'sign in first' });
  });
}

function answerProblems(app: App): void {
  app.setErrorHandler(
    (error: Error & { statusCode?: number; code?: string; validation?: unknown }, request, reply) => {
      let problem: Problem;
      if (error instanceof Problem) problem = error;
      else if (hasZodFastifySchemaValidationErrors(error)) {
        const errors = error.validation.map((v) => ({
          field: v.instancePath.replace(/^\//, '').replaceAll('/', '.'),
          detail: v.message ?? 'not valid',
        }));
        const detail = errors.map((e) => (e.field ? `${e.field}: ${e.detail}` : e.detail)).join('; ');
        problem = new Problem({ status: 422, code: 'not-valid', detail, field: errors[0]?.field, errors });
      } else if (error.statusCode && error.statusCode < 500) {
        problem = new Problem({
          status: error.statusCode,
          code: (error.code ?? 'bad-request').toLowerCase().replaceAll('_', '-'),
          detail: error.message,
        });
      } else {
        request.log.error(error);
        if (process.env.WUNSCH_SHOW_ERRORS) console.error(error);
        problem = new Problem({
          status: 500,
          code: 'failed',
          detail: 'something went wrong on the server; nothing has been changed',
        });
      }
      if (problem.status === 503) reply.header('retry-after', '1');
      return reply
        .code(problem.status)
        .type('application/problem+json')
        .serializer(JSON.stringify)
        .send(problem.body());
    },
  );
}

/** The built pages; every address that is not a file or the API is the page itself, so that a link can be sent. */
async function servePages(app: App, web: string): Promise<void> {
  await app.register(fastifyStatic, {
    root: web,
    preCompressed: true,
    setHeaders: (response, path) => {
      const isHashed = path.startsWith(join(web, 'assets'));
      response.header('cache-control', isHashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
  });
  app.setNotFoundHandler((request, reply) => {
    if (
      request.url.startsWith('/api/') ||
      request.method !== 'GET' ||
      /\.\w+$/.test(request.url.split('?')[0]!)
    ) {
      throw new Problem({ status: 404, code: 'no-such-address', detail: 'there is nothing at this address' });
    }
    return reply.header('cache-control', 'no-cache').sendFile('index.html');
  });
}
