import type { ProblemCode } from '@wunsch/contract';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { hasZodFastifySchemaValidationErrors } from 'fastify-type-provider-zod';
import { isDatabaseAway } from '../db/away.ts';
import { Problem } from './problem.ts';
import { refusedFields } from './refusedFields.ts';
import type { App } from './types.ts';

/** The error as the reader is told of it; what is no refusal of ours is logged and answered as 500. */
function asProblem(error: Error & { statusCode?: number; code?: string }, request: FastifyRequest): Problem {
  if (error instanceof Problem) return error;
  if (hasZodFastifySchemaValidationErrors(error)) {
    return refusedFields(
      error.validation.map((v) => ({
        ...v.params,
        path: v.instancePath.split('/').filter(Boolean),
        code: v.keyword,
        message: v.message ?? 'not valid',
      })),
    );
  }
  if (error.statusCode && error.statusCode < 500)
    return new Problem({
      status: error.statusCode,
      code: codeOf(error.code),
      detail: error.message,
    });
  if (isDatabaseAway(error))
    return new Problem({
      status: 503,
      code: 'database-away',
      detail: 'the database does not answer at the moment; nothing has been changed, try again in a moment',
    });
  request.log.error(error);
  if (process.env.WUNSCH_SHOW_ERRORS) console.error(error);
  return new Problem({
    status: 500,
    code: 'failed',
    detail: 'something went wrong on the server; nothing has been changed',
  });
}

function send(reply: FastifyReply, problem: Problem): FastifyReply {
  if (problem.status === 503) reply.header('retry-after', '1');
  return reply
    .code(problem.status)
    .type('application/problem+json')
    .serializer(JSON.stringify)
    .send(problem.body());
}

/** Every refusal is answered as problem details (RFC 9457). */
export function answerProblems(app: App): void {
  app.setErrorHandler((error: Error & { statusCode?: number; code?: string }, request, reply) =>
    send(reply, asProblem(error, request)),
  );
}

/** Addresses that never reach a route: over-long, or not decodable. */
export function answerBadAddress(error: Error, request: FastifyRequest, reply: FastifyReply): void {
  void send(
    reply,
    new Problem({
      status: 400,
      code: 'bad-address',
      detail: `this address cannot be read: ${error.message.slice(0, 200)}`,
    }),
  );
  void request;
}

/** 404 for an address with nothing at it. */
export function nothingHere(): Problem {
  return new Problem({ status: 404, code: 'no-such-address', detail: 'there is nothing at this address' });
}

/** The web server’s own code of an error, as one of ours. */
function codeOf(code: string | undefined): ProblemCode {
  const written = code?.toLowerCase().replaceAll('_', '-') ?? '';
  return written.startsWith('fst-') ? (written as ProblemCode) : 'bad-request';
}
