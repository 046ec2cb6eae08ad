import { BellRing } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { ObservationRecord, ParcelRecord } from '@wunsch/contract';
import { REST_DEFAULTS, restState } from '@wunsch/core/rest';
import { useDoor, useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { TextArea } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { WORK_STOCK } from '../../shell/workStock.ts';

/** Blocks at rest: how long they have lain, where, when to taste them again, and what the tastings said. */
export default function RestPage() {
  const words = useWords();
  const { t } = words;
  const { data: stock } = useRead<ParcelRecord[]>(WORK_STOCK);
  const { data: tastings } = useRead<ObservationRecord[]>('/api/retastes');
  const blocks = (stock ?? []).filter((p) => p.material === 'blocks');
  const [low, high] = REST_DEFAULTS.celsius;
  return (
    <div className="p-3 sm:px-4">
      <h1 className="mb-1 text-[26px]">{t('rest.title')}</h1>
      <p className="mb-3 max-w-prose text-ink-2">
        {t('rest.text', {
          from: REST_DEFAULTS.weeks[0],
          to: REST_DEFAULTS.weeks[1],
          low: words.temperature(low, 0),
          high: words.temperature(high, 0),
        })}
      </p>
      {stock && blocks.length === 0 && (
        <EmptyState title={t('rest.empty')}>{t('rest.empty.text')}</EmptyState>
      )}
      <ul className="grid gap-2 lg:grid-cols-2">
        {blocks.map((b) => (
          <li key={b.id}>
            <Block
              block={b}
              tastings={(tastings ?? []).filter((o) => o.data.kind === 'retaste' && o.data.parcelId === b.id)}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}

function Block({ block, tastings }: { block: ParcelRecord; tastings: readonly ObservationRecord[] }) {
  const words = useWords();
  const { t } = words;
  const { now: clock } = useDoor();
  const now = useNow(60_000);
  const send = useEntryHere();
  const mayMake = useMayMake();
  const [tasting, setTasting] = useState(false);
  const state = restState(
    { castAt: Date.parse(block.madeAt), tastedAt: tastings.map((o) => Date.parse(o.at)) },
    now,
  );
  const remind = () =>
    send({
      path: `/api/observations/${newId()}`,
      body: {
        batchId: block.batchId,
        data: {
          kind: 'timer',
          label: t('rest.bell', { code: block.batchCode ?? '' }),
          dueAt: new Date(Math.max(state.tasteAt, clock() + 60_000)).toISOString(),
          calls: 'temper',
        },
      },
      label: t('done.timer'),
      batchId: block.batchId,
      undo: true,
    });
  return (
    <Panel
      title={
        block.batchId ? (
          <Link to={`/batch/${block.batchId}`} className="num underline-offset-4 hover:underline">
            {block.batchCode}
          </Link>
        ) : (
          block.label || words.word('material', block.material)
        )
      }
      aside={
        <Chip tone={state.state === 'ready' ? 'ok' : state.state === 'long' ? 'bad' : 'plain'}>
          {t(`rest.${state.state}`)}
        </Chip>
      }
    >
      <p>
        <span className="num text-[18px]">{words.mass(block.remainingMg)}</span>
        {block.count ? `, ${t('rest.pieces', { n: block.count })}` : ''} · {block.place || t('rest.no-place')}
      </p>
      <p className="text-ink-3">
        {t('rest.days', {
          n: words.number(state.days),
          ready: words.day(new Date(state.readyAt).toISOString()),
        })}
      </p>
      <p className={state.tasteAt <= now ? 'font-semibold' : 'text-ink-3'}>
        {t(state.tasteAt <= now ? 'rest.taste-since' : 'rest.taste-at', {
          day: words.day(new Date(state.tasteAt).toISOString()),
        })}
      </p>
      <ul className="my-2">
        {tastings.map((o) =>
          o.data.kind === 'retaste' ? (
            <li key={o.id} className="flex flex-wrap gap-3 border-b border-line py-1">
              <span className="text-ink-3">{words.day(o.at)}</span>
              {o.data.liking !== null && <span>{t('rest.liking', { n: o.data.liking })}</span>}
              {o.data.sourness !== null && <span>{t('rest.sourness', { n: o.data.sourness })}</span>}
              <span className="grow">{o.data.note}</span>
              <span className="text-ink-3">{o.by}</span>
            </li>
          ) : null,
        )}
      </ul>
      {mayMake && (
        <div className="flex flex-wrap gap-2">
          <Button look={state.tasteAt <= now ? 'main' : 'plain'} onClick={() => setTasting(true)}>
            {t('rest.taste')}
          </Button>
          <Button
            icon={<BellRing size={16} aria-hidden="true" />}
            onClick={() => void remind().catch(() => undefined)}
          >
            {t('rest.remind')}
          </Button>
          {block.batchId && (
            <Link
              to={`/temper/${block.batchId}`}
              className="inline-flex min-h-11 items-center rounded border border-edge px-4 text-[13.5px] font-semibold hover:bg-panel-2"
            >
              {t('rest.temper')}
            </Link>
          )}
        </div>
      )}
      {tasting && <Retaste block={block} onClose={() => setTasting(false)} />}
    </Panel>
  );
}

function Retaste({ block, onClose }: { block: ParcelRecord; onClose: () => void }) {
  const { t } = useWords();
  const send = useEntryHere();
  const [liking, setLiking] = useState<number | null>(null);
  const [sourness, setSourness] = useState<number | null>(null);
  const [note, setNote] = useState('');
  return (
    <FormDialog
      title={t('rest.taste')}
      description={block.batchCode ?? undefined}
      submit={t('sample.keep')}
      isReady={liking !== null || sourness !== null || note.trim() !== ''}
      onSubmit={() =>
        send({
          path: `/api/observations/${newId()}`,
          body: {
            batchId: block.batchId,
            data: { kind: 'retaste', parcelId: block.id, liking, sourness, note },
          },
          label: t('done.retaste', { code: block.batchCode ?? '' }),
          batchId: block.batchId,
          undo: true,
        })
      }
      onClose={onClose}
    >
      <QuantityField
        label={t('rest.liking.field')}
        dimension="number"
        value={liking}
        onChange={setLiking}
        min={0}
        max={10}
        optional
        autoFocus
      />
      <QuantityField
        label={t('rest.sourness.field')}
        dimension="number"
        value={sourness}
        onChange={setSourness}
        min={0}
        max={10}
        optional
      />
      <TextArea
        label={t('sample.words')}
        value={note}
        onChange={(e) => setNote(e.target.value)}
        maxLength={400}
      />
    </FormDialog>
  );
}
