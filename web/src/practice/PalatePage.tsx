import { useState } from 'react';
import { Link } from 'react-router';
import type { PalateTest } from '@wunsch/contract';
import {
  drawCups,
  gramsFor,
  IN_A_LITRE,
  judgePalate,
  PALATE_EXERCISES,
  TASTES,
  type Cup,
  type PalateExercise,
  type PalateResult,
  type Taste,
} from '@wunsch/core/trainer';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { Points } from './Points.tsx';

/** Water in a cup that is poured, mL. */
const CUP_ML = 50;

/** Marks and ranks that can be given. */
const MARKS = Array.from({ length: 11 }, (_, n) => n);

type Answer = Taste | number;

/** Tasting trained with real solutions: somebody pours by the table, the taster answers without it, and what it came to is told. */
export default function PalatePage() {
  const { t } = useWords();
  const send = useEntryHere();
  const [exercise, setExercise] = useState<PalateExercise>('name');
  const [cups, setCups] = useState<readonly Cup[] | null>(null);
  const [stage, setStage] = useState<'pour' | 'taste' | 'done'>('pour');
  const [answers, setAnswers] = useState<readonly (Answer | null)[]>([]);
  const [result, setResult] = useState<PalateResult | null>(null);
  const begin = () => {
    const drawn = drawCups(exercise, crypto.getRandomValues(new Uint32Array(1))[0]!);
    setCups(drawn);
    setAnswers(drawn.map(() => null));
    setResult(null);
    setStage('pour');
  };
  const finish = async () => {
    if (!cups) return;
    const said = answers as Answer[];
    const body: PalateTest = { exercise, cups: [...cups], answers: [...said] };
    await send({ path: `/api/palates/${newId()}`, body, label: t('palate.done'), undo: true });
    setResult(judgePalate(exercise, cups, said));
    setStage('done');
  };
  return (
    <div className="mx-auto grid max-w-4xl gap-2 p-3 sm:px-4">
      <p>
        <Link to="/practice" className="inline-flex min-h-11 items-center underline underline-offset-4">
          {t('practice')}
        </Link>
      </p>
      <h1 className="text-[26px]">{t('palate')}</h1>
      {!cups && (
        <Panel>
          <p className="mb-4 max-w-prose">{t('palate.text')}</p>
          <Choice
            label={t('practice.what')}
            value={exercise}
            options={PALATE_EXERCISES.map((e) => ({
              value: e,
              label: t(`palate.${e}`),
              note: t(`palate.${e}.note`),
            }))}
            onChange={setExercise}
          />
          <p className="my-4 max-w-prose text-[13.5px] text-ink-2">{t(`palate.${exercise}.text`)}</p>
          <Button look="main" big onClick={begin}>
            {t('palate.begin')}
          </Button>
        </Panel>
      )}
      {cups && stage === 'pour' && <Pouring cups={cups} onPoured={() => setStage('taste')} />}
      {cups && stage === 'taste' && (
        <Tasting
          cups={cups}
          exercise={exercise}
          answers={answers}
          onAnswer={(k, answer) => setAnswers(answers.map((a, i) => (i === k ? answer : a)))}
          onFinish={() => void finish().catch(() => undefined)}
        />
      )}
      {cups && stage === 'done' && result && (
        <Outcome
          cups={cups}
          exercise={exercise}
          answers={answers}
          result={result}
          onAgain={() => setCups(null)}
        />
      )}
    </div>
  );
}

function useCupText() {
  const words = useWords();
  return ({ taste, strength }: Cup) =>
    taste === 'water'
      ? words.t('palate.taste.water')
      : `${words.t(`palate.of.${taste}`)} ${words.number(IN_A_LITRE[taste].grams * strength, 1)} g/l`;
}

/** What whoever pours needs: how much of what, and which code it gets. The taster looks away. */
function Pouring({ cups, onPoured }: { cups: readonly Cup[]; onPoured: () => void }) {
  const words = useWords();
  const { t } = words;
  const cupText = useCupText();
  const [shown, setShown] = useState(false);
  if (!shown)
    return (
      <Panel title={t('palate.pour')}>
        <p className="mb-4 max-w-prose">{t('palate.pour.text')}</p>
        <Button look="main" big onClick={() => setShown(true)}>
          {t('palate.pour.show')}
        </Button>
      </Panel>
    );
  const kinds = [...new Map(cups.map((c) => [`${c.taste} ${c.strength}`, c])).values()];
  return (
    <Panel title={t('palate.pour')}>
      <h2 className="text-[15px] font-semibold">{t('palate.mix')}</h2>
      <ul className="mb-4 mt-1 grid gap-1 text-[14px]">
        {kinds
          .sort((a, b) => a.taste.localeCompare(b.taste) || a.strength - b.strength)
          .map((c) =>
            c.taste === 'water' ? null : (
              <li key={`${c.taste} ${c.strength}`}>
                {t('palate.mix.row', {
                  what: t(`palate.of.${c.taste}`),
                  grams: words.number(gramsFor(c, 500), 2),
                })}
              </li>
            ),
          )}
      </ul>
      {kinds.some((c) => c.taste === 'bitter') && (
        <p className="mb-3 border-l-4 border-signal pl-3 text-[13.5px]">{t('palate.caffeine')}</p>
      )}
      <Table
        caption={t('palate.pour')}
        rows={cups}
        keyOf={(c) => c.code}
        columns={[
          { id: 'code', title: t('palate.code'), cell: (c) => <b className="num text-[17px]">{c.code}</b> },
          { id: 'what', title: t('palate.what'), cell: cupText },
          { id: 'ml', title: 'ml', cell: () => CUP_ML },
        ]}
      />
      <Button look="main" big className="mt-4" onClick={onPoured}>
        {t('palate.poured')}
      </Button>
    </Panel>
  );
}

function Tasting({
  cups,
  exercise,
  answers,
  onAnswer,
  onFinish,
}: {
  cups: readonly Cup[];
  exercise: PalateExercise;
  answers: readonly (Answer | null)[];
  onAnswer: (k: number, answer: Answer) => void;
  onFinish: () => void;
}) {
  const { t } = useWords();
  const choices: readonly Answer[] =
    exercise === 'name' ? TASTES : exercise === 'order' ? cups.map((_, k) => k + 1) : MARKS;
  return (
    <Panel title={t(`palate.${exercise}`)}>
      <p className="mb-3 max-w-prose text-[13.5px] text-ink-2">{t(`palate.${exercise}.ask`)}</p>
      <ul className="grid gap-3">
        {cups.map((c, k) => (
          <li key={c.code} className="flex flex-wrap items-center gap-3 border-b border-line pb-3">
            <b className="num w-14 text-[20px]">{c.code}</b>
            <Choice
              label={c.code}
              value={answers[k] === null ? null : String(answers[k])}
              options={choices.map((a) => ({
                value: String(a),
                label: typeof a === 'number' ? String(a) : t(`palate.taste.${a}`),
              }))}
              onChange={(next) => onAnswer(k, exercise === 'name' ? (next as Taste) : Number(next))}
            />
          </li>
        ))}
      </ul>
      <Button look="main" big className="mt-4" disabled={answers.includes(null)} onClick={onFinish}>
        {t('palate.finish')}
      </Button>
    </Panel>
  );
}

function Outcome({
  cups,
  exercise,
  answers,
  result,
  onAgain,
}: {
  cups: readonly Cup[];
  exercise: PalateExercise;
  answers: readonly (Answer | null)[];
  result: PalateResult;
  onAgain: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const cupText = useCupText();
  const rows = cups.map((cup, k) => ({ cup, answer: answers[k]! }));
  return (
    <Panel title={t('practice.score')}>
      <Points points={result.points} />
      <p className="my-3 text-[14px]">
        {t(`palate.${exercise}.came`, { right: result.right, of: result.of })}{' '}
        {result.byChance !== null &&
          t('palate.by-chance', { chance: words.percent(result.byChance, result.byChance < 0.01 ? 2 : 0) })}
      </p>
      <Table
        caption={t('practice.score')}
        rows={rows}
        keyOf={({ cup }) => cup.code}
        columns={[
          { id: 'code', title: t('palate.code'), cell: ({ cup }) => <b className="num">{cup.code}</b> },
          { id: 'what', title: t('palate.what'), cell: ({ cup }) => cupText(cup) },
          {
            id: 'said',
            title: t('palate.said'),
            cell: ({ cup, answer }) =>
              typeof answer === 'number' ? (
                words.number(answer)
              ) : (
                <span className={answer === cup.taste ? '' : 'font-semibold text-bad'}>
                  {answer === cup.taste ? '' : '▲ '}
                  {t(`palate.taste.${answer}`)}
                </span>
              ),
          },
        ]}
      />
      <Button className="mt-4" onClick={onAgain}>
        {t('palate.again')}
      </Button>
    </Panel>
  );
}
