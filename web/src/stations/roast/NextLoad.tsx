import { Link } from 'react-router';
import type { BatchView, RoastAimDetails, StepRecord } from '@wunsch/contract';
import { RoastHabits } from '@wunsch/contract';
import type { Material } from '@wunsch/core/ledger';
import { plannedStirs, reckonsStirs, splitLoads, starterPlans, type RoastPlan } from '@wunsch/core/roast';
import { useSession } from '../../shell/session.tsx';
import { useKept } from '../../shell/useKept.ts';
import { SelectField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { temperatures } from '../series.ts';
import { WeighIn } from '../WeighIn.tsx';
import { atWorkWith, useAtWork, useMachines, useSources, usualMachine, useWork } from '../work.ts';
import { BeansPanel } from './BeansPanel.tsx';
import { OvenPanel } from './OvenPanel.tsx';
import { PlanEditor } from './PlanEditor.tsx';
import { isRawBeans, stirEvery } from './model.ts';
import { useBeans } from './useBeans.ts';
import { useForecast, useOvenLearning } from './useRoastModel.ts';

/** The aims a workshop roasts to unless a batch says otherwise. */
export function usualAim(habits: RoastHabits, ceilingC: number | null): RoastAimDetails {
  return {
    doseMinutes: habits.doseMinutes,
    acidGone: habits.acidGone,
    moistureLow: habits.moistureLow,
    moistureHigh: habits.moistureHigh,
    surfaceMaxC: ceilingC ?? habits.ceilingC,
    logReductions: habits.logReductions,
  };
}

/**
 * What the next load is of: what waits here, else more of the lot, and only where none is left what may be roasted once more.
 * @returns the material; null for raw beans
 */
function useGoesIn(view: BatchView, waitingMg: number): Material | null {
  const { own, lots } = useSources(view, 'roast');
  const ofLot = lots.filter((p) => p.lotId === view.batch.lotId);
  const first = waitingMg > 0 ? own : [...ofLot, ...own];
  return first.some((p) => isRawBeans(p.material)) ? null : (first[0]?.material ?? null);
}

/** The next load of a batch: its oven, its plan with what the model expects of it, and the beans weighed in. */
export function NextLoad({
  view,
  done,
  begun,
  weighNow,
}: {
  view: BatchView;
  done: readonly StepRecord[];
  /** Loads that are out, or in another oven. */
  begun: number;
  weighNow: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const machines = useMachines('roast');
  const { workshop } = useSession();
  const habits = RoastHabits.parse(workshop.roast ?? {});
  const last = done.at(-1)?.details;
  const number = begun + 1;
  // A plan takes minutes to make: a reload, or a look at another page, leaves it as it was.
  const [kept, setKept, forget] = useKept<{
    plan?: RoastPlan;
    aim?: RoastAimDetails;
    machineId?: string;
  }>(`roast.${view.batch.id}.${number}`);
  const plan = kept?.plan ?? (last?.plan as RoastPlan | undefined) ?? starterPlans(words.temperatureUnit)[0]!;
  const aim = kept?.aim ?? last?.aim ?? usualAim(habits, view.lot.ceilingC);
  const machineId = kept?.machineId ?? null;
  const byHand = machineId === '';
  const atWork = useAtWork();
  const oven = byHand
    ? undefined
    : (machines.find((m) => m.id === machineId) ?? usualMachine(machines, atWork, done.at(-1)?.machineId));
  const here = view.flow.stations.find((s) => s.station === 'roast')!;
  // Crumbs that are left of a charge are no load.
  const waiting = here.state === 'done' ? 0 : here.waitingMg;
  const loads = oven?.maxMg ? splitLoads(waiting, oven.maxMg) : waiting > 0 ? [waiting] : [];
  const loadKg = (loads[0] ?? oven?.maxMg ?? 2e6) / 1e6;
  const asked = stirEvery(habits, oven);
  const learning = useOvenLearning(oven);
  const goesIn = useGoesIn(view, waiting);
  const beans = useBeans(view.lot, oven, learning, goesIn);
  const every = learning === null || reckonsStirs(learning) ? asked : undefined;
  const corridor = useForecast({
    beans,
    plan: byHand ? undefined : plan,
    loadKg,
    learning,
    bean: [],
    oven: [],
    events: plannedStirs(plan, every, 0),
    now: null,
    aimDose: aim.doseMinutes,
    habits,
  });
  const earlier = done.map((s) => temperatures(view, s, 'bean')).filter((e) => e.length > 1);
  return (
    <Panel
      title={t('roast.load.next', { n: number })}
      aside={
        loads.length > 0 ? t('roast.loads', { n: loads.length, mass: words.mass(loads[0]!) }) : undefined
      }
    >
      <p className="mb-3 max-w-prose text-[12.5px] text-ink-3">{t('caution.raw')}</p>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <SelectField
          label={t('roast.oven')}
          value={byHand ? '' : (oven?.id ?? '')}
          onChange={(e) => setKept((now) => ({ ...now, machineId: e.target.value }))}
          className="w-full max-w-sm"
        >
          {machines.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
              {m.maxMg ? `, ${t('up-to', { mass: words.mass(m.maxMg) })}` : ''}
              {atWork.has(m.id) ? `, ${atWorkWith(m, atWork, words)}` : ''}
            </option>
          ))}
          <option value="">{t('roast.by-hand')}</option>
        </SelectField>
        <WeighIn
          view={view}
          station="roast"
          title={t('roast.in')}
          suggestMg={loads[0]}
          holds={oven}
          startOpen={weighNow}
          take={async (...what) => {
            const roast = {
              kind: 'roast' as const,
              machineId: oven?.id ?? null,
              details: {
                ...(!byHand && {
                  plan: {
                    ...plan,
                    stages: plan.stages.map((s) => ({
                      ...s,
                      until: s.until ?? null,
                      endBeanC: s.endBeanC ?? null,
                    })),
                  },
                  aim,
                }),
                byHand,
                ceilingC: aim.surfaceMaxC ?? view.lot.ceilingC ?? habits.ceilingC,
                ...(asked !== undefined && { stirSeconds: asked }),
                restHours: habits.restHours,
                load: number,
                loads: number - 1 + Math.max(1, loads.length),
              },
            };
            await work.take(roast, ...what);
            forget();
          }}
        />
        {begun === 0 && (
          <Link
            to={`/winnow/${view.batch.id}`}
            className="inline-flex min-h-11 items-center px-2 underline underline-offset-4"
          >
            {t('roast.skip')}
          </Link>
        )}
      </div>
      {byHand ? (
        <p className="max-w-prose text-[14px]">{t('roast.by-hand.text')}</p>
      ) : (
        <>
          <PlanEditor
            plan={plan}
            onPlan={(next) => setKept((now) => ({ ...now, plan: next }))}
            aim={aim}
            onAim={(next) => setKept((now) => ({ ...now, aim: next }))}
            corridor={corridor}
            learning={learning}
            beans={beans}
            loadKg={loadKg}
            every={every}
            earlier={earlier}
          />
          <OvenPanel machine={oven} learning={learning} />
          <BeansPanel lot={view.lot} beans={beans} />
        </>
      )}
    </Panel>
  );
}
