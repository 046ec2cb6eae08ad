import { Plus } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { allIsIn, type Station } from '@wunsch/core/ledger';
import { useDoor } from '../shell/door.tsx';
import { chosenStep, toAnother, toStep } from '../shell/chosenStep.ts';
import { useMayMake } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';
import { balanceOf, stepsAt, useAtWork, useMachine, useMachines } from './work.ts';

/** Stations at which a batch may be in several machines at once. */
type Several = 'roast' | 'grind' | 'temper';

const isSeveral = (station: Station): station is Several =>
  station === 'roast' || station === 'grind' || station === 'temper';

/**
 * A batch that is in several machines of a station at once: one of them at a time is worked on, and what waits may go into another that is free.
 * Nothing while there is but one and no other takes anything.
 */
export function AtOnce({ view, station }: { view: BatchView; station: Station }) {
  const { isPractice } = useDoor();
  return isSeveral(station) && !isPractice ? <Machines view={view} station={station} /> : null;
}

function Machines({ view, station }: { view: BatchView; station: Several }) {
  const { t, mass } = useWords();
  const [search] = useSearchParams();
  const mayMake = useMayMake();
  const machines = useMachines(station);
  const atWork = useAtWork();
  const all = stepsAt(view, station);
  const open = all.filter((s) => s.status === 'open');
  const here = view.flow.stations.find((s) => s.station === station)!;
  // A bowl by hand is no machine anybody names.
  const isFree =
    machines.length === 0
      ? station === 'temper'
      : machines.some((m) => !atWork.has(m.id) && !open.some((s) => s.machineId === m.id));
  const mayBegin = mayMake && view.batch.state === 'open' && isFree && here.waitingMg > 0 && !allIsIn(here);
  if (open.length < (mayBegin ? 1 : 2)) return null;
  const chosen = chosenStep(open, search);
  const path = `/${station}/${view.batch.id}`;
  return (
    <nav aria-label={t('at-once')} className="flex flex-wrap gap-1.5">
      {open.map((step) => (
        <Tab key={step.id} to={toStep(path, step.id)} isChosen={step.id === chosen?.id}>
          <Name step={step} byHand={t(`at-once.nth.${station}`, { n: all.indexOf(step) + 1 })} />
          <span className="text-[12.5px] text-ink-3">{mass(balanceOf(view, step.id).differenceMg)}</span>
        </Tab>
      ))}
      {mayBegin && (
        <Tab to={toAnother(path, open)} isChosen={!chosen}>
          <Plus size={16} aria-hidden="true" />
          {t(here.toConcheMg === here.waitingMg ? 'at-once.to-conche' : `at-once.${station}`, {
            mass: mass(here.waitingMg),
          })}
        </Tab>
      )}
    </nav>
  );
}

function Tab({ to, isChosen, children }: { to: string; isChosen: boolean; children: ReactNode }) {
  return (
    <Link
      to={to}
      aria-current={isChosen ? 'true' : undefined}
      className={`flex min-h-11 items-center gap-2 rounded border bg-panel px-3 text-[14px] ${isChosen ? 'border-2 border-violet-text font-semibold' : 'border-edge text-ink-2 hover:bg-panel-2'}`}
    >
      {children}
    </Link>
  );
}

/** The machine of a step; where it is in none, which of the batch's it is there. */
function Name({ step, byHand }: { step: StepRecord; byHand: string }) {
  const { t } = useWords();
  const machine = useMachine(step.machineId);
  const name = machine?.name ?? byHand;
  return <span>{step.kind === 'conche' ? t('at-once.conche', { machine: name }) : name}</span>;
}
