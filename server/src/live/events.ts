import { and, asc, gt } from 'drizzle-orm';
import type { LiveReadings } from '@wunsch/contract';
import { trail } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import type { BusEvent } from './bus.ts';

/** Most missed changes sent one by one to a page that comes back; beyond that it reads everything afresh. */
const RESUME_LIMIT = 500;

/** Keeps proxies and browsers from closing a quiet stream, ms. */
const HEARTBEAT = 20_000;

/** Readings are gathered this long before they go out, ms: many boards, few messages. */
const GATHER = 200;

/** Server-sent events: every change, resumable by `Last-Event-ID`; readings as they come in; what a scale shows. */
export function eventRoutes(app: App): void {
  app.get(
    '/api/events',
    {
      schema: {
        tags: ['live'],
        summary:
          'Every change as a server-sent event, resumable after Last-Event-ID; events named readings and weight carry live values',
      },
    },
    async (request, reply) => {
      const { db, bus } = request.store;
      const since = Number(request.headers['last-event-id'] ?? Number.NaN);
      reply.hijack();
      const { raw } = reply;
      raw.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        connection: 'keep-alive',
        'x-accel-buffering': 'no',
      });
      const send = ({ live: _, ...event }: BusEvent) =>
        raw.write(`id: ${event.seq}\ndata: ${JSON.stringify(event)}\n\n`);
      const gathered = new Map<string, LiveReadings>();
      let gathering: ReturnType<typeof setTimeout> | null = null;
      const gather = (live: LiveReadings) => {
        const key = [live.stepId, live.place, live.probe].join('\n');
        const so = gathered.get(key);
        if (so) {
          so.at.push(...live.at);
          so.celsius.push(...live.celsius);
        } else gathered.set(key, { ...live, at: [...live.at], celsius: [...live.celsius] });
        gathering ??= setTimeout(() => {
          gathering = null;
          const all = [...gathered.values()];
          gathered.clear();
          raw.write(`event: readings\ndata: ${JSON.stringify(all)}\n\n`);
        }, GATHER);
      };
      let sent = Number.isFinite(since) ? since : -1;
      const waiting: BusEvent[] = [];
      let live = false;
      const take = (event: BusEvent) => {
        if (event.live) gather(event.live);
        else send(event);
      };
      const unsubscribe = bus.subscribe(
        (event) => {
          if (!live) waiting.push(event);
          else if (event.seq > sent) take(event);
        },
        () => raw.end(),
      );
      const unweigh = bus.onWeight((weight) =>
        raw.write(`event: weight\ndata: ${JSON.stringify(weight)}\n\n`),
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
            touches: trail.touches,
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
      waiting.filter((e) => e.seq > sent).forEach(take);
      const beat = setInterval(() => raw.write(': still here\n\n'), HEARTBEAT);
      request.raw.on('close', () => {
        clearInterval(beat);
        if (gathering) clearTimeout(gathering);
        unsubscribe();
        unweigh();
      });
    },
  );
}
