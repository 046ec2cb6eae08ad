import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { TastedBatch } from '@wunsch/contract';
import { FACTOR_HABITS, FACTORS, toSteps, type Advice, type Factor, type Setting } from '@wunsch/core/dialIn';
import { useRead } from '../../../shell/door.tsx';
import { useSession } from '../../../shell/session.tsx';
import { Button } from '../../../ui/Button.tsx';
import { SelectField } from '../../../ui/Field.tsx';
import { Chip, EmptyState, Panel } from '../../../ui/Panel.tsx';
import { useWords } from '../../../words/words.tsx';
import { tasteWork } from '../../../workers/taste.ts';
import { TasteHead } from '../sessions/TasteHead.tsx';
import { CanDoDialog } from './CanDoDialog.tsx';
import { factorText } from './factorText.ts';
import { saidOf, settingOf, trialsOf } from './trials.ts';

/** Share of the picture’s width at which a value stands: by steps, as the trade turns it. */
function placeOf(factor: Factor, value: number): number {
  const { low, high } = FACTOR_HABITS[factor];
  const [a, b] = [toSteps(factor, Math.max(low, 1e-9)), toSteps(factor, high)];
  return Math.min(1, Math.max(0, (toSteps(factor, value) - a) / (b - a)));
}

/** Where a factor is believed to be best: its range, what was tried, and what comes next. */
function FactorLine({
  factor,
  advice,
  can,
  fixedAt,
  onFix,
}: {
  factor: Factor;
  advice: Advice;
  /** What can be done here, where that has been said. */
  can: readonly [number, number] | undefined;
  /** Where it is kept; undefined where it is free. */
  fixedAt: number | undefined;
  onFix: (value: number | null) => void;
}) {
  const words = useWords();
  const { t } = words;
  const range = advice.believed[factor]!;
  const next = fixedAt ?? advice.setting[factor]!;
  const turn = fixedAt === undefined ? advice.turns.find((x) => x.factor === factor) : undefined;
  const at = (v: number) => `${placeOf(factor, v) * 100}%`;
  const tried = advice.tried.flatMap((x) =>
    x.setting[factor] === undefined ? [] : [{ value: x.setting[factor]!, isBest: x.isBest }],
  );
  return (
    <li className="border-b border-line py-3 last:border-0">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="text-[15px] font-semibold">{t(`next.factor.${factor}`)}</h3>
        <span className="num text-[19px] font-semibold">
          {turn ? `${factorText(factor, turn.from, words)} → ` : ''}
          {factorText(factor, next, words)}
        </span>
      </div>
      <div
        className="relative mt-2 h-9"
        role="img"
        aria-label={t('next.range', {
          low: factorText(factor, range.low, words),
          high: factorText(factor, range.high, words),
        })}
      >
        <span className="absolute inset-x-0 top-4 block h-px bg-line-2" />
        {can && (
          <span
            className="absolute top-[26px] block h-1.5 border-x-2 border-b-2 border-ink-3"
            style={{
              left: at(can[0]),
              width: `${(placeOf(factor, can[1]) - placeOf(factor, can[0])) * 100}%`,
            }}
          />
        )}
        <span
          className="absolute top-2 block h-4 border border-violet-text bg-violet-tint"
          style={{
            left: at(range.low),
            width: `${Math.max(0.6, (placeOf(factor, range.high) - placeOf(factor, range.low)) * 100)}%`,
          }}
        />
        {tried.map((x, k) => (
          <span
            key={k}
            className={`absolute top-[11px] block size-2.5 -translate-x-1/2 rounded-full border ${x.isBest ? 'border-ink bg-ink' : 'border-slate bg-panel'}`}
            style={{ left: at(x.value) }}
          />
        ))}
        <span
          className="absolute top-0 block h-8 w-1 -translate-x-1/2 bg-(--violet-text)"
          style={{ left: at(next) }}
        />
      </div>
      <div className="flex flex-wrap items-center justify-between gap-x-4 text-[12.5px] text-ink-3">
        <span>
          {t('next.range', {
            low: factorText(factor, range.low, words),
            high: factorText(factor, range.high, words),
          })}
        </span>
        <label className="inline-flex min-h-11 items-center gap-2 text-[13px] text-ink">
          <input
            type="checkbox"
            className="size-4 accent-violet"
            checked={fixedAt !== undefined}
            onChange={(e) =>
              onFix(
                e.target.checked ? (tried.find((x) => x.isBest)?.value ?? tried.at(0)?.value ?? next) : null,
              )
            }
          />
          {t('next.fix')}
        </label>
      </div>
    </li>
  );
}

const NO_LIMITS: Partial<Record<Factor, [number, number]>> = {};

/** From where to where each factor has been in what was tasted. */
function beenOf(settings: readonly Setting[]): Partial<Record<Factor, readonly [number, number]>> {
  return Object.fromEntries(
    FACTORS.flatMap((f) => {
      const values = settings.flatMap((s) => s[f] ?? []);
      return values.length === 0 ? [] : [[f, [Math.min(...values), Math.max(...values)] as const]];
    }),
  );
}

/** What the tasters of a batch said of it that bears on a turn. */
function Said({ batch }: { batch: TastedBatch }) {
  const { t } = useWords();
  const lines = (['sour', 'bitter', 'sweet'] as const).flatMap((basic) => {
    const said = saidOf(batch, basic);
    if (!said || said.much + said.little === 0) return [];
    const isMuch = said.much >= said.little;
    return [
      t(`next.said.${basic}.${isMuch ? 'much' : 'little'}`, {
        n: isMuch ? said.much : said.little,
        of: said.of,
        code: batch.code,
      }),
    ];
  });
  if (lines.length === 0) return null;
  return (
    <ul className="mt-2 text-[14px]">
      {lines.map((l) => (
        <li key={l}>
          <span aria-hidden="true">▸ </span>
          {l}
        </li>
      ))}
    </ul>
  );
}

/** The next trial of a lot: what to turn, what is expected of it, where everything is believed to be best, and when to stop. */
export default function NextTrialPage() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<TastedBatch[]>('/api/tasted-batches');
  const [chosen, setChosen] = useState<string | null>(null);
  const [fixed, setFixed] = useState<Setting>({});
  const trials = useMemo(() => trialsOf(data ?? []), [data]);
  const lots = useMemo(() => {
    const seen = new Map<string, { name: string; batches: number }>();
    for (const b of data ?? []) {
      const known = seen.get(b.lotId);
      seen.set(b.lotId, { name: b.lotName, batches: (known?.batches ?? 0) + 1 });
    }
    return seen;
  }, [data]);
  const lotId = chosen ?? data?.[0]?.lotId ?? null;
  const factors = useMemo(
    () => FACTORS.filter((f) => trials.some((x) => x.setting[f] !== undefined)),
    [trials],
  );
  const [advice, setAdvice] = useState<Advice | null>(null);
  const { person, workshop } = useSession();
  const { canDo = NO_LIMITS } = workshop;
  const [limiting, setLimiting] = useState(false);
  const isFree = factors.some((f) => fixed[f] === undefined);
  useEffect(() => {
    if (!lotId || trials.length === 0 || !isFree) return;
    let wanted = true;
    tasteWork
      .ask((thread) => thread.advise({ trials, lotId, fixed, factors, limits: canDo }))
      .then((found) => wanted && setAdvice(found))
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [trials, lotId, fixed, factors, canDo, isFree]);
  if (!data) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const mine = data.filter((b) => b.lotId === lotId);
  const best = advice?.tried.findIndex((x) => x.isBest) ?? -1;
  // Trials are in the order of the batches they come from.
  const told = mine.filter((b) => Object.keys(settingOf(b)).length > 0);
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={t('next.title')} at="next" note={t('next.text')} />
      {trials.length === 0 ? (
        <EmptyState title={t('next.none.title')}>{t('next.none')}</EmptyState>
      ) : (
        <div className="grid grid-cols-1 items-start gap-2 lg:grid-cols-[1fr_1.3fr]">
          <div className="grid gap-2">
            <Panel>
              <SelectField
                label={t('lot')}
                value={lotId ?? ''}
                onChange={(e) => {
                  setChosen(e.target.value);
                  setFixed({});
                  setAdvice(null);
                }}
              >
                {[...lots].map(([id, { name, batches }]) => (
                  <option key={id} value={id}>
                    {t('next.lot', { name, n: batches })}
                  </option>
                ))}
              </SelectField>
            </Panel>
            {!isFree ? (
              <Panel>
                <p>{t('next.all-fixed')}</p>
              </Panel>
            ) : (
              advice && (
                <Panel title={t(`next.verdict.${advice.verdict}`)}>
                  <p className="text-[15px]">{t(`next.verdict.${advice.verdict}.text`)}</p>
                  {advice.verdict !== 'stop' && (
                    <p className="num mt-3 text-[24px]">
                      {t('next.gain', {
                        gain: `${advice.gain >= 0 ? '+' : ''}${words.number(advice.gain, 1)}`,
                        sd: words.number(advice.gainSd, 1),
                      })}
                    </p>
                  )}
                  <p className="text-[13px] text-ink-2">
                    {t('next.near', { chance: words.chance(advice.near) })}
                  </p>
                  {told[best] && (
                    <p className="mt-2 text-[14px]">
                      {t('next.best')}{' '}
                      <Link to={`/batch/${told[best].batchId}`} className="underline underline-offset-4">
                        {told[best].code}
                      </Link>
                    </p>
                  )}
                  {told[0] && <Said batch={told[0]} />}
                  {advice.split && advice.verdict !== 'stop' && (
                    <p className="mt-3 rounded border border-line-2 p-3 text-[14px]">
                      {t('next.split', {
                        factor: t(`next.factor.${advice.split.factor}`),
                        to: factorText(advice.split.factor, advice.split.to, words),
                      })}
                    </p>
                  )}
                </Panel>
              )
            )}
          </div>
          {/* What is kept can be let go again, also where all is. */}
          {advice && (
            <Panel title={t('next.settings')} aside={<Chip>{t('estimated')}</Chip>}>
              <p className="text-[12.5px] text-ink-3">
                {t('next.legend')} {Object.keys(canDo).length > 0 && t('next.legend.can')}
              </p>
              <ul>
                {factors.map((f) => (
                  <FactorLine
                    key={f}
                    factor={f}
                    advice={advice}
                    can={canDo[f]}
                    fixedAt={fixed[f]}
                    onFix={(value) => {
                      const { [f]: _, ...rest } = fixed;
                      setFixed(value === null ? rest : { ...rest, [f]: value });
                    }}
                  />
                ))}
              </ul>
              <p className="mt-2 text-[12.5px] text-ink-3">{t('next.rests', { n: advice.others })}</p>
              {person.role === 'owner' && (
                <Button className="mt-3" onClick={() => setLimiting(true)}>
                  {t('next.can')}
                </Button>
              )}
            </Panel>
          )}
        </div>
      )}
      {limiting && (
        <CanDoDialog
          factors={factors}
          been={beenOf(data.map(settingOf))}
          onClose={() => setLimiting(false)}
        />
      )}
    </div>
  );
}
