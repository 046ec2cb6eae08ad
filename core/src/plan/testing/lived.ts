import type { PlannedStep, WorkshopProject } from '../index.ts';

/**
 * How a workshop might really go, told apart from how the plan reckons it: every step takes a Weibull-distributed time of the same
 * median and 80th percentile, each for itself; people take their steps in the order of the plan, nothing before it was planned, what does
 * not fit into the hours that are left goes to the next; and where whoever was to do it would be half a day later than somebody else who may, that one
 * does it.
 */
export function lived(
  { project, steps: known, zero }: WorkshopProject,
  steps: readonly PlannedStep[],
  random: () => number,
): Map<string, number> {
  const planned = new Map(steps.map((s) => [s.key, s]));
  const open = new Map((project.resources ?? []).map((r) => [r.id, r.open]));
  const free = new Map<string, number>();
  const ends = new Map<string, number>();
  const order = [...project.activities].sort(
    (a, b) => Date.parse(planned.get(a.id)!.start) - Date.parse(planned.get(b.id)!.start),
  );
  /** A Weibull time of this median and 80th percentile. */
  const weibull = (median: number, p80: number): number => {
    const shape = Math.log(Math.log(5) / Math.LN2) / Math.log(Math.max(1.001, p80 / median));
    return median * (-Math.log2(1 - random())) ** (1 / shape);
  };
  for (const a of order) {
    const { time, begun } = known.find((s) => s.key === a.id)!;
    const left = Math.max(1, Math.round(weibull(time.minutes, time.minutes80)));
    // What runs has run since it began.
    const length = begun ? a.duration - time.minutes + left : left;
    const { start, personId, machineId, batch, stage } = planned.get(a.id)!;
    // A bowl is taken from the loading to the drawing off.
    const bowl = stage === 'load' || stage === 'draw' ? planned.get(`${batch}/grind/1`)!.machineId : null;
    const machine = stage === 'grind' || stage === 'draw' ? null : machineId;
    let t = Math.max(0, Math.round((Date.parse(start) - zero) / 60_000));
    for (const w of project.waits ?? [])
      if (w.to === a.id) t = Math.max(t, (ends.get(w.from) ?? 0) + (w.least ?? 0));
    if (machine !== null) t = Math.max(t, free.get(machine) ?? 0);
    const doneBy = (person: string | null): number => {
      const from = begun ? a.fixedAt! : Math.max(t, person === null ? 0 : (free.get(person) ?? 0));
      const windows = person === null ? undefined : open.get(person);
      const fits = windows?.find(([opens, to]) => Math.max(from, opens) + time.minutes <= to);
      return (windows ? Math.max(from, fits![0]) : from) + length;
    };
    const may = personId === null ? [] : (a.uses?.find((u) => u.oneOf.includes(personId))?.oneOf ?? []);
    const [soonest] = [...may].sort((p, q) => doneBy(p) - doneBy(q));
    const isHandedOver = soonest !== undefined && doneBy(soonest) < doneBy(personId) - 240;
    const person = isHandedOver ? soonest : personId;
    const done = doneBy(person);
    for (const id of [person, machine]) if (id !== null) free.set(id, id === bowl ? Infinity : done);
    if (stage === 'draw' && bowl !== null) free.set(bowl, done);
    ends.set(a.id, done);
  }
  return ends;
}
