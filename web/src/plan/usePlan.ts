import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import type { Help, PlannedStep, PlanPin, Repair, WorkshopPlan } from '@wunsch/core/plan';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords } from '../words/words.tsx';
import { planAnswers, planWork } from '../workers/plan.ts';
import { progressOf, WorkCancelled } from '../workers/worker.ts';

/** Time a search is given, ms. */
const SEARCH_MS = 10_000;

/** Time a first plan is given, ms. */
const FIRST_MS = 1500;

const NOBODY = progressOf(() => undefined);

/** A plan that is shown but not in force. */
export interface Proposal {
  plan: WorkshopPlan;
  /** What it moves against the one in force. */
  repair: Repair | null;
  pins: PlanPin[];
  /** A search is still at it. */
  isSearching: boolean;
}

/** Everything a plan is made from; read again when anything of it changes. */
export const usePlanRoom = () => useRead<PlanRoomView>('/api/plan');

/**
 * The plan on the board: the one in force mended round what has happened, or a first one where there is none; what is proposed instead; and
 * what can be done with it.
 */
export function usePlan(room: PlanRoomView | undefined) {
  const { t } = useWords();
  const send = useEntryHere();
  const [proposal, setProposal] = useState<Proposal | null>(null);
  const [mended, setMended] = useState<{ room: PlanRoomView; repair: Repair } | null>(null);
  const [helps, setHelps] = useState<Help[]>([]);
  const [problem, setProblem] = useState<Error | null>(null);
  const turn = useRef(0);
  const kept = room?.kept ?? null;
  const pins = useMemo(() => proposal?.pins ?? kept?.pins ?? [], [proposal, kept]);

  // What has happened since mends the plan in force.
  useEffect(() => {
    if (!room) return;
    let current = true;
    const steps = (room.kept?.steps ?? []) as PlannedStep[];
    const first = (): Promise<Repair> =>
      planAnswers
        .ask<WorkshopPlan>((thread) => thread.plan(room, [], null, FIRST_MS, NOBODY))
        .then((plan) => ({ plan, moves: [], added: [], gone: [], instead: null }));
    const mend = () =>
      planAnswers.ask<Repair>((thread) =>
        thread.repair(room, steps, room.kept?.pins ?? [], 120, room.kept?.at),
      );
    (room.kept ? mend() : first()).then(
      (repair) => {
        if (!current) return;
        setMended({ room, repair });
        setProblem(null);
      },
      (error: unknown) => current && setProblem(error as Error),
    );
    return () => {
      current = false;
    };
  }, [room]);

  const shownSteps = proposal?.plan.steps ?? mended?.repair.plan.steps;
  useEffect(() => {
    if (!room || !mended || mended.room !== room) return;
    let current = true;
    planAnswers
      .ask<Help[]>((thread) => thread.helps(room, mended.repair.plan.steps))
      .then(
        (found) => current && setHelps(found),
        () => undefined,
      );
    return () => {
      current = false;
    };
  }, [room, mended]);

  /** Ends whatever is still being answered, so that it cannot come back over what is done next. */
  const nextTurn = useCallback(() => {
    turn.current += 1;
    planWork.cancel();
    return turn.current;
  }, []);

  const search = useCallback(async () => {
    if (!room) return;
    const mine = nextTurn();
    const show = (plan: WorkshopPlan, isSearching: boolean) => {
      if (turn.current === mine) setProposal({ plan, repair: null, pins: [...pins], isSearching });
    };
    try {
      const plan = await planWork.ask<WorkshopPlan>((thread) =>
        thread.plan(
          room,
          [...pins],
          shownSteps ?? null,
          SEARCH_MS,
          progressOf((better: WorkshopPlan) => show(better, true)),
        ),
      );
      show(plan, false);
    } catch (error) {
      if (turn.current !== mine) return;
      if (error instanceof WorkCancelled) setProposal((p) => p && { ...p, isSearching: false });
      else setProblem(error as Error);
    }
  }, [room, shownSteps, pins, nextTurn]);

  /** Shows what mending only proposes. */
  const lookAt = useCallback(
    (repair: Repair) => {
      nextTurn();
      setProposal({ plan: repair.plan, repair, pins: [...pins], isSearching: false });
    },
    [pins, nextTurn],
  );
  const stop = useCallback(() => planWork.cancel(), []);
  const drop = useCallback(() => {
    nextTurn();
    setProposal(null);
  }, [nextTurn]);

  /** Fixes a step, or loosens it where `pin` is null; everything else gives way. */
  const pinStep = useCallback(
    async (step: string, pin: PlanPin | null) => {
      if (!room) return;
      const next = [...pins.filter((p) => p.step !== step), ...(pin ? [pin] : [])];
      const base = (proposal?.plan.steps ?? mended?.repair.plan.steps ?? []) as PlannedStep[];
      const mine = nextTurn();
      try {
        const repair = await planAnswers.ask<Repair>((thread) => thread.pin(room, base, next));
        if (turn.current !== mine) return;
        setProposal({ plan: repair.plan, repair, pins: next, isSearching: false });
        setProblem(null);
      } catch (error) {
        if (turn.current === mine) setProblem(error as Error);
      }
    },
    [room, pins, proposal, mended, nextTurn],
  );

  const accept = useCallback(
    async (plan: WorkshopPlan, withPins: readonly PlanPin[]) => {
      nextTurn();
      await send({
        path: `/api/kept-plans/${newId()}`,
        body: {
          steps: plan.steps,
          pins: withPins,
          orders: plan.orders,
          note: '',
        },
        label: t('done.plan.keep'),
        undo: true,
      });
      setProposal(null);
    },
    [send, t, nextTurn],
  );

  return {
    kept,
    plan: proposal?.plan ?? mended?.repair.plan ?? null,
    /** What has moved against the plan in force. */
    repair: proposal ? proposal.repair : (mended?.repair ?? null),
    proposal,
    pins,
    helps,
    problem,
    search,
    lookAt,
    stop,
    drop,
    pinStep,
    accept,
  };
}

/** See {@link usePlan}. */
export type PlanHere = ReturnType<typeof usePlan>;
