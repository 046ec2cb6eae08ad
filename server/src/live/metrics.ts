import { timingSafeEqual } from 'node:crypto';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { FastifyRequest } from 'fastify';
import { fromThisMachine } from '../access/session.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import type { Store } from '../store/store.ts';

/** Upper ends of the classes of answer times, s. */
const CLASSES = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10];

function requireReader(request: FastifyRequest, setting: string): void {
  if (setting === 'yes') {
    if (fromThisMachine(request)) return;
  } else {
    const [given, wanted] = [request.headers.authorization ?? '', `Bearer ${setting}`].map((t) =>
      Buffer.from(t),
    );
    if (given!.length === wanted!.length && timingSafeEqual(given!, wanted!)) return;
  }
  throw new Problem({
    status: 403,
    code: 'metrics',
    detail:
      setting === 'yes'
        ? 'the metrics are read on this machine only; set WUNSCH_METRICS to a token to read them from elsewhere'
        : 'send the token of WUNSCH_METRICS as Authorization: Bearer …',
  });
}

/**
 * `GET /api/metrics` in the text format of Prometheus: answers by route and status with their times, entries, open pages, and
 * the process itself. It is there only where the variable WUNSCH_METRICS switches it on.
 *
 * @param setting `yes` for this machine only, or a token that must be brought
 */
export function metricsRoutes(app: App, current: () => Store | null, setting: string): void {
  const registers = [new Registry()];
  const [registry] = registers as [Registry];
  collectDefaultMetrics({ register: registry });
  const answers = new Histogram({
    name: 'wunsch_http_seconds',
    help: 'Time to an answer, s',
    labelNames: ['method', 'route', 'status'],
    buckets: CLASSES,
    registers,
  });
  const refused = new Counter({
    name: 'wunsch_refused_total',
    help: 'Entries and requests refused, by code',
    labelNames: ['code'],
    registers,
  });
  new Gauge({
    name: 'wunsch_entries',
    help: 'Number of the last entry',
    registers,
    collect() {
      this.set(current()?.writer.lastSeq ?? 0);
    },
  });
  new Gauge({
    name: 'wunsch_ready',
    help: '1 while the workshop is open and its database answers',
    registers,
    collect() {
      const store = current();
      this.set(store && !store.isAway() ? 1 : 0);
    },
  });
  app.addHook('onResponse', async (request, reply) => {
    const route = request.routeOptions.url ?? 'none';
    // A stream of events is open for hours: its time says nothing.
    if (route === '/api/events') return;
    answers.observe({ method: request.method, route, status: reply.statusCode }, reply.elapsedTime / 1000);
  });
  app.addHook('onError', async (_request, _reply, error) => {
    if (error instanceof Problem) refused.inc({ code: error.code });
  });
  app.get(
    '/api/metrics',
    {
      schema: {
        tags: ['health'],
        summary: 'Figures of this server for Prometheus, where they are switched on',
      },
    },
    async (request, reply) => {
      requireReader(request, setting);
      return reply.type(registry.contentType).send(await registry.metrics());
    },
  );
}
