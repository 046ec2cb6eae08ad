import { useState } from 'react';
import { Link } from 'react-router';
import type { FaultView } from '@wunsch/contract';
import type { Clue } from '@wunsch/core/faults';
import { Button } from '../ui/Button.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import type { WordKey } from '../words/en.ts';
import { useWords } from '../words/words.tsx';
import { answerText, becauseText, findingText, timesText } from './faultWords.ts';

type Ranked = FaultView['ranked'][number];
type Answers = Readonly<Partial<Record<Clue, boolean>>>;

/** Odds below this are not drawn; they stand in the list's foot. */
const WORTH_DRAWING = 0.02;

/** Evidence shown beside a cause without being asked for. */
const SHOWN = 3;

/** What speaks this much for or against is evidence. */
const TELLING = 1.25;

export const causeName = (cause: Ranked['cause'], t: (key: WordKey) => string): string =>
  t(`cause.${cause ?? 'none'}`);

function CauseRow({
  ranked,
  first,
  view,
  answers,
}: {
  ranked: Ranked;
  first: boolean;
  view: FaultView;
  answers: Answers;
}) {
  const words = useWords();
  const { t } = words;
  const { cause, odds, because } = ranked;
  const telling = because.filter((b) => b.times >= TELLING || b.times <= 1 / TELLING);
  const speaks = telling.filter((b) => b.of === 'clue' && b.isThere && b.times > 1).slice(0, SHOWN);
  return (
    <li className="border-b border-line py-3 last:border-0">
      <div className="flex items-baseline justify-between gap-x-4">
        <h3 className={first ? 'text-[17px]' : 'text-[15px]'}>{causeName(cause, t)}</h3>
        <span className="num text-[17px] font-semibold">{words.chance(odds)}</span>
      </div>
      {/* How likely, as a length: the whole line is certainty. */}
      <div aria-hidden="true" className="mt-1 h-2.5 rounded-[2px] border border-line-2 bg-panel-2">
        <div
          className={`h-full ${first ? 'bg-violet' : 'bg-slate'}`}
          style={{ width: `${Math.max(0.5, odds * 100)}%` }}
        />
      </div>
      {speaks.length > 0 && (
        <ul className="mt-1.5 flex flex-wrap gap-x-4 gap-y-0.5 text-[13.5px]">
          {speaks.map((b) => (
            <li key={b.name}>
              <span aria-hidden="true">▸ </span>
              {becauseText(b, view.findings, answers, words)}
            </li>
          ))}
        </ul>
      )}
      {first && cause !== null && (
        <dl className="mt-2 grid gap-x-6 gap-y-2 text-[13.5px] sm:grid-cols-2">
          <div>
            <dt className="text-[12px] text-ink-3">{t('fault.now')}</dt>
            <dd>{t(`cause.${cause}.now`)}</dd>
          </div>
          <div>
            <dt className="text-[12px] text-ink-3">{t('fault.next')}</dt>
            <dd>{t(`cause.${cause}.next`)}</dd>
          </div>
        </dl>
      )}
      {telling.length > 0 && (
        <details className="mt-1 text-[13px]">
          <summary className="inline-flex min-h-8 cursor-pointer items-center text-ink-2 underline underline-offset-4">
            {t('fault.how')}
          </summary>
          <ul className="mt-1">
            {telling.map((b) => (
              <li key={`${b.of} ${b.name}`} className="flex justify-between gap-4 border-b border-line py-1">
                <span>{becauseText(b, view.findings, answers, words)}</span>
                <span className="shrink-0 text-ink-2">
                  {t(b.times >= 1 ? 'fault.times.for' : 'fault.times.against', {
                    times: timesText(b.times, words),
                  })}
                </span>
              </li>
            ))}
          </ul>
          {!first && cause !== null && (
            <p className="mt-1">
              {t(`cause.${cause}.now`)} {t(`cause.${cause}.next`)}
            </p>
          )}
        </details>
      )}
    </li>
  );
}

/** What a fault may come from, likeliest first, each with its evidence, what to do now and next time; and the one question that tells most. */
export function Causes({
  view,
  answers,
  onAnswer,
}: {
  view: FaultView;
  answers: Answers;
  /** Answers a question; left out where nothing is asked any more. */
  onAnswer?: (clue: Clue, isThere: boolean) => void;
}) {
  const words = useWords();
  const { t } = words;
  const { questions, ranked, settledBy } = view;
  const [unknown, setUnknown] = useState<readonly Clue[]>([]);
  const question = onAnswer && questions.find((q) => !unknown.includes(q));
  const drawn = ranked.filter((r) => r.odds >= WORTH_DRAWING);
  return (
    <Panel title={t('fault.causes')}>
      {ranked.length === 0 ? (
        <p className="text-[14px] text-ink-2">{t('fault.causes.none')}</p>
      ) : (
        <>
          {question && (
            <div className="mb-3 rounded border-2 border-violet-text bg-violet-tint p-3" aria-live="polite">
              <h3 className="text-[12.5px] font-semibold text-ink-2">{t('fault.asked')}</h3>
              <p className="text-[16px] font-semibold">{t(`clue.${question}.q` as WordKey)}</p>
              <div className="mt-2 flex flex-wrap gap-2">
                <Button look="main" onClick={() => onAnswer(question, true)}>
                  {t('fault.yes')}
                </Button>
                <Button look="main" onClick={() => onAnswer(question, false)}>
                  {t('fault.no')}
                </Button>
                <Button look="quiet" onClick={() => setUnknown([...unknown, question])}>
                  {t('fault.dont-know')}
                </Button>
              </div>
            </div>
          )}
          <ol>
            {drawn.map((r, k) => (
              <CauseRow key={r.cause ?? 'none'} ranked={r} first={k === 0} view={view} answers={answers} />
            ))}
          </ol>
          {settledBy && settledBy !== question && (
            <p className="mt-2 text-[13.5px]">
              {t('fault.settle', { what: words.word('clue', `${settledBy}.name`) })}
            </p>
          )}
          <p className="mt-2 text-[12.5px] text-ink-3">
            {t('fault.rests', { n: view.learnedFrom })}{' '}
            <Link to="/ledger/causes" className="underline underline-offset-4">
              {t('causes.link')}
            </Link>
          </p>
        </>
      )}
    </Panel>
  );
}

/** What a batch's record says that bears on faults, what is out of the ordinary first. */
export function Findings({
  view,
  answers,
  hasBatch,
  onForget,
}: {
  view: FaultView;
  answers: Answers;
  hasBatch: boolean;
  onForget?: (clue: Clue) => void;
}) {
  const words = useWords();
  const { t } = words;
  const odd = view.findings.filter((f) => f.isThere);
  const usual = view.findings.filter((f) => !f.isThere);
  const said = Object.entries(answers) as [Clue, boolean][];
  return (
    <Panel title={t('fault.record')}>
      {view.findings.length === 0 ? (
        <p className="text-[13.5px] text-ink-3">
          {t(hasBatch ? 'fault.record.none' : 'fault.record.no-batch')}
        </p>
      ) : (
        <>
          <ul className="text-[13.5px]">
            {odd.map((f) => (
              <li
                key={f.clue}
                className="flex items-baseline justify-between gap-3 border-b border-line py-1 last:border-0"
              >
                <span className="font-semibold">{findingText(f, words)}</span>
                <span className="shrink-0">
                  <Chip tone="bad">{t('fault.speaks')}</Chip>
                </span>
              </li>
            ))}
          </ul>
          {usual.length > 0 && (
            <details className="mt-1 text-[13.5px]">
              <summary className="inline-flex min-h-11 cursor-pointer items-center underline underline-offset-4">
                {t(odd.length > 0 ? 'fault.usual' : 'fault.usual.all', { n: usual.length })}
              </summary>
              <ul className="text-ink-2">
                {usual.map((f) => (
                  <li key={f.clue} className="border-b border-line py-1 last:border-0">
                    {findingText(f, words)}
                  </li>
                ))}
              </ul>
            </details>
          )}
        </>
      )}
      {said.length > 0 && (
        <>
          <h3 className="mb-1 mt-3 text-[13px] font-semibold text-ink-3">{t('fault.answers')}</h3>
          <ul className="text-[13.5px]">
            {said.map(([clue, isThere]) => (
              <li key={clue} className="flex items-center justify-between gap-3 border-b border-line">
                <span>{answerText(clue, isThere, words)}</span>
                {onForget && (
                  <Button look="quiet" onClick={() => onForget(clue)}>
                    {t('fault.forget')}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </Panel>
  );
}
