import { useState } from 'react';
import type { BatchView } from '@wunsch/contract';
import { WORK_KINDS, type WorkKind } from '@wunsch/core/ledger';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useWords, type Words } from '../words/words.tsx';

/** Name of a kind of work: its station's, but for conching, which is done beside the grinder. */
export const workName = (kind: WorkKind, { t }: Words): string =>
  kind === 'conche' ? t('route.conche') : t(`station.${kind}`);

/** Chooses which work a batch passes through, or lets it follow its arrival, its recipe and the workshop's habit again. */
export function RouteDialog({ view, onClose }: { view: BatchView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { batch, flow } = view;
  const [route, setRoute] = useState<readonly WorkKind[]>(batch.route);
  const [error, setError] = useState<string | null>(null);
  const begun = new Set<string>(
    flow.stations.filter((s) => s.state === 'done' || s.state === 'running').map((s) => s.station),
  );
  const save = (chosen: readonly WorkKind[] | null) => {
    const { code, plannedMg, recipeId, barMg } = batch;
    send({
      path: `/api/batches/${batch.id}/facts`,
      body: { code, plannedMg, recipeId, barMg, route: chosen && [...chosen] },
      ifMatch: batch.version,
      label: t('done.route', { code: batch.code }),
      batchId: batch.id,
    }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('route', { code: batch.code })}
      description={t(batch.routeChosen ? 'route.chosen' : 'route.usual')}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          save(route);
        }}
      >
        <fieldset className="grid gap-x-4 sm:grid-cols-2">
          <legend className="sr-only">{t('route.work')}</legend>
          {WORK_KINDS.map((kind) => (
            <label key={kind} className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                checked={route.includes(kind)}
                onChange={(e) =>
                  setRoute(WORK_KINDS.filter((k) => (k === kind ? e.target.checked : route.includes(k))))
                }
                className="size-5 accent-(--violet-text)"
              />
              {workName(kind, words)}
              {begun.has(kind) && !route.includes(kind) && (
                <span className="text-[12px] text-ink-3">{t('route.begun')}</span>
              )}
            </label>
          ))}
        </fieldset>
        {error && (
          <p role="alert" className="text-[13px] text-bad">
            {error}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="main" big disabled={route.length === 0}>
            {t('route.keep')}
          </Button>
          {batch.routeChosen && (
            <Button big onClick={() => save(null)}>
              {t('route.follow')}
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
