import type { TastedBatch, Trial } from '@wunsch/contract';
import { SAMPLES } from '@wunsch/core/taste';
import { useRead } from '../../../shell/door.tsx';
import { Button } from '../../../ui/Button.tsx';
import { SelectField, TextField } from '../../../ui/Field.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { MoneyField } from '../../../ui/QuantityField.tsx';
import { RemoveButton } from '../../../ui/RemoveButton.tsx';
import { useWords } from '../../../words/words.tsx';
import { useRetaste } from '../useRetaste.ts';
import { sampleOf, type SampleDraft, type SessionPlan } from './useSessionPlan.ts';

/** Batches and trials offered at once. */
const OFFERED = 6;

/** What is on the table: batches, parts of trials, other makers’ bars; and what wants tasting. */
export function SamplesOfPlan({ plan: { draft, change, serve, nameOf, batches } }: { plan: SessionPlan }) {
  const { t } = useWords();
  const { data: trials = [] } = useRead<Trial[]>('/api/trials');
  const isChoice = draft.question === 'different';
  const setSample = (i: number, part: Partial<SampleDraft>) =>
    change({ samples: draft.samples.map((s, k) => (k === i ? { ...s, ...part } : s)) });
  return (
    <Panel title={t('panel.samples')} aside={t('panel.samples.n', { n: draft.samples.length })}>
      <ul className="grid gap-2">
        {draft.samples.map((s, i) => (
          <li
            key={s.id}
            className="grid items-end gap-2 border-b border-line pb-3 sm:grid-cols-[repeat(5,1fr)_44px]"
          >
            {s.trial !== null ? (
              <p className="self-center sm:col-span-3">
                {t('panel.sample.part', {
                  code: s.trial.code,
                  trial: trials.find((x) => x.id === s.trial?.id)?.name ?? '',
                })}
              </p>
            ) : s.other === null ? (
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
              placeholder={nameOf({ ...s, label: '' })}
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
            <RemoveButton
              label={t('panel.sample.remove', { name: nameOf(s) || t('panel.sample', { n: i + 1 }) })}
              onRemove={() => change({ samples: draft.samples.filter((_, k) => k !== i) })}
              disabled={draft.samples.length <= SAMPLES.fewest}
            />
          </li>
        ))}
      </ul>
      <Offered draft={draft} trials={trials} serve={serve} />
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          disabled={draft.samples.length >= (isChoice ? 2 : SAMPLES.most)}
          onClick={() => change({ samples: [...draft.samples, sampleOf()] })}
        >
          {t('panel.sample.add')}
        </Button>
        <Button
          disabled={draft.samples.length >= (isChoice ? 2 : SAMPLES.most)}
          onClick={() =>
            change({
              samples: [
                ...draft.samples,
                sampleOf({ other: { maker: '', words: '', price: null, bestBefore: null } }),
              ],
            })
          }
        >
          {t('panel.sample.add-other')}
        </Button>
      </div>
    </Panel>
  );
}

/** What wants tasting: bars that are due again, and trials that are not decided. */
function Offered({
  draft,
  trials,
  serve,
}: Pick<SessionPlan, 'draft' | 'serve'> & { trials: readonly Trial[] }) {
  const { t } = useWords();
  const { data: tasted = [] } = useRead<TastedBatch[]>('/api/tasted-batches');
  const { stateOf } = useRetaste();
  const fits = (more: number) =>
    draft.samples.filter((s) => s.batchId ?? s.trial ?? s.other ?? s.label).length + more <=
    (draft.question === 'different' ? 2 : SAMPLES.most);
  const due = tasted
    .filter((b) => b.bars > 0 && stateOf(b)?.isDue && !draft.samples.some((s) => s.batchId === b.batchId))
    .slice(0, OFFERED);
  const open = trials
    .filter((x) => x.kept === null && !draft.samples.some((s) => s.trial?.id === x.id))
    .slice(0, OFFERED);
  if (due.length + open.length === 0) return null;
  return (
    <div className="mt-3 grid gap-2">
      {due.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-[12.5px] font-medium text-ink-2">{t('panel.sample.due')}</span>
          {due.map((b) => (
            <Button
              key={b.batchId}
              disabled={!fits(1)}
              aria-label={t('panel.sample.serve', { name: b.code })}
              onClick={() => serve([sampleOf({ batchId: b.batchId, label: b.code })])}
            >
              {b.code}
            </Button>
          ))}
        </div>
      )}
      {open.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-[12.5px] font-medium text-ink-2">{t('panel.sample.trials')}</span>
          {open.map((trial) => (
            <Button
              key={trial.id}
              disabled={!fits(trial.parts.length)}
              aria-label={t('panel.sample.serve', { name: trial.name })}
              onClick={() =>
                serve(
                  trial.parts.map(({ code, label, batchId }) =>
                    sampleOf({
                      label: label ?? `${trial.name} ${code}`,
                      batchId,
                      trial: { id: trial.id, code },
                    }),
                  ),
                )
              }
            >
              {`${trial.name} (${trial.parts.length})`}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}
