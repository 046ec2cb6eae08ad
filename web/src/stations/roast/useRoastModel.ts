import { useEffect, useMemo, useRef, useState } from 'react';
import type { Machine, RoastHabits, RoastRecord } from '@wunsch/contract';
import {
  type BeanLearning,
  type BeanReading,
  type LiveRoast,
  type OvenLearning,
  type RoastEvent,
  type RoastForecast,
  type RoastPlan,
} from '@wunsch/core/roast';
import { useRead } from '../../shell/door.tsx';
import { roastWork } from '../../workers/roast.ts';
import { loggedRoast, usualOven } from './model.ts';

/** Roasts an oven learns from. */
const LEARN_FROM = 8;

/** Least time between forecasts of a running roast, ms. */
const FORECAST_EVERY = 3000;

/** What ovens have taught so far, by all it depends on: going away and coming back need not learn anew. */
const learned = new Map<string, Promise<OvenLearning>>();

/** Ovens remembered. */
const MOST_OVENS = 12;

function learnOnce(key: string, learn: () => Promise<OvenLearning>): Promise<OvenLearning> {
  const known = learned.get(key);
  if (known) return known;
  const asked = learn();
  learned.set(key, asked);
  asked.catch(() => learned.delete(key));
  const [oldest] = learned.keys();
  if (learned.size > MOST_OVENS) learned.delete(oldest!);
  return asked;
}

/** What an oven's latest finished roasts have taught about it; null until the worker has answered. */
export function useOvenLearning(machine: Machine | undefined, without?: string): OvenLearning | null {
  const { data } = useRead<RoastRecord[]>(
    machine ? `/api/roasts?machineId=${machine.id}&limit=${LEARN_FROM + 2}&width=60` : null,
    { revalidateOnFocus: false },
  );
  const [learning, setLearning] = useState<OvenLearning | null>(null);
  const roasts = useMemo(
    () =>
      (data ?? [])
        .filter((r) => r.step.status === 'closed' && r.step.id !== without)
        .slice(0, LEARN_FROM)
        .flatMap((r) => loggedRoast(r) ?? []),
    [data, without],
  );
  const key = JSON.stringify([
    machine?.id,
    machine?.kind,
    machine?.maxMg,
    roasts.map((r) => r.beanReadings.length),
    data?.map((r) => r.step.id),
  ]);
  useEffect(() => {
    if (!data || !machine) return;
    let gone = false;
    learnOnce(key, () => roastWork.ask((thread) => thread.learn(usualOven(machine), roasts)))
      .then((l) => {
        if (!gone) setLearning(l);
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
    // The key names everything the answer depends on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return learning;
}

/** What a forecast is made from; times in seconds since beans-in. */
export interface ForecastInput {
  /** The beans as known; null until that is known. */
  beans: BeanLearning | null;
  plan: RoastPlan | undefined;
  loadKg: number;
  learning: OvenLearning | null;
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  events: readonly RoastEvent[];
  /** Null while nothing runs: the corridor of the plan is given. */
  now: number | null;
  aimDose: number | null;
  /** Highest surface temperature of the lot, °C, where it has one. */
  ceilingC?: number | null;
  habits: RoastHabits;
}

/** The forecast of a running roast, or the corridor of a plan, renewed in the worker every few seconds. */
export function useForecast(input: ForecastInput): RoastForecast | null {
  const [forecast, setForecast] = useState<RoastForecast | null>(null);
  const latest = useRef(input);
  useEffect(() => {
    latest.current = input;
  });
  const ready = Boolean(input.plan && input.learning && input.beans && input.loadKg > 0);
  const still = input.now === null;
  const key = still
    ? JSON.stringify([
        input.plan,
        input.loadKg,
        input.learning?.shifts,
        input.beans?.bean,
        input.events.length,
      ])
    : `live ${input.events.length} ${JSON.stringify(input.plan)} ${input.learning?.roasts} ${input.beans?.loads} ${input.loadKg}`;
  useEffect(() => {
    if (!ready) return;
    let gone = false;
    let timer: ReturnType<typeof setTimeout> | null = null;
    const ask = async () => {
      const { beans, plan, loadKg, learning, bean, oven, events, now, aimDose, ceilingC, habits } =
        latest.current;
      const live: LiveRoast = {
        bean: beans!.bean,
        oven: learning!.oven,
        covariance: learning!.covariance,
        plan: plan!,
        loadKg,
        events,
        beanReadings: now === null ? [] : bean,
        ovenReadings: now === null ? [] : oven,
        now: Math.max(0, now ?? 0),
        aimDose,
        ceilingC,
        killStep: { dMinutes: habits.dMinutes, zKelvin: habits.zKelvin, referenceC: habits.referenceC },
      };
      const answer = await roastWork.ask((thread) => thread.forecast(live)).catch(() => null);
      if (gone) return;
      if (answer) setForecast(answer);
      if (now !== null) timer = setTimeout(() => void ask(), FORECAST_EVERY);
    };
    // A plan that is being dragged settles first.
    timer = setTimeout(() => void ask(), still ? 150 : 0);
    return () => {
      gone = true;
      if (timer) clearTimeout(timer);
    };
  }, [ready, key, still]);
  return ready ? forecast : null;
}
