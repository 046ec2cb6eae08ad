import { today } from '../today.ts';
import { useState } from 'react';
import type { Sample, SamplePut } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextArea, TextField } from '../../ui/Field.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';

/** Samples of beans, and bars of other makers, tasted over several days to decide on buying. */
export function Samples({ mayMake }: { mayMake: boolean }) {
  const { t } = useWords();
  const { data } = useRead<Sample[]>('/api/samples');
  const [adding, setAdding] = useState(false);
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <section>
      <header className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="text-[18px]">{t('sample.title')}</h2>
        {mayMake && !adding && (
          <Button className="ml-auto" onClick={() => setAdding(true)}>
            {t('sample.add')}
          </Button>
        )}
      </header>
      {adding && <NewSample onDone={() => setAdding(false)} />}
      {data.length === 0 && !adding && <EmptyState title={t('sample.title')}>{t('sample.none')}</EmptyState>}
      <ul className="grid gap-2 lg:grid-cols-2">
        {data.map((s) => (
          <li key={s.id}>
            <SampleCard sample={s} mayMake={mayMake} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function useSampleWork() {
  const send = useEntryHere();
  const { t } = useWords();
  return (id: string, body: SamplePut, ifMatch?: number) =>
    send({ path: `/api/samples/${id}`, body, label: t('done.sample', { name: body.name }), ifMatch });
}

function NewSample({ onDone }: { onDone: () => void }) {
  const { t } = useWords();
  const keep = useSampleWork();
  const [name, setName] = useState('');
  const [from, setFrom] = useState('');
  const [kind, setKind] = useState<'beans' | 'bar'>('beans');
  return (
    <Panel>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void keep(newId(), { name, from, kind }).then(onDone, () => undefined);
        }}
      >
        <TextField
          label={t('sample.name')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          maxLength={120}
          required
          autoFocus
        />
        <TextField
          label={t('sample.from')}
          value={from}
          onChange={(e) => setFrom(e.target.value)}
          maxLength={120}
        />
        <Choice
          label={t('sample.kind')}
          value={kind}
          onChange={setKind}
          options={(['beans', 'bar'] as const).map((k) => ({ value: k, label: t(`sample.kind.${k}`) }))}
        />
        <div className="flex gap-2">
          <Button type="submit" look="main" disabled={!name.trim()}>
            {t('sample.keep')}
          </Button>
          <Button look="quiet" onClick={onDone}>
            {t('cancel')}
          </Button>
        </div>
      </form>
    </Panel>
  );
}

function SampleCard({ sample, mayMake }: { sample: Sample; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const keepSample = useSampleWork();
  const { person } = useSession();
  const { draft, change, keep } = useDraft<{ liking: number | null; text: string }>({
    liking: null,
    text: '',
  });
  const { liking, text } = draft;
  const [reason, setReason] = useState(sample.reason);
  const [tasting, setTasting] = useState(false);
  const { id, version, createdAt: _c, ...facts } = sample;
  const days = new Set(sample.notes.map((n) => n.day)).size;
  const likings = sample.notes.flatMap((n) => (n.liking === null ? [] : [n.liking]));
  const note = async () => {
    const notes = [...facts.notes, { day: today(), by: person.initials, liking, text }];
    if (await keep(() => keepSample(id, { ...facts, notes }, version))) setTasting(false);
  };
  const decide = (decision: Sample['decision']) =>
    void keepSample(id, { ...facts, decision, reason }, version).catch(() => undefined);
  return (
    <Panel
      title={sample.name}
      aside={
        <Chip tone={sample.decision === 'buy' ? 'ok' : sample.decision === 'decline' ? 'bad' : 'plain'}>
          {t(`sample.state.${sample.decision}`)}
        </Chip>
      }
    >
      <p className="text-ink-3">
        {[t(`sample.kind.${sample.kind}`), sample.from, sample.country].filter(Boolean).join(' · ')}
        {likings.length > 0 &&
          ` · ${t('sample.liking')}: ${words.number(likings.reduce((a, b) => a + b, 0) / likings.length, 1)}`}
      </p>
      <ul className="my-2 grid gap-1">
        {sample.notes.map((n, i) => (
          <li key={i} className="flex gap-3 border-b border-line py-1.5">
            <span className="w-24 shrink-0 text-ink-3">{words.day(n.day)}</span>
            <span className="num w-8 shrink-0">{n.liking ?? '—'}</span>
            <span className="grow">{n.text}</span>
            <span className="text-ink-3">{n.by}</span>
          </li>
        ))}
      </ul>
      {days > 1 && <p className="text-[12.5px] text-ink-3">{t('sample.again', { n: days })}</p>}
      {sample.reason && sample.decision !== 'open' && <p className="font-semibold">{sample.reason}</p>}
      {mayMake &&
        (tasting ? (
          <form
            className="mt-2 grid gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              void note();
            }}
          >
            <QuantityField
              label={t('sample.liking')}
              dimension="count"
              value={liking}
              onChange={(next) => change({ liking: next })}
              min={0}
              max={10}
              optional
              className="max-w-40"
            />
            <TextArea
              label={t('sample.words')}
              value={text}
              onChange={(e) => change({ text: e.target.value })}
              maxLength={2000}
            />
            <div className="flex gap-2">
              <Button type="submit" look="main" disabled={liking === null && text.trim() === ''}>
                {t('sample.keep')}
              </Button>
              <Button look="quiet" onClick={() => setTasting(false)}>
                {t('cancel')}
              </Button>
            </div>
          </form>
        ) : (
          <div className="mt-2 flex flex-wrap items-end gap-2">
            <Button onClick={() => setTasting(true)}>{t('sample.taste', { day: words.day(today()) })}</Button>
            {sample.decision === 'open' ? (
              <>
                <TextField
                  label={t('sample.reason')}
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                  maxLength={1000}
                  className="min-w-40 grow"
                />
                <Button onClick={() => decide('buy')}>{t('sample.decide.buy')}</Button>
                <Button onClick={() => decide('decline')}>{t('sample.decide.decline')}</Button>
              </>
            ) : (
              <Button look="quiet" onClick={() => decide('open')}>
                {t('sample.decide.open')}
              </Button>
            )}
          </div>
        ))}
    </Panel>
  );
}
