import type { BatchView } from '@wunsch/contract';
import { StationFrame } from '../StationFrame.tsx';
import { useStep } from '../useStep.ts';
import { DoneLoads } from './DoneLoads.tsx';
import { LiveLoad } from './LiveLoad.tsx';
import { NextLoad } from './NextLoad.tsx';

function Roasting({ view }: { view: BatchView }) {
  const { step, open, done, weighNow } = useStep(view, 'roast');
  const begun = done.length + open.length;
  return (
    <>
      {step ? (
        <LiveLoad key={step.id} view={view} step={step} earlier={done} />
      ) : (
        <NextLoad key={begun} view={view} done={done} begun={begun} weighNow={weighNow} />
      )}
      <DoneLoads view={view} steps={done} />
    </>
  );
}

/** The roast room: loads by a plan of stages, followed live, and the loads that are out. */
export default function RoastPage() {
  return <StationFrame station="roast">{(view) => <Roasting view={view} />}</StationFrame>;
}
