import { useState } from 'react';
import type { Machine, RoastRecord } from '@wunsch/contract';
import type { OvenLearning } from '@wunsch/core/roast';
import { useRead } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { useWords } from '../../words/words.tsx';
import { roastWork } from '../../workers/roast.ts';
import type { LearningGain } from '../../workers/roast.worker.ts';
import { loggedRoast, usualOven } from './model.ts';

/** What an oven's roasts have taught about it, with uncertainties, and how much better it forecasts for that. */
export function OvenPanel({
  machine,
  learning,
}: {
  machine: Machine | undefined;
  learning: OvenLearning | null;
}) {
  const words = useWords();
  const { t } = words;
  const [gain, setGain] = useState<LearningGain | 'busy' | 'none' | null>(null);
  const { data } = useRead<RoastRecord[]>(
    machine ? `/api/roasts?machineId=${machine.id}&limit=10&width=60` : null,
    {
      revalidateOnFocus: false,
    },
  );
  if (!machine || !learning) return null;
  const show = (name: string, value: number, u: number) => {
    if (name === 'power') return `${words.number(value / 1000, 1)} ± ${words.number(u / 1000, 1)} kW`;
    if (name === 'lag') return `${words.number(value)} ± ${words.number(u)} s`;
    if (name === 'offset')
      return `${value >= 0 ? '+' : '−'}${words.number(words.kelvin(Math.abs(value)), 1)} ± ${words.number(words.kelvin(u), 1)} ${words.temperatureUnit}`;
    return `${words.number(value)} ± ${words.number(u)} W/m²K`;
  };
  const measure = async () => {
    setGain('busy');
    const roasts = (data ?? [])
      .filter((r) => r.step.status === 'closed')
      .flatMap((r) => loggedRoast(r) ?? []);
    const found = await roastWork.ask((thread) => thread.gain(usualOven(machine), roasts)).catch(() => null);
    setGain(found ?? 'none');
  };
  return (
    <details className="mt-3 rounded border border-line p-3">
      <summary className="min-h-8 cursor-pointer font-semibold">
        {t(learning.roasts > 0 ? 'oven.learnt' : 'oven.usual', { name: machine.name, n: learning.roasts })}
      </summary>
      <dl className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {learning.figures.map((f) => (
          <div key={f.name} className="flex justify-between gap-3 border-b border-line py-1">
            <dt className="text-ink-2">{t(`oven.${f.name}`)}</dt>
            <dd className="num">{show(f.name, f.value, f.u)}</dd>
          </div>
        ))}
      </dl>
      {learning.roasts === 0 ? (
        <p className="mt-2 text-[12.5px] text-ink-3">{t('oven.none')}</p>
      ) : (
        <p className="mt-2 text-[12.5px] text-ink-3">
          {t('oven.rms', {
            kelvin: words.number(words.kelvin(learning.rms), 1),
            unit: words.temperatureUnit,
          })}
        </p>
      )}
      {learning.roasts > 1 && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Button disabled={gain === 'busy'} onClick={() => void measure()}>
            {t('oven.gain')}
          </Button>
          <span role="status" className="text-[13px]">
            {gain === 'busy'
              ? t('loading')
              : gain === 'none'
                ? t('oven.gain.none')
                : gain &&
                  t('oven.gain.found', {
                    target: words.temperature(gain.targetC, 0),
                    before: words.duration(Math.round(gain.before)),
                    after: words.duration(Math.round(gain.after)),
                    n: gain.roasts,
                  })}
          </span>
        </div>
      )}
    </details>
  );
}
