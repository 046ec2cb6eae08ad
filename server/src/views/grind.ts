import type { GrindView, MovementRecord, ObservationRecord, StepRecord } from '@wunsch/contract';
import {
  DEFAULT_AIM_UM,
  forecastGrind,
  grindingHours,
  READINGS_NEEDED,
  type Pause,
} from '@wunsch/core/grind';

const HOUR = 3_600_000;

/** Points of the drawn band. */
const BAND_POINTS = 24;

/** What one grind step needs for its view. */
export interface GrindInput {
  step: StepRecord;
  movements: readonly MovementRecord[];
  observations: readonly ObservationRecord[];
  aimUm: number | null;
  /** Epoch ms. */
  now: number;
  /** Draw the band of the forecast; left out where only the stop is shown. */
  withBand: boolean;
}

/** The readings of a grind since its last solid addition, and when its aim should be reached. */
export function grindView({ step, movements, observations, aimUm, now, withBand }: GrindInput): GrindView {
  const aim = step.details.aimUm ?? aimUm ?? DEFAULT_AIM_UM;
  const mine = observations.filter((o) => o.stepId === step.id);
  const pauses = pausesOf(mine);
  const additions = movements
    .filter((m) => m.stepId === step.id && m.direction === 'in' && m.inForce)
    .map((m) => Date.parse(m.at));
  const start = Math.max(Date.parse(step.startedAt), ...additions);
  const end = step.endedAt ? Date.parse(step.endedAt) : now;
  const readings = mine.flatMap((o) => {
    const at = Date.parse(o.at);
    if (o.data.kind !== 'grit' || o.data.um === null || at < start) return [];
    return [{ id: o.id, hours: grindingHours(start, at, pauses), um: o.data.um, at: o.at }];
  });
  const paused = pauses.some((p) => p.to === null);
  const hours = grindingHours(start, end, pauses);
  const base = {
    stepId: step.id,
    aimUm: aim,
    segmentStart: new Date(start).toISOString(),
    hours,
    paused,
    readings,
  };
  const fit = forecastGrind({ readings, aimUm: aim });
  if (!fit.ok) return { ...base, needs: fit.needs, forecast: null };
  const { toAim } = fit;
  const instant = (h: number) => new Date(end + Math.max(0, h - hours) * HOUR).toISOString();
  const span = Math.max(hours, Number.isFinite(toAim.high) ? toAim.high : toAim.median, 4) * 1.1;
  const last = Number.isFinite(span) ? Math.min(span, hours + 240) : hours + 48;
  return {
    ...base,
    needs: Math.max(0, READINGS_NEEDED - readings.length),
    forecast: {
      curve: fit.curve,
      hoursToAim: { median: finite(toAim.median), low: finite(toAim.low), high: finite(toAim.high) },
      aimAt: Number.isFinite(toAim.median)
        ? {
            at: instant(toAim.median),
            low: instant(toAim.low),
            high: Number.isFinite(toAim.high) ? instant(toAim.high) : null,
          }
        : null,
      chanceReached: fit.chanceReached,
      band: withBand
        ? Array.from({ length: BAND_POINTS + 1 }, (_, i) => {
            const h = (last * i) / BAND_POINTS;
            return { hours: h, ...fit.at(h) };
          })
        : [],
      runs: fit.prior.runs,
    },
  };
}

const finite = (x: number) => (Number.isFinite(x) ? x : null);

function pausesOf(observations: readonly ObservationRecord[]): Pause[] {
  const pauses: Pause[] = [];
  for (const o of observations) {
    const open = pauses.at(-1);
    if (o.data.kind === 'pause' && (!open || open.to !== null))
      pauses.push({ from: Date.parse(o.at), to: null });
    if (o.data.kind === 'resume' && open && open.to === null) open.to = Date.parse(o.at);
  }
  return pauses;
}
