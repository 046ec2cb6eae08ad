import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import swagger from '@fastify/swagger';
import Fastify, { type FastifyRequest } from 'fastify';
import { jsonSchemaTransform, serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import { existsSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { addressRoutes } from './access/addresses.ts';
import { entranceRoutes } from './access/entrance.ts';
import { accessRoutes } from './access/routes.ts';
import { sessionRoutes } from './access/sessions.ts';
import { Tries } from './access/tries.ts';
import { answerBadAddress, answerProblems, nothingHere } from './http/problems.ts';
import { guardAll, scope } from './http/guard.ts';
import { cachePages } from './http/pageCache.ts';
import { releaseOf, servePages } from './http/pages.ts';
import { Problem } from './http/problem.ts';
import type { App, ZodTypeProvider } from './http/types.ts';
import { healthRoutes, VERSION } from './live/health.ts';
import { handlers } from './commands/registry.ts';
import { archiveRoutes, restoreRoutes, type Restore } from './archive/routes.ts';
import { BackupKeeper } from './backups/keeper.ts';
import { backupRoutes } from './backups/routes.ts';
import { attachmentRoutes } from './attachments/attachments.ts';
import { putEntry } from './http/entries.ts';
import { ledgerRoutes } from './ledger/routes.ts';
import { importRoutes } from './imports/routes.ts';
import { machineRoutes } from './machines/routes.ts';
import { readingsRoutes } from './readings/routes.ts';
import { Practices } from './practice/practices.ts';
import { monthRoutes } from './months/routes.ts';
import { practiceRoutes } from './practice/routes.ts';
import { setAsideRoutes } from './workshop/setAside.ts';
import { metricsRoutes } from './live/metrics.ts';
import { doorRoutes } from './live/door/routes.ts';
import { eventRoutes } from './live/events.ts';
import { calendarRoutes } from './plan/calendar.ts';
import { planRoutes } from './plan/routes.ts';
import { guestRoutes } from './stations/taste/guests.ts';
import { classGuestRoutes, classRoutes } from './classes/routes.ts';
import { pageRoutes, publicBarRoutes } from './publicBar/routes.ts';
import { skillRoutes } from './skills/routes.ts';
import { stationRooms } from './stations/rooms.ts';
import type { Store } from './store/store.ts';
import { stockRoutes } from './stock/routes.ts';
import { traceRoutes } from './trace/routes.ts';
import { caseRoutes } from './cases/routes.ts';
import { costRoutes } from './cost/routes.ts';
import { formatRoutes } from './formats/routes.ts';
import { findRoutes } from './views/find.ts';
import { forecastRoutes } from './views/forecastBook.ts';
import { warningRoutes } from './views/warningBook.ts';
import { yieldRoutes } from './views/yieldBook.ts';
import { trailRoutes } from './views/trail.ts';

/** What the app is built from. */
export interface AppOptions {
  /** The store, or null while it is being opened: the page is answered at once all the same. */
  store: () => Store | null;
  /** Folder of the built pages; left out in tests of the routes. */
  web?: string;
  /** Structured lines on standard output, from this level on. */
  log?: string;
  /** Served with it over HTTPS; plain HTTP without. */
  certificate?: { key: string; cert: string } | null;
  /** A proxy on this machine says for whom it asks. */
  behindProxy?: boolean;
  /** Where the figures of the server may be read; see {@link metricsRoutes}. */
  metrics?: string;
  /** Addresses under which other devices reach the server. */
  addresses?: () => string[];
  /** Looks after the backups; one without a folder where left out. */
  backups?: BackupKeeper;
  /** Puts an archive into an empty workshop; left out where that cannot be done from a page. */
  restore?: Restore;
  /** The code a first run must bring, where others could reach the server before its owner. */
  firstRunCode?: string | null;
}

/** Address of a practice: its id, and the address within. */
const PRACTICE = /^\/practice\/([\w-]{12})(\/api\/.*)$/;

/** Longest id in an address; what is longer is no id of ours. */
const LONGEST_PARAMETER = 200;

/** Builds the server with all routes; it does not listen yet. */
export async function buildApp(options: AppOptions): Promise<App> {
  const practices = new Practices();
  const practiceOf = new WeakMap<IncomingMessage, string>();
  const app: App = Fastify({
    // A practice is at work at the same routes under an address of its own; who may ask is decided by the route all the same.
    rewriteUrl(request) {
      const [, id, rest] = PRACTICE.exec(request.url ?? '') ?? [];
      if (id === undefined || rest === undefined) return request.url ?? '/';
      practiceOf.set(request, id);
      return rest;
    },
    logger: options.log ? { level: options.log } : false,
    bodyLimit: 2 * 1024 * 1024,
    forceCloseConnections: 'idle',
    trustProxy: options.behindProxy ? 'loopback' : false,
    ...(options.certificate && { https: { key: options.certificate.key, cert: options.certificate.cert } }),
    routerOptions: { maxParamLength: LONGEST_PARAMETER },
    frameworkErrors: answerBadAddress,
  }).withTypeProvider<ZodTypeProvider>();
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.decorate('registered', []);
  app.decorate('isOpen', () => options.store() !== null);
  app.decorateRequest('person', null);
  app.decorateRequest('home', {
    getter() {
      const store = options.store();
      if (!store)
        throw new Problem({
          status: 503,
          code: 'opening',
          detail: 'the workshop is being opened; try again in a moment',
        });
      return store;
    },
  });
  app.decorateRequest('store', {
    getter(this: FastifyRequest) {
      const id = practiceOf.get(this.raw);
      if (id === undefined) return this.home;
      const practice = this.person && practices.of(id, this.person.id);
      if (!practice)
        throw new Problem({
          status: 404,
          code: 'no-practice',
          detail: 'this practice has ended, or is somebody else’s; begin another one',
        });
      return practice.store;
    },
  });
  app.addHook('onClose', () => practices.close());
  answerProblems(app);
  await registerPlugins(app);
  guardAll(app);
  const tries = new Tries();

  // Streams never end by themselves; everything else is let finish.
  app.addHook('preClose', async () => options.store()?.bus.close());

  await scope(app, 'public', (open) => {
    if (options.metrics) metricsRoutes(app, options.store, options.metrics);
    healthRoutes(open, options.store, options.web ? releaseOf(options.web) : null);
    entranceRoutes(open, { tries, firstRunCode: options.firstRunCode ?? null });
    open.get('/api/openapi.json', { schema: { hide: true } }, async () => app.swagger());
  });
  const { restore } = options;
  if (restore)
    await scope(app, 'public', (open) =>
      restoreRoutes(open, { restore, firstRunCode: options.firstRunCode ?? null }),
    );
  await scope(app, 'device', doorRoutes);
  await scope(app, 'guest', guestRoutes);
  await scope(app, 'public', publicBarRoutes);
  await scope(app, 'guest', classGuestRoutes);
  await scope(app, 'calendar', calendarRoutes);
  await scope(app, 'person', (signedIn) => {
    cachePages(signedIn);
    const guard = { isExposed: typeof options.firstRunCode === 'string' };
    sessionRoutes(signedIn, tries, guard);
    accessRoutes(signedIn, guard);
    addressRoutes(signedIn, options.addresses ?? (() => []));
    for (const handler of handlers) putEntry(signedIn, handler);
    ledgerRoutes(signedIn);
    attachmentRoutes(signedIn);
    machineRoutes(signedIn);
    readingsRoutes(signedIn);
    setAsideRoutes(signedIn);
    practiceRoutes(signedIn, practices);
    for (const room of stationRooms) room.routes(signedIn);
    planRoutes(signedIn);
    stockRoutes(signedIn);
    traceRoutes(signedIn);
    costRoutes(signedIn);
    caseRoutes(signedIn);
    classRoutes(signedIn);
    pageRoutes(signedIn);
    formatRoutes(signedIn);
    archiveRoutes(signedIn);
    importRoutes(signedIn);
    skillRoutes(signedIn);
    monthRoutes(signedIn);
    backupRoutes(
      signedIn,
      options.backups ?? new BackupKeeper({ folder: null, directory: null, store: options.store }),
    );
    findRoutes(signedIn);
    yieldRoutes(signedIn);
    forecastRoutes(signedIn);
    warningRoutes(signedIn);
    trailRoutes(signedIn, handlers);
    eventRoutes(signedIn);
  });
  if (options.web && existsSync(options.web)) await servePages(app, options.web);
  else
    app.setNotFoundHandler(() => {
      throw nothingHere();
    });
  await app.ready();
  return app;
}

async function registerPlugins(app: App): Promise<void> {
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
    // A certificate of our own is no reason to lock a browser out once it runs over.
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
}
