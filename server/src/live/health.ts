import { z } from 'zod';
import { fromThisMachine } from '../access/session.ts';
import type { App } from '../http/types.ts';
import type { Store } from '../store/store.ts';

/** The version answered by /api/health. */
export const VERSION = '0.2.0';

const Health = z.object({
  status: z.enum(['ok', 'opening', 'waiting']),
  version: z.string(),
  database: z.string(),
  /** For whoever sits at this machine. */
  details: z
    .object({
      lastSeq: z.int(),
      /** Room on the disk of an embedded workshop, bytes, and whether it is enough to enter anything. */
      freeBytes: z.number().nullable(),
      enoughRoom: z.boolean(),
      /** When the store was last copied beside the journal, and when it was last backed up elsewhere. */
      lastSnapshotAt: z.string().nullable(),
      lastBackupAt: z.string().nullable(),
      setAside: z.int(),
    })
    .optional(),
});

function statusOf(store: Store | null): 'ok' | 'opening' | 'waiting' {
  if (!store) return 'opening';
  return store.isAway() ? 'waiting' : 'ok';
}

async function detailsOf(store: Store): Promise<z.infer<typeof Health>['details']> {
  const free = store.room ? await store.room.freeBytes() : null;
  return {
    lastSeq: store.writer.lastSeq,
    freeBytes: free,
    enoughRoom: store.room ? await store.room.isEnough() : true,
    ...(await store.copies()),
    setAside: store.opened.setAside,
  };
}

/**
 * Whether the server lives, whether it can be worked with, and how it stands with its store.
 *
 * @param release the build the pages are of, by which those that are open know of an upgrade
 */
export function healthRoutes(app: App, current: () => Store | null, release: string | null): void {
  const tags = ['health'];
  app.get(
    '/api/health',
    {
      schema: {
        tags,
        summary:
          'Version, and whether the workshop is open and its database answers; on this machine also disk and copies',
        response: { 200: Health },
      },
    },
    async (request) => {
      const store = current();
      return {
        status: statusOf(store),
        version: VERSION,
        database: store?.kind ?? 'opening',
        ...(store && fromThisMachine(request) && { details: await detailsOf(store) }),
      };
    },
  );
  app.get(
    '/api/health/live',
    { schema: { tags, summary: '200 while the process answers at all' } },
    async () => ({ status: 'ok' }),
  );
  app.get(
    '/api/health/ready',
    {
      schema: {
        tags,
        summary: '200 while the workshop can be worked with, otherwise 503; and which build the pages are of',
      },
    },
    async (_request, reply) => {
      const status = statusOf(current());
      return reply.code(status === 'ok' ? 200 : 503).send({ status, release });
    },
  );
}
