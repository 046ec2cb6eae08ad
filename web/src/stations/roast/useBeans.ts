import { useEffect, useMemo, useState } from 'react';
import type { Lot, Machine, RoastRecord } from '@wunsch/contract';
import {
  makeBean,
  type BeanLearning,
  type OvenLearning,
  type Ranged,
  type RoastForm,
} from '@wunsch/core/roast';
import { useRead } from '../../shell/door.tsx';
import { roastWork } from '../../workers/roast.ts';
import { isRawBeans, roastForm, weighedRoast } from './model.ts';

/** Loads of a lot that are asked for; the newest teach. */
const LOADS = 8;

type Beans = Pick<Lot, 'id' | 'beansPer100g' | 'moisture'>;

/** A lot's finished loads in an oven, newest first, with the step of each; null until they are known, none where they cannot be had. */
function useLoads(lot: Beans, machine: Machine | undefined) {
  const { data, error } = useRead<RoastRecord[]>(
    machine ? `/api/roasts?lotId=${lot.id}&machineId=${machine.id}&limit=${LOADS}&width=60` : null,
    { revalidateOnFocus: false },
  );
  return useMemo(() => {
    if (!data) return error || !machine ? [] : null;
    return data
      .filter((r) => r.step.status === 'closed')
      .flatMap((r) => {
        const load = weighedRoast(r);
        return load ? [{ stepId: r.step.id, load }] : [];
      });
  }, [data, error, machine]);
}

function useFacts({ beansPer100g, moisture }: Beans, form: RoastForm = 'beans') {
  return useMemo(() => makeBean({ beansPer100g, moisture, form }), [beansPer100g, moisture, form]);
}

/** What a question put to the roast room's thread was answered; null until then, and where it asks nothing. The key names all it depends on. */
function useAnswer<T>(key: string | null, ask: () => Promise<T>): T | null {
  const [found, setFound] = useState<{ key: string; answer: T } | null>(null);
  useEffect(() => {
    if (key === null) return;
    let gone = false;
    ask()
      .then((answer) => {
        if (!gone) setFound({ key, answer });
      })
      .catch(() => undefined);
    return () => {
      gone = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return found?.key === key ? found.answer : null;
}

/**
 * A lot's beans as what its finished loads in this oven lost has taught, or as its facts say where there are none; null until that is known.
 *
 * @param what goes in: of nibs, and of beans that were roasted before, only what is usual is told
 * @param without a load that is not to teach
 */
export function useBeans(
  lot: Beans,
  machine: Machine | undefined,
  learning: OvenLearning | null,
  what: string | null,
  without?: string,
): BeanLearning | null {
  const facts = useFacts(lot, roastForm(what));
  const loads = useLoads(lot, machine)
    ?.filter(({ stepId }) => stepId !== without)
    .map(({ load }) => load);
  const usual = useMemo<BeanLearning>(() => ({ bean: facts, loads: 0 }), [facts]);
  const teach = learning && loads && loads.length > 0 && isRawBeans(what);
  const answer = useAnswer(teach ? JSON.stringify([facts, learning.shifts, loads.map(told)]) : null, () =>
    roastWork.ask((thread) => thread.learnBeans(facts, loads!, learning!)).catch(() => usual),
  );
  return teach ? answer : loads ? usual : null;
}

/**
 * What finished loads were to lose, as shares of their mass with their 80 % ranges by step: their beans as the lot's other loads in this oven have
 * taught. Loads that cannot be told of are left out.
 */
export function useExpectedLosses(
  lot: Beans,
  machine: Machine | undefined,
  learning: OvenLearning | null,
  stepIds: readonly string[],
): ReadonlyMap<string, Ranged> {
  const facts = useFacts(lot);
  const loads = useLoads(lot, machine) ?? [];
  const which = loads.flatMap(({ stepId }, i) => (stepIds.includes(stepId) ? [i] : []));
  const answer = useAnswer(
    learning && which.length > 0
      ? JSON.stringify([facts, learning.shifts, which, loads.map(({ load }) => told(load))])
      : null,
    async () => {
      const all = loads.map(({ load }) => load);
      const ranges = await roastWork.ask((thread) => thread.losses(facts, all, learning!, which));
      return new Map(ranges.map((range, i) => [loads[which[i]!]!.stepId, range]));
    },
  );
  return answer ?? NONE;
}

/** Where nothing can be told. */
const NONE: ReadonlyMap<string, Ranged> = new Map();

/** What of a load tells it from another. */
const told = (load: NonNullable<ReturnType<typeof weighedRoast>>) => [
  load.loadKg,
  load.lossShare,
  load.outSeconds,
  load.beanReadings.length,
];
