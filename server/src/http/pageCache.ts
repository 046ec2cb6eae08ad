import { createHash } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { isStale } from '@wunsch/contract';
import type { Store } from '../store/store.ts';
import type { App } from './types.ts';

/** An answer is never older than this, ms: what pages tell of the clock moves on by itself. */
const GOOD_FOR = 3000;

/** Most answers kept, and the largest, characters. */
const MOST = 300;
const LARGEST = 4_000_000;

interface Kept {
  payload: string;
  etag: string;
  /** Epoch ms. */
  until: number;
}

/** An answer being drawn up: others who ask for the same wait for it. */
interface Making {
  /** Resolves to the answer, or to nothing where it cannot be shared. */
  answer: Promise<Kept | null>;
  end: (kept: Kept | null) => void;
  /** Whether something it is drawn from has changed since it was begun. */
  isSpoiled: boolean;
}

/** The answers of one workshop, by address, dropped as soon as an entry touches what they are drawn from. */
class PageCache {
  private readonly kept = new Map<string, Kept>();
  private readonly making = new Map<string, Making>();

  constructor(store: Store) {
    store.bus.whenChanged((change) => {
      for (const url of this.kept.keys()) if (!change || isStale(url, change)) this.kept.delete(url);
      for (const [url, making] of this.making) making.isSpoiled ||= !change || isStale(url, change);
    });
  }

  /** The answer kept for an address, or one just being made by another; nothing where whoever asks has to make it. */
  find(url: string): Kept | Promise<Kept | null> | null {
    const kept = this.kept.get(url);
    if (kept && kept.until > Date.now()) return kept;
    const making = this.making.get(url);
    return making && !making.isSpoiled ? making.answer : null;
  }

  /** Begins an answer that others may wait for. */
  begin(url: string): Making {
    let end: Making['end'] = () => undefined;
    const answer = new Promise<Kept | null>((resolve) => (end = resolve));
    const making: Making = { answer, end, isSpoiled: false };
    this.making.set(url, making);
    return making;
  }

  /** Ends an answer: it is kept where it is whole and nothing has changed meanwhile. */
  end(url: string, making: Making, payload: string | null): Kept | null {
    if (this.making.get(url) === making) this.making.delete(url);
    const kept = payload === null ? null : { payload, etag: etagOf(payload), until: Date.now() + GOOD_FOR };
    making.end(making.isSpoiled ? null : kept);
    if (kept && !making.isSpoiled && kept.payload.length <= LARGEST) {
      if (this.kept.size >= MOST) this.kept.delete(this.kept.keys().next().value!);
      this.kept.set(url, kept);
    }
    return kept;
  }
}

const etagOf = (payload: string) => `"${createHash('sha1').update(payload).digest('base64url')}"`;

const mayCache = (request: FastifyRequest) =>
  request.method === 'GET' &&
  // Other spellings of an address are answered, and not kept.
  request.url.startsWith('/api/') &&
  request.routeOptions.config.cached === true &&
  !request.store.isAway();

function send(request: FastifyRequest, reply: FastifyReply, { payload, etag }: Kept): FastifyReply {
  reply.header('etag', etag).header('cache-control', 'private, no-cache');
  if (request.headers['if-none-match'] === etag) return reply.code(304).send();
  return reply.type('application/json; charset=utf-8').serializer(String).send(payload);
}

/**
 * Answers of routes with `config: { cached: true }` are the same for everyone signed in: they are drawn up once for all who ask
 * at the same time, kept until an entry touches what they are drawn from, and not sent again to a page that has them (ETag).
 */
export function cachePages(app: App): void {
  const caches = new WeakMap<Store, PageCache>();
  const cacheOf = (store: Store) => {
    const cache = caches.get(store) ?? new PageCache(store);
    caches.set(store, cache);
    return cache;
  };
  const open = new WeakMap<FastifyRequest, Making>();
  app.addHook('preHandler', async (request, reply) => {
    if (!mayCache(request)) return;
    const cache = cacheOf(request.store);
    // Whose answer was spoilt by a change looks again: one of those who waited makes it anew, and the others wait for that one.
    // Between finding nothing and beginning, nobody else may begin: no await lies there.
    for (let found = cache.find(request.url); found; found = cache.find(request.url)) {
      const kept = found instanceof Promise ? await found : found;
      if (kept) return send(request, reply, kept);
    }
    open.set(request, cache.begin(request.url));
    return;
  });
  app.addHook('onSend', async (request, reply, payload) => {
    const making = open.get(request);
    if (!making) return payload;
    open.delete(request);
    const isWhole = reply.statusCode === 200 && typeof payload === 'string';
    const kept = cacheOf(request.store).end(request.url, making, isWhole ? payload : null);
    if (!kept) return payload;
    reply.header('etag', kept.etag).header('cache-control', 'private, no-cache');
    if (request.headers['if-none-match'] !== kept.etag) return payload;
    reply.code(304).removeHeader('content-length');
    return null;
  });
  // Whoever hangs up, or is answered by a failure, keeps nobody waiting.
  app.addHook('onResponse', async (request) => {
    const making = open.get(request);
    if (making) cacheOf(request.store).end(request.url, making, null);
  });
}
