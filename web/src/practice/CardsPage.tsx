import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { CardsReading } from '@wunsch/contract';
import { assessorUse } from '@wunsch/core/taste';
import {
  CARD_HABITS,
  drawCards,
  judgeCards,
  type CardHabit,
  type CardsRead,
  type DrawnCards,
} from '@wunsch/core/trainer';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { Points } from './Points.tsx';
import { TasterMarks } from './TasterMarks.tsx';

/** Reading a panel’s cards: six tasters nobody is, some of them spiked. Who can be believed? */
export default function CardsPage() {
  const { t } = useWords();
  const send = useEntryHere();
  const [cards, setCards] = useState<DrawnCards | null>(null);
  const [answers, setAnswers] = useState<readonly (CardHabit | null)[]>([]);
  const [result, setResult] = useState<CardsRead | null>(null);
  const begin = () => {
    const drawn = drawCards(crypto.getRandomValues(new Uint32Array(1))[0]!);
    setCards(drawn);
    setAnswers(drawn.tasters.map(() => null));
    setResult(null);
  };
  const finish = async () => {
    if (!cards) return;
    const said = answers as CardHabit[];
    const body: CardsReading = { habits: [...cards.habits], answers: [...said] };
    await send({ path: `/api/cards-readings/${newId()}`, body, label: t('cards.done'), undo: true });
    setResult(judgeCards(cards.habits, said));
  };
  return (
    <div className="mx-auto grid max-w-5xl gap-2 p-3 sm:px-4">
      <p>
        <Link to="/practice" className="inline-flex min-h-11 items-center underline underline-offset-4">
          {t('practice')}
        </Link>
      </p>
      <h1 className="text-[26px]">{t('cards')}</h1>
      {!cards && (
        <Panel>
          <p className="mb-4 max-w-prose">{t('cards.text')}</p>
          <Button look="main" big onClick={begin}>
            {t('cards.begin')}
          </Button>
        </Panel>
      )}
      {cards && (
        <Panel title={result ? t('practice.score') : t('cards.ask')}>
          {result ? (
            <CameTo result={result} />
          ) : (
            <p className="mb-3 max-w-prose text-[13.5px] text-ink-2">{t('cards.ask.text')}</p>
          )}
          <Tasters
            cards={cards}
            answers={answers}
            isTold={result !== null}
            onAnswer={(k, answer) => setAnswers(answers.map((a, i) => (i === k ? answer : a)))}
          />
          {result ? (
            <Button className="mt-4" onClick={() => setCards(null)}>
              {t('palate.again')}
            </Button>
          ) : (
            <Button
              look="main"
              big
              className="mt-4"
              disabled={answers.includes(null)}
              onClick={() => void finish().catch(() => undefined)}
            >
              {t('palate.finish')}
            </Button>
          )}
        </Panel>
      )}
    </div>
  );
}

function CameTo({ result }: { result: CardsRead }) {
  const words = useWords();
  return (
    <>
      <Points points={result.points} />
      <p className="my-3 max-w-prose text-[14px]">
        {words.t('cards.came', { right: result.right, of: result.of })}{' '}
        {words.t('palate.by-chance', {
          chance: words.percent(result.byChance, result.byChance < 0.01 ? 2 : 0),
        })}{' '}
        {words.t('cards.came.text')}
      </p>
    </>
  );
}

/** A taster’s marks each, with what can be said of them; once answered, what it really was and by which figures it shows. */
function Tasters({
  cards,
  answers,
  isTold,
  onAnswer,
}: {
  cards: DrawnCards;
  answers: readonly (CardHabit | null)[];
  isTold: boolean;
  onAnswer: (k: number, answer: CardHabit) => void;
}) {
  const words = useWords();
  const { t } = words;
  const use = useMemo(() => assessorUse(cards.scores), [cards]);
  return (
    <ul className="grid gap-x-6 gap-y-4 sm:grid-cols-2 lg:grid-cols-3">
      {cards.tasters.map((taster, k) => {
        const figures = use.find((u) => u.assessor === taster);
        const isRight = answers[k] === cards.habits[k];
        return (
          <li key={taster} className="border-t border-line pt-2">
            <h3 className="text-[15px] font-semibold">{t('cards.taster', { name: taster })}</h3>
            <TasterMarks cards={cards} taster={taster} />
            {!isTold && (
              <Choice
                label={t('cards.taster', { name: taster })}
                value={answers[k] ?? null}
                options={CARD_HABITS.map((h) => ({ value: h, label: t(`cards.${h}`) }))}
                onChange={(next) => onAnswer(k, next)}
              />
            )}
            {isTold && (
              <>
                <p className={`text-[14px] font-semibold ${isRight ? '' : 'text-bad'}`}>
                  {isRight ? '✓ ' : '▲ '}
                  {t(`cards.${cards.habits[k]!}`)}
                  {!isRight && `; ${t('cards.said', { said: t(`cards.${answers[k]!}`) })}`}
                </p>
                {figures && figures.repeat !== null && figures.width !== null && (
                  <p className="text-[13px] text-ink-2">
                    {t('cards.figures', {
                      again: words.number(figures.repeat, 1),
                      width: words.number(figures.width, 1),
                      agreement: figures.agreement === null ? '–' : words.number(figures.agreement, 1),
                    })}
                  </p>
                )}
              </>
            )}
          </li>
        );
      })}
    </ul>
  );
}
