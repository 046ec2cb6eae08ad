import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import { isFirstRunCode } from '../access/firstRunCode.ts';
import { fromThisMachine } from '../access/session.ts';
import { workshop } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { NewerDataError } from '../store/format.ts';
import { workshopExists } from '../workshop/handlers.ts';
import { ArchiveError, type Manifest } from './manifest.ts';
import { manifestOf } from './read.ts';
import { writeArchive } from './write.ts';

/** Largest archive taken from a browser, bytes; a larger one is put back on the command line. */
const LARGEST = 4e9;

/** Most archives put back from one address in an hour. */
const TRIES = { max: 12, timeWindow: 3_600_000 };

/** Puts an archive into the empty workshop that is open, and opens it again. */
export type Restore = (path: string) => Promise<Manifest>;

/** The whole workshop as one file, to take away. */
export function archiveRoutes(app: App): void {
  let writing = false;
  app.get(
    '/api/archive.zip',
    {
      schema: {
        tags: ['files'],
        summary:
          'The whole workshop as a zip: JSON lines, photographs, schemas and checksums; streamed, for owners',
      },
    },
    async (request, reply) => {
      if (request.person!.role !== 'owner')
        throw new Problem({
          status: 403,
          code: 'not-allowed',
          detail: 'the whole workshop, people’s passwords (hashed) among it, is for owners to take away',
        });
      if (writing)
        throw new Problem({
          status: 409,
          code: 'archive-under-way',
          detail: 'an archive is being written already; wait until it is done',
        });
      writing = true;
      const { store } = request;
      const out = new PassThrough();
      // A download that is broken off ends the reading as well.
      reply.raw.once('close', () => out.destroy());
      try {
        const still = await store.aside();
        void writeArchive(still.db, { now: store.now(), take: (zip) => pipeline(zip, out) })
          .catch((error: unknown) => {
            if (!out.destroyed) request.log.error(error, 'the archive could not be finished');
            out.destroy(error as Error);
          })
          .finally(() => {
            writing = false;
            void still.close().catch(() => undefined);
          });
      } catch (error) {
        writing = false;
        throw error;
      }
      const day = new Date(store.now()).toISOString().slice(0, 10);
      return reply
        .type('application/zip')
        .header('content-disposition', `attachment; filename="wunsch-${day}.zip"`)
        .send(out);
    },
  );
}

const Restored = z.object({
  workshop: z.string(),
  entries: z.number(),
  rows: z.number(),
  madeAt: z.string(),
});

/** Putting an archive into an empty workshop. */
export function restoreRoutes(
  app: App,
  { restore, firstRunCode }: { restore: Restore; firstRunCode: string | null },
): void {
  // It goes to the disk as it comes, not into memory.
  app.addContentTypeParser('application/zip', (_, payload, done) => done(null, payload));
  app.post(
    '/api/restore',
    {
      schema: {
        tags: ['files'],
        summary:
          'Put a whole workshop’s archive (application/zip) back; only while there is no workshop, and with the printed code where others could come first',
        headers: z.object({ 'first-run-code': z.string().max(64).optional() }),
        response: { 201: Restored },
      },
      config: { rateLimit: { ...TRIES, allowList: (request: FastifyRequest) => fromThisMachine(request) } },
    },
    async (request, reply) => {
      const [there] = await request.store.db.select({ id: workshop.id }).from(workshop);
      if (there) throw workshopExists();
      if (firstRunCode !== null && !isFirstRunCode(request.headers['first-run-code'], firstRunCode))
        throw new Problem({
          status: 403,
          code: 'first-run-code',
          field: 'code',
          detail: 'this needs the code that is printed in the terminal where Wunsch was started',
        });
      if (!(request.headers['content-type'] ?? '').startsWith('application/zip'))
        throw new Problem({
          status: 415,
          code: 'not-that-type',
          detail: 'an archive is sent as application/zip',
        });
      const folder = await mkdtemp(join(tmpdir(), 'wunsch-restore-'));
      try {
        const path = join(folder, 'archive.zip');
        await pipeline(request.body as IncomingMessage, atMost, createWriteStream(path));
        const {
          workshop: name,
          lastSeq,
          tables,
          madeAt,
        } = await told(async () => {
          await manifestOf(path);
          return restore(path);
        });
        void reply.status(201);
        return { workshop: name, entries: lastSeq, rows: tables.reduce((n, t) => n + t.rows, 0), madeAt };
      } finally {
        await rm(folder, { recursive: true, force: true });
      }
    },
  );
}

async function* atMost(parts: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let sum = 0;
  for await (const part of parts) {
    sum += part.length;
    if (sum > LARGEST)
      throw new Problem({
        status: 413,
        code: 'too-large',
        detail: 'an archive this large is put back on the command line: npm run restore',
      });
    yield part;
  }
}

/** What is the matter with an archive, as an answer. */
async function told<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ArchiveError || error instanceof NewerDataError)
      throw new Problem({
        status: 422,
        code: error instanceof NewerDataError ? 'archive-newer' : 'archive-damaged',
        detail: error.message,
      });
    throw error;
  }
}
