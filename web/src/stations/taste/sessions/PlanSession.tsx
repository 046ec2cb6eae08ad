import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import type { BatchBrief, Person, TastingSession, TastingSessionPut } from '@wunsch/contract';
import { SAMPLES, SESSION_QUESTIONS } from '@wunsch/core/taste';
import { useRead } from '../../../shell/door.tsx';
import { newId } from '../../../shell/entry.ts';
import { useEntryHere } from '../../../shell/useEntryHere.ts';
import { Button } from '../../../ui/Button.tsx';
import { Choice, SelectField, TextField } from '../../../ui/Field.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../../../ui/QuantityField.tsx';
import { useWords } from '../../../words/words.tsx';
import { Reach } from './Reach.tsx';
import { TasteHead } from './TasteHead.tsx';
import { sessionPath, useTastingSession } from './useSessions.ts';

type Draft = Required<Omit<TastingSessionPut, 'samples' | 'seats'>> & {
  samples: { id: string; label: string; batchId: string | null; other: OtherDraft | null }[];
  people: string[];
  guests: number;
};
type OtherDraft = { maker: string; words: string; price: number | null; bestBefore: string | null };

const emptySample = (batchId: string | null = null) => ({ id: newId(), label: '', batchId, other: null });

/** A plan as it may be changed: one that is there, or a new one that begins with the batch it was asked from. */
function draftOf(session: TastingSession | null, batchId: string | null): Draft {
  if (session) {
    const { seats, samples, ...rest } = session;
    return {
      ...rest,
      samples: samples.map((s) => ({ ...s, other: s.other ?? null })) as Draft['samples'],
      people: seats.flatMap((s) => s.personId ?? []),
      guests: seats.filter((s) => s.personId === null).length,
    };
  }
  return {
    title: '',
    question: 'keep',
    test: 'triangle',
    margin: 1,
    referenceId: null,
    card: 'quick',
    rounds: 2,
    flight: 5,
    restMinutes: 12,
    place: '',
    plannedFor: null,
    samples: [emptySample(batchId), emptySample()],
    people: [],
    guests: 0,
  };
}

/** Planning a session: what is asked, what is on the table, and who sits at it. */
function Plan({ session }: { session: TastingSession | null }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const send = useEntryHere();
  const [search] = useSearchParams();
  const { data: batches = [] } = useRead<BatchBrief[]>('/api/batches?limit=200');
  const { data: people = [] } = useRead<Person[]>('/api/people');
  const [id] = useState(() => session?.id ?? newId());
  const [draft, setDraft] = useState(() => draftOf(session, search.get('batch')));
  const change = (part: Partial<Draft>) => setDraft((now) => ({ ...now, ...part }));
  const setSample = (i: number, part: Partial<Draft['samples'][number]>) =>
    change({ samples: draft.samples.map((s, k) => (k === i ? { ...s, ...part } : s)) });
  const codes = useMemo(() => new Map(batches.map((b) => [b.id, b.code])), [batches]);
  const labelOf = (s: Draft['samples'][number]) =>
    s.label.trim() || s.other?.maker.trim() || (s.batchId ? (codes.get(s.batchId) ?? '') : '');
  const isChoice = draft.question === 'different';
  const tasters = draft.people.length + draft.guests;
  const missing = draft.samples.some((s) => labelOf(s) === '')
    ? 'panel.missing.samples'
    : isChoice && draft.samples.length !== 2
      ? 'panel.missing.two'
      : tasters === 0
        ? 'panel.missing.seats'
        : null;
  const ready = missing === null;
  const title = draft.title.trim() || t(`panel.question.${draft.question}`);
  const save = () => {
    const { people: sitting, guests, samples, ...plan } = draft;
    const old = session?.seats ?? [];
    const guestIds = old.filter((s) => s.personId === null).map((s) => s.id);
    const body: TastingSessionPut = {
      title,
      question: plan.question,
      test: plan.test,
      margin: plan.margin,
      referenceId: samples.some((s) => s.id === plan.referenceId) ? plan.referenceId : null,
      card: plan.card,
      rounds: plan.rounds,
      flight: plan.flight,
      restMinutes: plan.restMinutes,
      place: plan.place,
      plannedFor: plan.plannedFor,
      samples: samples.map((s) => ({ ...s, label: labelOf(s) })),
      seats: [
        ...sitting.map((personId) => ({
          id: old.find((s) => s.personId === personId)?.id ?? newId(),
          personId,
          name: people.find((p) => p.id === personId)?.name ?? '',
        })),
        ...Array.from({ length: guests }, (_, i) => ({ id: guestIds[i] ?? newId() })),
      ],
    };
    void send({
      path: `/api/tasting-sessions/${id}`,
      body,
      ...(session && { ifMatch: session.version }),
      label: t('done.panel.plan', { title }),
    }).then(
      () => navigate(sessionPath(id)),
      () => undefined,
    );
  };
  return (
    <form
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) save();
      }}
    >
      <Panel title={t('panel.question')}>
        <div className="grid gap-3">
          <Choice
            label={t('panel.question')}
            value={draft.question}
            options={SESSION_QUESTIONS.map((q) => ({
              value: q,
              label: t(`panel.question.${q}`),
              note: t(`panel.question.${q}.note`),
            }))}
            onChange={(question) => change({ question })}
          />
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <TextField
              label={t('panel.title')}
              value={draft.title}
              onChange={(e) => change({ title: e.target.value })}
              maxLength={120}
              placeholder={t(`panel.question.${draft.question}`)}
              className="sm:col-span-2"
            />
            <TextField
              label={t('panel.place')}
              value={draft.place}
              onChange={(e) => change({ place: e.target.value })}
              maxLength={120}
            />
            {isChoice ? (
              <SelectField
                label={t('panel.test')}
                value={draft.test}
                onChange={(e) => change({ test: e.target.value as Draft['test'] })}
              >
                {(['triangle', 'duo-trio'] as const).map((test) => (
                  <option key={test} value={test}>
                    {t(`panel.test.${test}`)}
                  </option>
                ))}
              </SelectField>
            ) : (
              <SelectField
                label={t('panel.card')}
                value={draft.card}
                onChange={(e) => change({ card: e.target.value as Draft['card'] })}
              >
                {(['quick', 'full'] as const).map((card) => (
                  <option key={card} value={card}>
                    {t(`panel.card.${card}`)}
                  </option>
                ))}
              </SelectField>
            )}
            {draft.question === 'same' && (
              <>
                <QuantityField
                  label={t('panel.margin')}
                  dimension="number"
                  value={draft.margin}
                  onChange={(margin) => change({ margin: margin ?? 1 })}
                  min={0.1}
                  max={5}
                />
                <SelectField
                  label={t('panel.reference')}
                  value={draft.referenceId ?? draft.samples[0]?.id ?? ''}
                  onChange={(e) => change({ referenceId: e.target.value })}
                >
                  {draft.samples.map((s, i) => (
                    <option key={s.id} value={s.id}>
                      {labelOf(s) || t('panel.sample', { n: i + 1 })}
                    </option>
                  ))}
                </SelectField>
              </>
            )}
          </div>
        </div>
      </Panel>
      <Panel title={t('panel.samples')} aside={t('panel.samples.n', { n: draft.samples.length })}>
        <ul className="grid gap-2">
          {draft.samples.map((s, i) => (
            <li
              key={s.id}
              className="grid items-end gap-2 border-b border-line pb-3 sm:grid-cols-[repeat(5,1fr)_44px]"
            >
              {s.other === null ? (
                <SelectField
                  label={t('panel.sample.which')}
                  value={s.batchId ?? ''}
                  onChange={(e) => setSample(i, { batchId: e.target.value || null })}
                  className="sm:col-span-3"
                >
                  <option value="">{t('trials.no-batch')}</option>
                  {batches.map((b) => (
                    <option key={b.id} value={b.id}>
                      {b.code}
                    </option>
                  ))}
                </SelectField>
              ) : (
                <>
                  <TextField
                    label={t('panel.sample.maker')}
                    value={s.other.maker}
                    onChange={(e) => setSample(i, { other: { ...s.other!, maker: e.target.value } })}
                    maxLength={120}
                  />
                  <TextField
                    label={t('panel.sample.words')}
                    value={s.other.words}
                    onChange={(e) => setSample(i, { other: { ...s.other!, words: e.target.value } })}
                    maxLength={400}
                  />
                </>
              )}
              <TextField
                label={t('panel.sample.label')}
                value={s.label}
                placeholder={labelOf({ ...s, label: '' })}
                onChange={(e) => setSample(i, { label: e.target.value })}
                maxLength={120}
                className={s.other === null ? 'sm:col-span-2' : ''}
              />
              {s.other !== null && (
                <>
                  <MoneyField
                    label={t('panel.sample.price')}
                    value={s.other.price ?? 0}
                    onChange={(price) => setSample(i, { other: { ...s.other!, price: price || null } })}
                  />
                  <TextField
                    label={t('panel.sample.before')}
                    type="date"
                    value={s.other.bestBefore ?? ''}
                    onChange={(e) =>
                      setSample(i, { other: { ...s.other!, bestBefore: e.target.value || null } })
                    }
                  />
                </>
              )}
              <button
                type="button"
                disabled={draft.samples.length <= SAMPLES.fewest}
                aria-label={t('panel.sample.remove', { name: labelOf(s) || t('panel.sample', { n: i + 1 }) })}
                onClick={() => change({ samples: draft.samples.filter((_, k) => k !== i) })}
                className="grid size-11 place-items-center rounded hover:bg-violet-tint disabled:opacity-40"
              >
                <Trash2 size={16} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
        <div className="mt-3 flex flex-wrap gap-2">
          <Button
            disabled={draft.samples.length >= (isChoice ? 2 : SAMPLES.most)}
            onClick={() => change({ samples: [...draft.samples, emptySample()] })}
          >
            {t('panel.sample.add')}
          </Button>
          <Button
            disabled={draft.samples.length >= (isChoice ? 2 : SAMPLES.most)}
            onClick={() =>
              change({
                samples: [
                  ...draft.samples,
                  { ...emptySample(), other: { maker: '', words: '', price: null, bestBefore: null } },
                ],
              })
            }
          >
            {t('panel.sample.add-other')}
          </Button>
        </div>
      </Panel>
      <Panel title={t('panel.seats')} aside={t('panel.tasters.n', { n: tasters })}>
        <div className="grid gap-3">
          <fieldset>
            <legend className="mb-1 text-[12.5px] font-medium text-ink-2">{t('panel.seats.people')}</legend>
            <div className="flex flex-wrap gap-2">
              {people
                .filter((p) => p.active && p.role !== 'viewer')
                .map((p) => {
                  const sits = draft.people.includes(p.id);
                  return (
                    <button
                      key={p.id}
                      type="button"
                      aria-pressed={sits}
                      onClick={() =>
                        change({
                          people: sits ? draft.people.filter((x) => x !== p.id) : [...draft.people, p.id],
                        })
                      }
                      className={`min-h-11 rounded border px-3 font-semibold ${sits ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-panel-2'}`}
                    >
                      {p.name}
                    </button>
                  );
                })}
            </div>
          </fieldset>
          <div className="grid gap-3 sm:grid-cols-4">
            <QuantityField
              label={t('panel.seats.guests')}
              dimension="count"
              value={draft.guests}
              onChange={(guests) => change({ guests: guests ?? 0 })}
              min={0}
              max={40}
            />
            <QuantityField
              label={t('panel.rounds')}
              dimension="count"
              value={draft.rounds}
              onChange={(rounds) => change({ rounds: rounds ?? 1 })}
              min={1}
              max={4}
            />
            {!isChoice && (
              <QuantityField
                label={t('panel.flight')}
                dimension="count"
                value={draft.flight}
                onChange={(flight) => change({ flight: flight ?? 5 })}
                min={2}
                max={8}
              />
            )}
            <QuantityField
              label={t('panel.rest')}
              dimension="count"
              value={draft.restMinutes}
              onChange={(restMinutes) => change({ restMinutes: restMinutes ?? 0 })}
              min={0}
              max={60}
            />
          </div>
          <p className="text-[12.5px] text-ink-3">{t('panel.seats.guests.hint')}</p>
          {tasters > 0 && (
            <Reach choice={isChoice ? draft.test : null} tasters={tasters} rounds={draft.rounds} />
          )}
        </div>
      </Panel>
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" big disabled={!ready}>
          {t('panel.save')}
        </Button>
        <Button big look="quiet" onClick={() => void navigate(-1)}>
          {t('cancel')}
        </Button>
        {missing && <p className="self-center text-[13px] text-ink-2">{t(missing)}</p>}
      </div>
    </form>
  );
}

/** A new session, or the plan of one that has not begun. */
export default function PlanSession() {
  const { t } = useWords();
  const { sessionId } = useParams();
  const { data } = useTastingSession(sessionId);
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={t(sessionId ? 'panel.change' : 'panel.plan')} at="session" />
      {sessionId ? data && <Plan key={data.id} session={data} /> : <Plan session={null} />}
    </div>
  );
}
