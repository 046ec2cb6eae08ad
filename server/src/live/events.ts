import type { LiveReadings } from '@wunsch/contract';
import { COOKIE } from '../access/session.ts';
import { whoIs } from '../access/whoIs.ts';
import { lastSeqOf } from '../commands/group.ts';
import type { App } from '../http/types.ts';
import type { BusEvent } from './bus.ts';
import { missedAfter } from './missed.ts';

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
          'Every change as a server-sent event, resumable after Last-Event-ID; events named readings and weight carry live values, those named clock the time on the server’s clock, one named missed says that more was missed than is sent again',
      },
    },
    async (request, reply) => {
      const { db, bus } = request.store;
      const since = lastSeen(request.headers['last-event-id']);
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
      let sent = since ?? -1;
      const waiting: BusEvent[] = [];
      let live = false;
      const take = (event: BusEvent) => {
        if (event.live) gather(event.live);
        else send(event);
      };
      const { id, role } = request.person!;
      // Signing out, a changed role or a session that has run out ends the stream too.
      const stillWelcome = async () => {
        const person = await whoIs(request.home, request.cookies[COOKIE]).catch(() => null);
        if (person?.id !== id || person.role !== role) raw.end();
      };
      const unwatch = request.home.bus.subscribe(
        ({ touches }) => {
          if (touches.includes('sessions') || touches.includes('people')) void stillWelcome();
        },
        () => raw.end(),
      );
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
      const { now } = request.store;
      const tellTime = () => raw.write(`event: clock\ndata: ${JSON.stringify({ now: now() })}\n\n`);
      const beat = setInterval(() => {
        tellTime();
        void stillWelcome();
      }, HEARTBEAT);
      request.raw.on('close', () => {
        clearInterval(beat);
        if (gathering) clearTimeout(gathering);
        unsubscribe();
        unwatch();
        unweigh();
      });
      raw.write('retry: 1000\n\n');
      tellTime();
      try {
        if (since !== null) {
          const missed = await missedAfter(db, since, RESUME_LIMIT + 1);
          if (missed.length <= RESUME_LIMIT) missed.forEach(send);
          else {
            const newest = await lastSeqOf(db);
            raw.write(`id: ${newest}\nevent: missed\ndata: {}\n\n`);
            sent = newest;
          }
          sent = Math.max(sent, missed.at(-1)?.seq ?? since);
        }
      } catch {
        // The page comes back by itself and asks again.
        raw.end();
      }
      live = true;
      waiting.filter((e) => e.seq > sent).forEach(take);
    },
  );
}

/** Number of the last change a page has seen; null where it is no whole number of one. */
function lastSeen(header: string | string[] | undefined): number | null {
  const seq = typeof header === 'string' && header.trim() !== '' ? Number(header) : Number.NaN;
  return Number.isSafeInteger(seq) && seq >= 0 ? seq : null;
}
