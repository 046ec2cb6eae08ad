import type { RoastAimDetails } from '@wunsch/contract';
import {
  plannedStirs,
  planMinutes,
  starterPlans,
  type BeanLearning,
  type OvenLearning,
  type RoastForecast,
  type RoastPlan,
} from '@wunsch/core/roast';
import { Choice } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';
import { lossText } from './lossText.ts';
import { RoastChart } from './RoastChart.tsx';
import { Solver } from './PlanSolver.tsx';
import { StageTable } from './StageTable.tsx';

/** A plan of stages: choose one to start from, drag it on the chart or write it in the table, or have it worked out for an aim. */
export function PlanEditor({
  plan,
  onPlan,
  aim,
  onAim,
  corridor,
  learning,
  beans,
  loadKg,
  every,
  earlier,
}: {
  plan: RoastPlan;
  onPlan: (plan: RoastPlan) => void;
  aim: RoastAimDetails;
  onAim: (aim: RoastAimDetails) => void;
  corridor: RoastForecast | null;
  learning: OvenLearning | null;
  beans: BeanLearning | null;
  loadKg: number;
  /** Seconds between stirs; undefined where there are none. */
  every: number | undefined;
  earlier: readonly (readonly { seconds: number; celsius: number }[])[];
}) {
  const words = useWords();
  const { t } = words;
  const starters = starterPlans(words.temperatureUnit);
  return (
    <div className="grid gap-3">
      <Choice
        label={t('roast.plan')}
        value={plan.name}
        options={starters.map((p) => ({
          value: p.name,
          label: words.word('plan', p.name),
          note: `${planMinutes(p)} ${t('unit.min')}`,
        }))}
        onChange={(name) => onPlan(starters.find((p) => p.name === name)!)}
      />
      <RoastChart
        label={t('roast.plan.chart')}
        plan={plan}
        onPlan={onPlan}
        bean={[]}
        oven={[]}
        earlier={earlier}
        corridor={corridor}
        now={null}
        marks={plannedStirs(plan, every, 0).map(({ seconds }) => ({
          seconds,
          text: t('roast.lane.stir'),
          planned: true,
        }))}
        ceilingC={aim.surfaceMaxC}
        height={270}
      />
      <p className="text-[12.5px] text-ink-3">
        {t('roast.drag.hint')} {every !== undefined && t('roast.stirs.hint')}
      </p>
      {(corridor || (learning && loadKg > 0)) && <Expected forecast={corridor} />}
      <Solver
        plan={plan}
        onPlan={onPlan}
        aim={aim}
        onAim={onAim}
        learning={learning}
        beans={beans}
        loadKg={loadKg}
        every={every}
      />
      <StageTable plan={plan} onPlan={onPlan} />
    </div>
  );
}

/** What the model expects of the plan, in a line of words; while that is reckoned it has its place, so that nothing below moves under a finger. */
function Expected({ forecast }: { forecast: RoastForecast | null }) {
  const words = useWords();
  const { t } = words;
  const range = (v: { low: number; high: number }, write: (n: number) => string) =>
    `${write(v.low)}–${write(v.high)}`;
  if (!forecast)
    return (
      <p className="text-[13.5px] text-ink-3">
        {t('roast.expected', { dose: '…', acid: '…', moisture: '…', loss: '…' })}
      </p>
    );
  return (
    <p className="text-[13.5px]">
      {t('roast.expected', {
        dose: range(forecast.dose.end, (n) => words.number(n, 0)),
        acid: `${words.number((1 - forecast.acid.end.high) * 100)}–${words.percent(1 - forecast.acid.end.low, 0)}`,
        moisture: range(forecast.moisture.end, (n) => words.number(n, 1)),
        loss: lossText(forecast.lossShare.end, words),
      })}
    </p>
  );
}
