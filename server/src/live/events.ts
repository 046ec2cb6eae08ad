import { and, asc, gt } from 'drizzle-orm';
import type { ChangeEvent } from '@wunsch/contract';
import { trail } from '../db/schema/index.ts';
import type { App } from '../app.ts';

/** Most missed changes sent one by one to a page that comes back; beyond that it reads everything afresh. */
const RESUME_LIMIT = 500;

/** Keeps proxies and browsers from closing a quiet stream, ms. */
const HEARTBEAT = 20_000;

/** Server-sent events: every change, resumable by `Last-Event-ID`. */
export function eventRoutes(app: App): void {
  app.get(
    '/api/events',
    {
      schema: { tags: ['live'], summary: 'Every change as a server-sent event; resumes after Last-Event-ID' },
    },
    async (request, reply) => {
      const { db, bus } = app.store();
      const since = Number(request.headers['last-event-id'] ?? Number.NaN);
      reply.hijack();
      const { raw } = reply;
      raw.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        connection: 'keep-alive',
        'x-accel-buffering': 'no',
      });
      const send = (event: ChangeEvent) => raw.write(`id: ${event.seq}\ndata: ${JSON.stringify(event)}\n\n`);
      let sent = Number.isFinite(since) ? since : -1;
      const waiting: ChangeEvent[] = [];
      let live = false;
      const unsubscribe = bus.subscribe(
        (event) => {
          if (!live) waiting.push(event);
          else if (event.seq > sent) send(event);
        },
        () => raw.end(),
      );
      raw.write('retry: 1000\n\n');
      if (Number.isFinite(since)) {
        const missed = await db
          .select({
            seq: trail.seq,
            kind: trail.kind,
            target: trail.target,
            batchId: trail.batchId,
            by: trail.personId,
          })
          .from(trail)
          .where(and(gt(trail.seq, since)))
          .orderBy(asc(trail.seq))
          .limit(RESUME_LIMIT);
        for (const event of missed) {
          send(event);
          sent = event.seq;
        }
      }
      live = true;
      waiting.filter((e) => e.seq > sent).forEach(send);
      const beat = setInterval(() => raw.write(': still here\n\n'), HEARTBEAT);
      request.raw.on('close', () => {
        clearInterval(beat);
        unsubscribe();
      });
    },
  );
}
