import { useState } from 'react';
import type { Glass, SessionCardPut, TastingSession } from '@wunsch/contract';
import { useNow } from '../../../shell/now.ts';
import { Button } from '../../../ui/Button.tsx';
import { Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { FullCard } from '../FullCard.tsx';
import { QuickCard } from '../QuickCard.tsx';

/** What a card says, as it goes to the server. */
export type SaidCard = SessionCardPut['card'];

/**
 * Glass after glass for one seat: the next one in its order, with water and rests; any earlier one may be gone back to, and what is said
 * then is kept apart. `save` sends the card on its way.
 */
export function Glasses({
  seatId,
  session,
  glasses,
  save,
}: {
  seatId: string;
  session: Pick<TastingSession, 'question' | 'test' | 'card' | 'restMinutes'>;
  glasses: readonly Glass[];
  save: (glass: Glass, card: SaidCard) => Promise<unknown>;
}) {
  const { t } = useWords();
  const [back, setBack] = useState<string | null>(null);
  const [rested, setRested] = useState<string | null>(null);
  const isChoice = session.question === 'different';
  const next = glasses.find((g) => !g.done) ?? null;
  const current = glasses.find((g) => keyOf(g) === back) ?? next;
  const rounds = Math.max(0, ...glasses.map((g) => g.round));
  const ofRound = (g: Glass) => glasses.filter((x) => x.round === g.round);
  return (
    <div className="grid gap-2">
      {!isChoice && (
        <nav aria-label={t('panel.glasses')} className="flex flex-wrap gap-1.5">
          {glasses.map((g) => (
            <button
              key={keyOf(g)}
              type="button"
              disabled={!g.done && g !== next}
              aria-current={g === current ? 'step' : undefined}
              onClick={() => setBack(g === next ? null : keyOf(g))}
              className={`num min-h-11 min-w-14 rounded border px-2 text-[15px] font-semibold disabled:opacity-55 ${g === current ? 'border-2 border-violet-text' : 'border-edge'} ${g.done ? 'bg-violet-tint' : 'bg-panel'}`}
            >
              {g.code}
              {g.done && <span aria-hidden="true"> ✓</span>}
            </button>
          ))}
        </nav>
      )}
      {current === null ? (
        <Panel title={t('panel.done')}>
          <p>{t('panel.done.text')}</p>
        </Panel>
      ) : isChoice ? (
        <Choose
          key={current.round}
          test={session.test}
          glasses={ofRound(current)}
          round={current.round}
          rounds={rounds}
          onChoose={(code) => save(current, { form: 'choice', code, words: '' })}
        />
      ) : current.rest && !current.done && rested !== keyOf(current) ? (
        <Rest minutes={session.restMinutes} onRested={() => setRested(keyOf(current))} />
      ) : (
        <>
          <Panel>
            <p className="flex flex-wrap items-baseline gap-x-4">
              <span className="num text-[42px] font-semibold leading-none">{current.code}</span>
              <span className="text-[13px] text-ink-3">
                {t('panel.glass.of', {
                  place: current.place,
                  of: ofRound(current).length,
                  round: current.round,
                })}
              </span>
            </p>
            <p className="mt-1 text-[13px] text-ink-2">
              {t(current.done ? 'panel.glass.again' : 'panel.glass.water')}
            </p>
          </Panel>
          {session.card === 'quick' ? (
            <QuickCard key={keyOf(current)} save={(card) => save(current, card).then(() => setBack(null))} />
          ) : (
            <FullCard
              key={keyOf(current)}
              cardKey={`${seatId}.${keyOf(current)}`}
              save={(card) => save(current, card)}
              onSaved={() => setBack(null)}
            />
          )}
        </>
      )}
    </div>
  );
}

const keyOf = (g: Glass) => `${g.round}.${g.place}`;

/** A rest on the clock; whoever feels ready goes on before it is over. */
function Rest({ minutes, onRested }: { minutes: number; onRested: () => void }) {
  const { t, duration } = useWords();
  const now = useNow(1000);
  const [since] = useState(now);
  const left = Math.max(0, minutes * 60 - Math.floor((now - since) / 1000));
  return (
    <Panel>
      <p className="text-[15px]">{t('panel.glass.rest', { min: minutes })}</p>
      <p role="timer" className="num my-3 text-[32px] font-semibold leading-none">
        {left > 0 ? duration(left) : '✓'}
      </p>
      <Button look={left > 0 ? 'plain' : 'main'} big onClick={onRested}>
        {t('panel.glass.rested')}
      </Button>
    </Panel>
  );
}

/** A forced choice: one of the glasses, and no other answer. */
function Choose({
  test,
  glasses,
  round,
  rounds,
  onChoose,
}: {
  test: 'triangle' | 'duo-trio';
  glasses: readonly Glass[];
  round: number;
  rounds: number;
  onChoose: (code: string) => Promise<unknown>;
}) {
  const { t } = useWords();
  const [chosen, setChosen] = useState<string | null>(null);
  const [reference, ...others] = glasses;
  const offered = test === 'duo-trio' ? others : glasses;
  return (
    <Panel aside={t('panel.glass.of', { place: round, of: rounds, round })}>
      <p className="mb-3 text-[16px]">
        {test === 'triangle'
          ? t('panel.choose.triangle')
          : t('panel.choose.duo-trio', { reference: reference?.code ?? '' })}
      </p>
      <p className="mb-3 text-[13px] text-ink-2">{t('panel.glass.water')}</p>
      <div role="radiogroup" aria-label={t('panel.glasses')} className="mb-4 flex flex-wrap gap-2">
        {offered.map((g) => (
          <button
            key={g.code}
            type="button"
            role="radio"
            aria-checked={chosen === g.code}
            onClick={() => setChosen(g.code)}
            className={`num min-h-20 min-w-24 rounded border text-[28px] font-semibold ${chosen === g.code ? 'border-violet bg-violet text-white' : 'border-edge bg-panel'}`}
          >
            {g.code}
          </button>
        ))}
      </div>
      <Button
        look="main"
        big
        disabled={chosen === null}
        onClick={() => void onChoose(chosen!).catch(() => undefined)}
      >
        {t('panel.choose')}
      </Button>
    </Panel>
  );
}
