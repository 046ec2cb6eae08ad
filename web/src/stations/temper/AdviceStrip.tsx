import { BellRing, Timer } from 'lucide-react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import type { BowlAdvice, FollowedBowl } from '@wunsch/core/temper';
import { useNow } from '../../shell/now.ts';
import { useMayMake } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** Waits shorter than this need no bell, s. */
const WORTH_A_BELL = 40;

type Words = ReturnType<typeof useWords>;

/** The advice in one sentence. */
export function adviceText(advice: BowlAdvice, words: Words): string {
  if (advice.do === 'add-seed' && advice.toC === null) return words.t('advice.add-seed.held');
  const to = 'toC' in advice && advice.toC !== null ? words.temperature(advice.toC) : '';
  const at = 'atC' in advice ? words.temperature(advice.atC) : '';
  return words.t(`advice.${advice.do}`, { to, at });
}

/** One line that says what to do at the bowl now, how long it takes, and a bell for it that rings on every screen. */
export function AdviceStrip({
  view,
  step,
  followed,
  unreadSince = null,
  onPour,
}: {
  view: BatchView;
  step: StepRecord;
  followed: FollowedBowl;
  /** When it was last read, where that is so long ago that nothing can be said of it now. */
  unreadSince?: number | null;
  /** Takes the chocolate out of the bowl; null while there is none. */
  onPour: (() => void) | null;
}) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const work = useWork(view);
  const clock = useNow(1000);
  // A board whose clock runs ahead, or a stand-in sped up, carries the bowl's time along.
  const now = Math.max(clock, Date.parse(step.startedAt) + followed.at * 1000);
  const { advice, outSince } = followed;
  const isOut = outSince !== null && unreadSince === null;
  const isBlind = isOut || unreadSince !== null;
  const text =
    unreadSince !== null
      ? t('bowl.unread', { time: words.when(new Date(unreadSince).toISOString()) })
      : isOut
        ? t('bowl.probe-out', {
            time: words.time(new Date(Date.parse(step.startedAt) + outSince * 1000).toISOString()),
          })
        : adviceText(advice, words);
  const seconds = !isBlind && 'seconds' in advice ? advice.seconds : null;
  const dueAt = seconds === null ? null : Date.parse(step.startedAt) + (followed.at + seconds) * 1000;
  const left = dueAt === null ? null : Math.max(0, (dueAt - now) / 1000);
  const rings = view.observations.some(
    (o) =>
      o.stepId === step.id &&
      o.data.kind === 'timer' &&
      o.data.label === text &&
      Date.parse(o.data.dueAt) > now &&
      !view.observations.some((d) => d.data.kind === 'timerDone' && d.data.timerId === o.id),
  );
  return (
    <div
      className="panel flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-l-violet px-4 py-3"
      data-testid="advice"
      aria-live="polite"
    >
      <p className="min-w-0 grow basis-64 text-[19px] font-semibold leading-snug">
        {text}
        {left !== null && (
          <span className="num ml-2 whitespace-nowrap text-[19px]">
            {left < 5
              ? t('advice.now')
              : t(advice.do === 'pour' ? 'advice.within' : 'advice.in', {
                  time: words.duration(Math.round(left / 5) * 5),
                })}
          </span>
        )}
        <span className="block text-[13px] font-normal text-ink-3">
          {isOut ? `${t('bowl.probe-out.hint')} ` : ''}
          {unreadSince !== null
            ? t('bowl.unread.hint')
            : `${t(`crystals.word.${followed.word}`)} · ${t('estimated')}`}
        </span>
      </p>
      {mayMake && left !== null && left >= WORTH_A_BELL && (
        <Button
          icon={rings ? <BellRing size={17} aria-hidden="true" /> : <Timer size={17} aria-hidden="true" />}
          disabled={rings}
          onClick={() =>
            void work.observe(
              step.id,
              { kind: 'timer', label: text, dueAt: new Date(clock + left * 1000).toISOString() },
              t('done.timer'),
            )
          }
        >
          {rings ? t('advice.rings') : t('advice.ring')}
        </Button>
      )}
      {(isBlind || advice.do === 'pour') && onPour && (
        <Button look="main" big onClick={onPour}>
          {t('temper.pour-now')}
        </Button>
      )}
    </div>
  );
}
