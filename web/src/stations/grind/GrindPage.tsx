import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, Machine, StepRecord } from '@wunsch/contract';
import { isConche } from '@wunsch/core/conche';
import { checkCharge } from '@wunsch/core/grind';
import { splitLoads } from '@wunsch/core/roast';
import { useSession } from '../../shell/session.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { CarriedOver } from '../CarriedOver.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { useStep, useTakeIntoConche } from '../useStep.ts';
import { weighable, WeighIn } from '../WeighIn.tsx';
import { atWorkWith, useAtWork, useMachines, useWork } from '../work.ts';
import { ChargeCheck } from './ChargeCheck.tsx';
import { chargeRange } from './chargeRange.ts';
import { Conching, Liking } from './Conching.tsx';
import { partsOf } from './parting.ts';
import { Running } from './Running.tsx';

function MachineField({
  machines,
  machine,
  onChange,
}: {
  machines: readonly Machine[];
  machine: Machine | undefined;
  onChange: (id: string) => void;
}) {
  const words = useWords();
  const { t } = words;
  const atWork = useAtWork();
  return (
    <SelectField
      label={t('grind.machine')}
      value={machine?.id ?? ''}
      onChange={(e) => onChange(e.target.value)}
      className="min-w-56"
    >
      {machines.map((m) => (
        <option key={m.id} value={m.id}>
          {[m.name, chargeRange(m, words), atWorkWith(m, atWork, words)].filter(Boolean).join(' · ')}
        </option>
      ))}
    </SelectField>
  );
}

function Grinding({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const machines = useMachines('grind');
  const { workshop } = useSession();
  const [machineId, setMachineId] = useState<string | null>(null);
  const [mixerId, setMixerId] = useState<string | null>(null);
  const here = view.flow.stations.find((s) => s.station === 'grind')!;
  // What is ground and waits for the conche is no charge for the stones.
  const waiting = here.waitingMg - here.toConcheMg;
  const atWork = useAtWork();
  const free = machines.filter((m) => !atWork.has(m.id));
  // What was chosen; else what is free and takes the charge, of what is meant for it if there is any.
  const chosen = (id: string | null, massMg: number, isMeant: (m: Machine) => boolean) => {
    const takes = (m: Machine) => massMg > 0 && checkCharge(massMg, m) === 'fits' && !m.tool;
    return (
      machines.find((m) => m.id === id) ??
      free.find((m) => isMeant(m) && takes(m)) ??
      free.find(takes) ??
      free.find(isMeant) ??
      machines.find(isMeant) ??
      machines[0]
    );
  };
  // What no machine takes whole is parted between those that are free.
  const parts = partsOf(waiting, free);
  const isParted = parts.length > 1;
  const machine = chosen(machineId ?? (isParted ? parts[0]!.machine.id : null), waiting, (m) => !isConche(m));
  const part = isParted ? parts.find((p) => p.machine.id === machine?.id)?.massMg : undefined;
  const turns = parts.length === 0 && machine?.maxMg ? splitLoads(waiting, machine.maxMg) : [];
  const { step, done, take, weighNow } = useStep(view, 'grind', () => ({
    machineId: machine?.id ?? null,
    details: { aimUm: view.recipe?.aimUm ?? workshop.gritAimUm },
  }));
  const drawn = view.parcels.filter((p) => p.material === 'chocolate' && p.remainingMg > 0);
  const drawnMg = drawn.reduce((s, p) => s + p.remainingMg, 0);
  const mixer = chosen(mixerId, drawnMg, isConche);
  const takeIntoConche = useTakeIntoConche(view, mixer?.id ?? null);
  // Pressure off, lid open: what is in the grinder goes on as a conche without being weighed in between.
  const concheHere = async (from: StepRecord) => void (await work.conche({ from }));
  if (step)
    return (
      <>
        <CarriedOver view={view} machineId={step.machineId} step={step} />
        {step.kind === 'conche' ? (
          <Conching key={step.id} view={view} step={step} />
        ) : (
          <Running key={step.id} view={view} step={step} onConche={concheHere} />
        )}
        <DoneSteps view={view} steps={done} />
      </>
    );
  const begin = (
    <Panel
      title={t('grind.begin')}
      aside={
        <Link to="/rest" className="underline underline-offset-4">
          {t('rest.title')}
        </Link>
      }
    >
      <p className="mb-3 max-w-prose text-[14px] text-ink-2">{t('grind.begin.text')}</p>
      {machines.length > 0 && (
        <div className="mb-4 flex flex-wrap items-end gap-3">
          <MachineField machines={machines} machine={machine} onChange={setMachineId} />
          <ChargeCheck machine={machine} massMg={part ?? waiting} />
          {machine && (
            <Link
              to={`/machine/${machine.id}`}
              className="inline-flex min-h-11 items-center underline underline-offset-4"
            >
              {t('machine.page')}
            </Link>
          )}
        </div>
      )}
      {isParted && (
        <p className="mb-3 max-w-prose text-[14px]">
          {t('charge.parted', {
            mass: words.mass(waiting),
            parts: parts
              .map((p) =>
                t('charge.part', { mass: words.mass(weighable(p.massMg, waiting)), name: p.machine.name }),
              )
              .join(', '),
          })}
        </p>
      )}
      {turns.length > 1 && (
        <p className="mb-3 max-w-prose text-[14px]">
          {t('charge.in-turns', { n: turns.length, mass: words.mass(weighable(turns[0]!, waiting)) })}
        </p>
      )}
      <CarriedOver view={view} machineId={machine?.id} />
      <WeighIn
        view={view}
        station="grind"
        title={t('grind.in')}
        suggestMg={part ?? (turns.length > 1 ? turns[0] : undefined)}
        take={take}
        together
        holds={machine}
        startOpen={weighNow}
        main={waiting > 0}
      />
    </Panel>
  );
  const conche = drawn.length > 0 && (
    <>
      <Panel title={t('conche.begin')}>
        <p className="mb-3 max-w-prose text-[14px] text-ink-2">{t('conche.begin.text')}</p>
        <div className="mb-4 flex flex-wrap items-end gap-3">
          <MachineField machines={machines} machine={mixer} onChange={setMixerId} />
          <ChargeCheck machine={mixer} massMg={drawnMg} />
        </div>
        <CarriedOver view={view} machineId={mixer?.id} />
        <WeighIn
          view={view}
          station="grind"
          title={t('conche.in')}
          holds={mixer}
          take={takeIntoConche}
          main={here.toConcheMg > 0}
        />
      </Panel>
      <Liking />
    </>
  );
  // What is next stands first.
  const isConcheNext = here.toConcheMg > 0 && waiting <= 0;
  return (
    <>
      <div className="grid gap-2">
        {isConcheNext ? conche : begin}
        {isConcheNext ? begin : conche}
      </div>
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Grind and conche: the charge and its additions, grit readings and when the aim is reached; sourness and when it is gone. */
export default function GrindPage() {
  return <StationFrame station="grind">{(view) => <Grinding view={view} />}</StationFrame>;
}
