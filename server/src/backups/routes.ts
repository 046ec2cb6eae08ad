import { BackupsView } from '@wunsch/contract';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import type { BackupKeeper } from './keeper.ts';

function requireOwner(role: string): void {
  if (role !== 'owner')
    throw new Problem({ status: 403, code: 'not-allowed', detail: 'backups are for owners to look after' });
}

/** How it stands with the backups, and one now. */
export function backupRoutes(app: App, keeper: BackupKeeper): void {
  const tags = ['files'];
  app.get(
    '/api/backups',
    {
      schema: { tags, summary: 'How it stands with the backups; for owners', response: { 200: BackupsView } },
    },
    async (request) => {
      requireOwner(request.person!.role);
      return keeper.view();
    },
  );
  app.post(
    '/api/backups',
    { schema: { tags, summary: 'Back up now; answers when it is done', response: { 200: BackupsView } } },
    async (request) => {
      requireOwner(request.person!.role);
      const { folder } = await keeper.view();
      if (folder === null)
        throw new Problem({
          status: 409,
          code: 'no-backup-folder',
          detail:
            'no folder for backups was named; start Wunsch with WUNSCH_BACKUPS=<folder on another disk>',
        });
      await keeper.make();
      return keeper.view();
    },
  );
}
