import { useState } from 'react';
import type { TraceView } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { useWords, type Words } from '../../words/words.tsx';

/** Days of deliveries to one customer that are told one by one. */
const FEW_DAYS = 4;

/** Runs on the same machines shown at once. */
const FEW_RUNS = 8;

/** What a recall must know: how much is accounted for, what is set aside with one tap, whom to tell, and what else ran on the machines. */
export function RecallSide({ view, onKept }: { view: TraceView; onKept: () => void }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [asking, setAsking] = useState(false);
  const { recall } = view;
  if (!recall) return null;
  const barsHere = recall.here.reduce(
    (sum, h) => sum + (h.material === 'bars' && !h.onHold ? (h.count ?? 0) : 0),
    0,
  );
  return (
    <div className="grid gap-4 p-4">
      <section>
        <div className="flex justify-between text-[12.5px] text-ink-3">
          <span>{t('recall.scope')}</span>
          <span>{t('recall.took', { s: words.number(view.tookMs / 1000, 2) })}</span>
        </div>
        <p className="text-[22px] font-bold leading-tight">{view.name}</p>
        <p className="mt-1 text-[13.5px]">{t('recall.batches', { n: recall.batches.length })}</p>
        <p className="num mt-3 text-[30px] font-semibold leading-none">
          {words.percent(recall.barsKnown ?? recall.massKnown, 1)}
        </p>
        <p className="text-[12.5px] text-ink-2">
          {recall.barsKnown === null
            ? t('recall.known.mass')
            : t('recall.known', { mass: words.percent(recall.massKnown, 1) })}
        </p>
      </section>
      <section className="rounded border border-line-2 p-3">
        {recall.toSetAside.length > 0 ? (
          <>
            <h2 className="text-[16px]">
              {barsHere > 0
                ? t('recall.bars-here', { n: barsHere })
                : t('recall.parcels-here', { n: recall.toSetAside.length })}
            </h2>
            <p className="mt-1 text-[13px] text-ink-2">{t('recall.set-aside.text')}</p>
          </>
        ) : (
          <p className="text-[13.5px]">{t('recall.nothing-free')}</p>
        )}
        {mayMake && (
          <Button look="main" className="mt-3 w-full" onClick={() => setAsking(true)}>
            {t('recall.keep')}
          </Button>
        )}
      </section>
      <section>
        <h2 className="text-[13px] font-semibold text-ink-3">{t('recall.tell')}</h2>
        {recall.customers.length + recall.nameless.length === 0 ? (
          <p className="mt-1 text-[13.5px]">{t('recall.nobody')}</p>
        ) : (
          <ul className="mt-1 divide-y divide-line text-[13.5px]">
            {recall.customers.map((c) => (
              <li key={c.customerId} className="flex gap-3 py-1.5">
                <span className="num w-14 shrink-0">
                  {c.count > 0 ? words.number(c.count) : words.mass(c.massMg)}
                </span>
                <span>
                  {c.name}
                  <span className="block text-[12.5px] text-ink-3">
                    {daysText(
                      c.lines.map((l) => l.at),
                      words,
                    )}
                  </span>
                </span>
              </li>
            ))}
            {recall.nameless.map((n) => (
              <li key={n.destination} className="flex gap-3 py-1.5">
                <span className="num w-14 shrink-0">
                  {n.count > 0 ? words.number(n.count) : words.mass(n.massMg)}
                </span>
                <span>{t('recall.nameless', { to: words.word('to', n.destination) })}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
      <Neighbours view={view} />
      {asking && (
        <KeepRecall
          view={view}
          onClose={() => setAsking(false)}
          onKept={() => {
            setAsking(false);
            onKept();
          }}
        />
      )}
    </div>
  );
}

/** Days told one by one while they are few; of more how many, with the first and the last. */
function daysText(times: readonly string[], words: Words): string {
  const days = [...new Set([...times].sort().map((at) => words.day(at)))];
  return days.length <= FEW_DAYS
    ? days.join(', ')
    : words.t('recall.days', { n: days.length, first: days[0]!, last: days.at(-1)! });
}

/** What ran on the same machines just before or after. */
export function Neighbours({ view }: { view: TraceView }) {
  const words = useWords();
  const { t } = words;
  if (view.neighbours.length === 0) return null;
  const run = (n: TraceView['neighbours'][number]) => (
    <li key={`${n.machine} ${n.of.startedAt}`} className="py-1.5">
      <b>{n.machine}</b> {n.run.batchCode ?? ''}, {words.day(n.run.startedAt)}
      <span className={`block text-[12.5px] ${n.cleanedAt ? 'text-ink-3' : 'text-bad'}`}>
        {n.cleanedAt
          ? t('trace.cleaned', { when: words.day(n.cleanedAt), by: n.cleanedBy ?? '' })
          : `▲ ${t('trace.not-cleaned')}`}
      </span>
    </li>
  );
  const earlier = view.neighbours.slice(0, -FEW_RUNS);
  return (
    <section>
      <h2 className="text-[13px] font-semibold text-ink-3">
        {t(view.way === 'forward' ? 'trace.after' : 'trace.before')}
      </h2>
      <ul className="mt-1 divide-y divide-line text-[13.5px]">{view.neighbours.slice(-FEW_RUNS).map(run)}</ul>
      {earlier.length > 0 && (
        <details className="mt-1 text-[13.5px]">
          <summary className="min-h-8 cursor-pointer text-ink-3">
            {t('trace.more-runs', { n: earlier.length })}
          </summary>
          <ul className="divide-y divide-line">{earlier.map(run)}</ul>
        </details>
      )}
    </section>
  );
}

function KeepRecall({ view, onClose, onKept }: { view: TraceView; onClose: () => void; onKept: () => void }) {
  const { t, explain } = useWords();
  const send = useEntryHere();
  const [kind, setKind] = useState<'practice' | 'earnest'>('practice');
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string | null>(null);
  const go = () =>
    send({
      path: `/api/recalls/${newId()}`,
      body: {
        of: view.of,
        id: view.id,
        isPractice: kind === 'practice',
        setAside: kind === 'earnest',
        reason,
      },
      label: t('done.recall', { name: view.name }),
      undo: true,
    }).then(onKept, (failure: unknown) => setError(explain(failure)));
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('recall.keep.title', { name: view.name })}
      description={t('recall.law')}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (reason.trim()) void go();
        }}
      >
        <Choice
          label={t('recall.kind')}
          value={kind}
          onChange={setKind}
          options={[
            { value: 'practice', label: t('recall.practice'), note: t('recall.practice.note') },
            { value: 'earnest', label: t('recall.earnest'), note: t('recall.earnest.note') },
          ]}
        />
        <TextField
          label={t('stock.why')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          maxLength={400}
          error={error}
          required
        />
        <Button type="submit" look="main" big disabled={!reason.trim()}>
          {t(kind === 'practice' ? 'recall.do.practice' : 'recall.do.earnest')}
        </Button>
      </form>
    </Dialog>
  );
}
