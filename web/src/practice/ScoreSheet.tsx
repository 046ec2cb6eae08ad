import type { PracticeScore } from '@wunsch/contract';
import type { MarkId } from '@wunsch/core/trainer';
import { Panel } from '../ui/Panel.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { Points } from './Points.tsx';
import { Replay } from './Replay.tsx';
import { ReplayLines } from './ReplayLines.tsx';

/** A mark’s figure as the station writes it. */
function figureOf(id: MarkId, value: number, words: Words): string {
  if (id === 'window' || id === 'melted' || id === 'ceiling') return words.temperature(value);
  if (id === 'dose' || id === 'evenness') return `${words.number(value, 1)} ${words.t('unit.min')}`;
  if (id === 'grit' || id === 'not-too-fine') return `${words.number(value, 1)} µm`;
  if (id === 'read' || id === 'picked') return words.number(value);
  if (id === 'read-last') return `${words.number(value, 1)} ${words.t('unit.h')}`;
  return `${words.number(value, id === 'crystals' ? 2 : id === 'husk' || id === 'nib-lost' || id === 'weighed' ? 1 : 0)} %`;
}

/** What a practice came to: points with their reasons, and what really went on. */
export function ScoreSheet({ score }: { score: PracticeScore }) {
  const words = useWords();
  const { t } = words;
  // At the winnower and the mill no probe reads along.
  const isByTouch = score.lesson === 'winnow' || score.lesson === 'grind';
  return (
    <div className="grid gap-2 p-3 sm:px-4 lg:grid-cols-[1fr_1.5fr]">
      <Panel title={t(score.finished ? 'practice.score' : 'practice.score.so-far')}>
        <Points points={score.points} isFinal={score.finished} />
        {score.verdict && (
          <p className="mt-2 text-[14px]">{t(`practice.verdict.${score.verdict as 'good'}`)}</p>
        )}
        <ul className="mt-3">
          {score.marks.map((m) => (
            <li key={m.id} className="grid gap-1 border-b border-line py-2">
              <span className="flex justify-between gap-3 text-[13.5px]">
                <b className="font-semibold">{t(`practice.mark.${m.id as MarkId}`)}</b>
                <span className="num">{t('practice.points', { n: m.points, of: m.of })}</span>
              </span>
              <span className="h-1.5 rounded bg-panel-2" aria-hidden="true">
                <span
                  className="block h-full rounded bg-violet"
                  style={{ width: `${(100 * m.points) / m.of}%` }}
                />
              </span>
              {m.figure !== null && m.wanted !== null && (
                <span className="text-[13px] text-ink-2">
                  {t(`practice.mark.${m.id as MarkId}.text`, {
                    was: figureOf(m.id as MarkId, m.figure, words),
                    wanted: figureOf(m.id as MarkId, m.wanted, words),
                  })}
                </span>
              )}
            </li>
          ))}
        </ul>
        {score.accident && (
          <p className="mt-3 border-l-4 border-signal pl-3 text-[13.5px]">
            {t(`practice.accident.${score.accident.kind as 'draught'}`, {
              min: Math.round(score.accident.minutes),
            })}
          </p>
        )}
      </Panel>
      <Panel title={t('practice.replay')} aside={isByTouch ? undefined : t('practice.replay.aside')}>
        {isByTouch ? <ReplayLines score={score} /> : <Replay score={score} />}
      </Panel>
    </div>
  );
}
