import type {
  FastifyBaseLogger,
  FastifyInstance,
  FastifyTypeProvider,
  RawReplyDefaultExpression,
  RawRequestDefaultExpression,
  RawServerDefault,
} from 'fastify';
import type { z } from 'zod';
import type { Person } from '@wunsch/contract';
import type { Store } from '../store/store.ts';

/** Who may use a route: decided by the scope it is registered in, never by the text of its address. */
export type Guard = 'public' | 'device' | 'guest' | 'calendar' | 'person';

/** A route as it was registered. */
export interface RegisteredRoute {
  method: string;
  url: string;
  guard: Guard;
}

declare module 'fastify' {
  interface FastifyRequest {
    /** Who is signed in; null on public routes and device doors. */
    person: Person | null;
    /** The workshop this server keeps, where people sign in; throws a Problem while it is being opened. */
    home: Store;
    /** The workshop this request is about: a practice’s own, or the one this server keeps. */
    store: Store;
  }
  interface FastifyContextConfig {
    /** Whether its answers are the same for everyone signed in and may be kept; see `pageCache.ts`. */
    cached?: boolean;
  }
  interface FastifyInstance {
    /** Who may use the routes of this scope. */
    guard: Guard;
    /** Every route, in the order of registration. */
    registered: RegisteredRoute[];
    isOpen: () => boolean;
  }
}

/** Types of a request and a reply from their Zod schemas. The package's own provider loses them under bundler resolution. */
export interface ZodTypeProvider extends FastifyTypeProvider {
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
