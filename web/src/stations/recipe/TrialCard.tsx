import { useState } from 'react';
import type { Trial, TrialKey } from '@wunsch/contract';
import { compareArms, rankedArms, winner } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake, useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { useRecipes } from './useIngredients.ts';

type Part = Trial['parts'][number];

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);

/** One trial: to be tasted blind by its codes, or opened with what came of it. */
export function TrialCard({ trial }: { trial: Trial }) {
  const words = useWords();
  const { t } = words;
  return (
    <Panel title={trial.name} aside={[trial.factor, words.day(trial.createdAt)].filter(Boolean).join(' · ')}>
      {trial.openedAt === null ? <Blind trial={trial} /> : <Opened trial={trial} />}
      {trial.openedAt !== null && (
        <p className="mt-2 text-[12.5px] text-ink-3">
          {t('trials.opened', { by: trial.openedBy ?? '', when: words.when(trial.openedAt) })}
        </p>
      )}
    </Panel>
  );
}

/** Codes and one's own scores; what they are and what others think is not even sent here. */
function Blind({ trial }: { trial: Trial }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const mayMake = useMayMake();
  const mayTaste = useSession().person.role !== 'viewer' && !trial.iPour;
  // What was scored and not yet sent outlives a phone that dies.
  const [kept, setScores, forget] = useKept<Record<string, number | null>>(`trial ${trial.id}`);
  const scores = kept ?? {};
  const [asking, setAsking] = useState<'key' | 'open' | null>(null);
  const given = new Map(trial.mine.map((m) => [m.code, m.score]));
  const marks = trial.parts.flatMap(({ code }) => {
    const score = scores[code];
    return score === null || score === undefined || given.has(code) ? [] : [{ code, score }];
  });
  const note = () =>
    void send({
      path: `/api/trial-scores/${newId()}`,
      body: { trialId: trial.id, marks },
      label: t('done.trial.score', { name: trial.name }),
    }).then(forget, () => undefined);
  return (
    <>
      <ul className="grid gap-2 sm:grid-cols-[repeat(auto-fill,minmax(180px,1fr))]">
        {trial.parts.map(({ code }) => (
          <li key={code} className="grid gap-1 rounded border border-line p-3">
            <span className="num text-[26px] font-semibold">{code}</span>
            {given.has(code) ? (
              <span>{t('trials.yours', { score: words.number(given.get(code)!, 1) })}</span>
            ) : (
              mayTaste && (
                <QuantityField
                  label={t('trials.score-of', { code })}
                  dimension="number"
                  value={scores[code] ?? null}
                  onChange={(v) => setScores({ ...scores, [code]: v })}
                  min={0}
                  max={10}
                  optional
                />
              )
            )}
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[13px] text-ink-3">
        {trial.tasters.length > 0
          ? t('trials.tasted', { who: trial.tasters.join(', ') })
          : t('trials.untasted')}
        {trial.pourers.length > 0 && ` ${t('trials.poured', { who: trial.pourers.join(', ') })}`}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {mayTaste && (
          <Button look="main" disabled={marks.length === 0} onClick={note}>
            {t('trials.note')}
          </Button>
        )}
        {mayMake && (
          <>
            <Button onClick={() => setAsking('key')}>{t('trials.key')}</Button>
            <Button onClick={() => setAsking('open')}>{t('trials.open')}</Button>
          </>
        )}
      </div>
      {asking === 'key' && <Key trial={trial} onClose={() => setAsking(null)} />}
      {asking === 'open' && (
        <Dialog
          open
          onClose={() => setAsking(null)}
          title={t('trials.open')}
          description={t('trials.open.hint')}
        >
          <Button
            look="main"
            big
            onClick={() =>
              void send({
                path: `/api/trial-openings/${newId()}`,
                body: { trialId: trial.id },
                label: t('done.trial.open', { name: trial.name }),
              }).catch(() => setAsking(null))
            }
          >
            {t('trials.open')}
          </Button>
        </Dialog>
      )}
    </>
  );
}

/** Which code is which, for whoever pours: asked for first, since it costs the tasting. */
function Key({ trial, onClose }: { trial: Trial; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { data } = useRead<TrialKey>(trial.iPour ? `/api/trials/${trial.id}/key` : null);
  return (
    <Dialog open onClose={onClose} title={t('trials.key')} description={t('trials.key.hint')}>
      {trial.iPour ? (
        <dl className="grid grid-cols-[80px_1fr_auto] gap-y-2">
          {(data ?? []).map((k) => (
            <div key={k.code} className="contents">
              <dt className="num text-[20px] font-semibold">{k.code}</dt>
              <dd>{k.label}</dd>
              <dd className="num">{k.massMg === null ? '' : words.mass(k.massMg)}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <Button
          look="main"
          big
          onClick={() =>
            void send({
              path: `/api/trial-keys/${newId()}`,
              body: { trialId: trial.id },
              label: t('done.trial.key', { name: trial.name }),
              quiet: true,
            }).catch(() => onClose())
          }
        >
          {t('trials.key.show')}
        </Button>
      )}
    </Dialog>
  );
}

/** What each code was, what everyone thought, and the part that is kept. */
function Opened({ trial }: { trial: Trial }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const mayMake = useMayMake();
  const recipes = useRecipes();
  const called = (p: Part) => `${p.code}, ${p.label ?? ''}`;
  const arms = trial.parts.map((p) => ({
    label: called(p),
    scores: p.scores.map((s) => s.score),
    tasters: p.scores.map((s) => s.by),
  }));
  const best = winner(arms);
  const [first, second] = rankedArms(arms);
  const difference = first && second ? compareArms(first, second, arms) : null;
  const keep = (part: Part) => {
    const recipe = recipes.find((r) => r.id === part.recipeId);
    void send({
      path: `/api/trial-winners/${newId()}`,
      body: {
        trialId: trial.id,
        code: part.code,
        recipe: recipe && {
          id: newId(),
          name: recipe.name,
          kind: recipe.kind,
          lines: recipe.lines,
          aimUm: recipe.aimUm,
          notes: [recipe.notes, t('trials.kept-note', { name: trial.name, label: part.label ?? '' })]
            .filter(Boolean)
            .join('\n'),
          follows: recipes.find((r) => r.current && r.name === recipe.name)?.id ?? recipe.id,
        },
      },
      label: t('done.trial.keep', { label: part.label ?? '' }),
    }).catch(() => undefined);
  };
  return (
    <>
      <Table
        caption={trial.name}
        rows={trial.parts}
        keyOf={(p) => p.code}
        columns={[
          {
            id: 'code',
            title: t('trials.code'),
            cell: (p) => <span className="num text-[18px]">{p.code}</span>,
          },
          { id: 'what', title: t('what'), cell: (p) => p.label },
          {
            id: 'mean',
            title: t('trials.mean'),
            numeric: true,
            cell: (p) => (p.scores.length > 0 ? words.number(mean(p.scores.map((s) => s.score)), 1) : '—'),
          },
          {
            id: 'scores',
            title: t('trials.scores'),
            cell: (p) => p.scores.map((s) => `${s.by} ${words.number(s.score, 1)}`).join(', '),
          },
          {
            id: 'keep',
            title: t('trials.keep'),
            cell: (p) =>
              trial.kept === p.code ? (
                <Chip tone="ok">{t('trials.kept')}</Chip>
              ) : (
                trial.kept === null && mayMake && <Button onClick={() => keep(p)}>{t('trials.keep')}</Button>
              ),
          },
        ]}
      />
      {best && (
        <p className="mt-2">
          {t(best.clear ? 'trials.clear' : 'trials.unclear', { code: best.label })}
          {difference &&
            ` ${t('trials.difference', { d: words.number(difference.difference, 1), low: words.number(difference.low, 1), high: words.number(difference.high, 1) })}`}
        </p>
      )}
    </>
  );
}
