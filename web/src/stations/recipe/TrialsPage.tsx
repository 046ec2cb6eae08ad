import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { BatchBrief, Trial, TrialPut } from '@wunsch/contract';
import { compareArms, winner } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake, useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { useRecipes } from './useIngredients.ts';

/** Three digits that no other arm has. */
function freshCodes(count: number): string[] {
  const codes = new Set<string>();
  while (codes.size < count) codes.add(String(100 + (crypto.getRandomValues(new Uint16Array(1))[0]! % 900)));
  return [...codes];
}

/** Trials: one factor varied between parts of a material, tasted blind, the winner kept as the next version. */
export default function TrialsPage() {
  const { t } = useWords();
  const { data } = useRead<Trial[]>('/api/trials');
  const mayMake = useMayMake();
  const [adding, setAdding] = useState(false);
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="text-[26px]">{t('trials')}</h1>
        {mayMake && !adding && (
          <Button
            className="ml-auto"
            look="main"
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() => setAdding(true)}
          >
            {t('trials.begin')}
          </Button>
        )}
      </header>
      {adding && <NewTrial onDone={() => setAdding(false)} />}
      {data?.length === 0 && !adding && <EmptyState title={t('trials')}>{t('trials.none')}</EmptyState>}
      <div className="grid gap-2">
        {data?.toReversed().map((trial) => (
          <TrialCard key={trial.id} trial={trial} />
        ))}
      </div>
    </div>
  );
}

function useTrialWork() {
  const send = useEntryHere();
  const { t } = useWords();
  return (id: string, body: TrialPut, ifMatch?: number) =>
    send({ path: `/api/trials/${id}`, body, label: t('done.trial', { name: body.name }), ifMatch });
}

function NewTrial({ onDone }: { onDone: () => void }) {
  const { t } = useWords();
  const keep = useTrialWork();
  const recipes = useRecipes();
  const { data: batches } = useRead<BatchBrief[]>('/api/batches?limit=100');
  const [name, setName] = useState('');
  const [factor, setFactor] = useState('');
  const [arms, setArms] = useState([0, 1].map(() => ({ label: '', recipeId: '', batchId: '' })));
  const ready = name.trim() !== '' && arms.every((a) => a.label.trim() !== '');
  const begin = () => {
    const codes = freshCodes(arms.length);
    return keep(newId(), {
      name,
      factor,
      arms: arms.map((a, i) => ({
        code: codes[i]!,
        label: a.label,
        recipeId: a.recipeId || null,
        batchId: a.batchId || null,
        scores: [],
      })),
      kept: null,
    }).then(onDone, () => undefined);
  };
  const set = (i: number, part: object) => setArms(arms.map((a, k) => (k === i ? { ...a, ...part } : a)));
  return (
    <Panel>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) void begin();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField
            label={t('trials.name')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={120}
            autoFocus
          />
          <TextField
            label={t('trials.factor')}
            value={factor}
            onChange={(e) => setFactor(e.target.value)}
            maxLength={120}
            hint={t('trials.factor.hint')}
          />
        </div>
        {arms.map((a, i) => (
          <div key={i} className="grid gap-2 sm:grid-cols-3">
            <TextField
              label={t('trials.arm', { n: i + 1 })}
              value={a.label}
              onChange={(e) => set(i, { label: e.target.value })}
              maxLength={120}
            />
            <SelectField
              label={t('recipe')}
              value={a.recipeId}
              onChange={(e) => set(i, { recipeId: e.target.value })}
            >
              <option value="">{t('recipe.none')}</option>
              {recipes.map((r) => (
                <option
                  key={r.id}
                  value={r.id}
                >{`${r.name} (${t('recipe.version', { n: r.number })})`}</option>
              ))}
            </SelectField>
            <SelectField
              label={t('batch')}
              value={a.batchId}
              onChange={(e) => set(i, { batchId: e.target.value })}
            >
              <option value="">{t('trials.no-batch')}</option>
              {(batches ?? []).map((b) => (
                <option key={b.id} value={b.id}>
                  {b.code}
                </option>
              ))}
            </SelectField>
          </div>
        ))}
        <p className="text-[12.5px] text-ink-3">{t('trials.split')}</p>
        <div className="flex flex-wrap gap-2">
          <Button
            disabled={arms.length >= 8}
            onClick={() => setArms([...arms, { label: '', recipeId: '', batchId: '' }])}
          >
            {t('trials.more')}
          </Button>
          <Button type="submit" look="main" disabled={!ready}>
            {t('trials.begin')}
          </Button>
          <Button look="quiet" onClick={onDone}>
            {t('cancel')}
          </Button>
        </div>
      </form>
    </Panel>
  );
}

function TrialCard({ trial }: { trial: Trial }) {
  const words = useWords();
  const { t } = words;
  const keep = useTrialWork();
  const { person } = useSession();
  const mayMake = useMayMake();
  const recipes = useRecipes();
  const send = useEntryHere();
  const [open, setOpen] = useState(trial.kept !== null);
  const [scores, setScores] = useState<Record<string, number | null>>({});
  const { id, version, createdAt, ...facts } = trial;
  const arms = trial.arms.map((a) => ({ label: a.code, scores: a.scores.map((s) => s.score) }));
  const best = winner(arms);
  const [first, second] = arms.toSorted((a, b) => mean(b.scores) - mean(a.scores));
  const difference = first && second ? compareArms(first, second) : null;
  const note = () =>
    keep(
      id,
      {
        ...facts,
        arms: facts.arms.map((a) =>
          scores[a.code] === null || scores[a.code] === undefined
            ? a
            : { ...a, scores: [...a.scores, { by: person.initials, score: scores[a.code]!, note: '' }] },
        ),
      },
      version,
    ).then(
      () => setScores({}),
      () => undefined,
    );
  const take = async (code: string) => {
    await keep(id, { ...facts, kept: code }, version);
    const arm = facts.arms.find((a) => a.code === code)!;
    const recipe = recipes.find((r) => r.id === arm.recipeId);
    if (!recipe) return;
    // The winner becomes the next version of its recipe, with the reason in its notes.
    await send({
      path: `/api/recipes/${newId()}`,
      body: {
        name: recipe.name,
        kind: recipe.kind,
        lines: recipe.lines,
        aimUm: recipe.aimUm,
        notes: [recipe.notes, t('trials.kept-note', { name: trial.name, label: arm.label })]
          .filter(Boolean)
          .join('\n'),
        follows: recipes.find((r) => r.current && r.name === recipe.name)?.id ?? recipe.id,
      },
      label: t('done.recipe'),
    });
  };
  return (
    <Panel title={trial.name} aside={`${trial.factor}${trial.factor ? ' · ' : ''}${words.day(createdAt)}`}>
      <Table
        caption={trial.name}
        rows={facts.arms}
        keyOf={(a) => a.code}
        columns={[
          {
            id: 'code',
            title: t('trials.code'),
            cell: (a) => <span className="num text-[18px]">{a.code}</span>,
          },
          { id: 'what', title: t('what'), cell: (a) => (open ? a.label : t('trials.hidden')) },
          {
            id: 'mean',
            title: t('trials.mean'),
            numeric: true,
            cell: (a) => (a.scores.length > 0 ? words.number(mean(a.scores.map((s) => s.score)), 1) : '—'),
          },
          { id: 'n', title: t('trials.scores'), numeric: true, cell: (a) => a.scores.length },
          {
            id: 'score',
            title: t('trials.score'),
            cell: (a) =>
              trial.kept ? (
                trial.kept === a.code && <Chip tone="ok">{t('trials.kept')}</Chip>
              ) : (
                <QuantityField
                  label={t('trials.score-of', { code: a.code })}
                  dimension="number"
                  value={scores[a.code] ?? null}
                  onChange={(v) => setScores({ ...scores, [a.code]: v })}
                  min={0}
                  max={10}
                  optional
                  className="w-36"
                />
              ),
          },
          ...(open && !trial.kept && mayMake
            ? [
                {
                  id: 'keep',
                  title: '',
                  cell: (a: Trial['arms'][number]) => (
                    <Button onClick={() => void take(a.code).catch(() => undefined)}>
                      {t('trials.keep')}
                    </Button>
                  ),
                },
              ]
            : []),
        ]}
      />
      {best && (
        <p className="mt-2">
          {t(best.clear ? 'trials.clear' : 'trials.unclear', { code: best.label })}
          {difference &&
            ` ${t('trials.difference', { d: words.number(difference.difference, 1), low: words.number(difference.low, 1), high: words.number(difference.high, 1) })}`}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {!trial.kept && (
          <Button
            look="main"
            disabled={Object.values(scores).every((s) => s === null || s === undefined)}
            onClick={() => void note()}
          >
            {t('trials.note')}
          </Button>
        )}
        {!open && <Button onClick={() => setOpen(true)}>{t('trials.open')}</Button>}
      </div>
    </Panel>
  );
}

const mean = (values: readonly number[]) =>
  values.length > 0 ? values.reduce((a, b) => a + b, 0) / values.length : -1;
