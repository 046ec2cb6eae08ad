/** A run of a machine. */
export interface MachineRun {
  stepId: string;
  machineId: string;
  machine: string;
  batchCode: string | null;
  startedAt: string;
  endedAt: string | null;
  by: string;
}

/** A machine was cleaned. */
export interface Cleaning {
  machineId: string;
  at: string;
  by: string;
}

/** What ran on a machine just before or after something that is traced. */
export interface Neighbour {
  machineId: string;
  machine: string;
  /** The run that is traced. */
  of: MachineRun;
  run: MachineRun;
  /** Hours between the end of the one and the start of the other. */
  hoursBetween: number;
  /** The last cleaning in between; null where none was noted. */
  cleaned: Cleaning | null;
}

const HOUR = 3_600_000;

/**
 * Runs that are not traced themselves and came next before (`before`) or next after (`after`) one that is, on the same machine, in order of
 * machine and time; each pair once.
 */
export function neighboursOf(
  runs: readonly MachineRun[],
  cleanings: readonly Cleaning[],
  traced: ReadonlySet<string>,
  side: 'before' | 'after',
): Neighbour[] {
  const byMachine = new Map<string, MachineRun[]>();
  for (const run of runs) byMachine.set(run.machineId, [...(byMachine.get(run.machineId) ?? []), run]);
  const found: Neighbour[] = [];
  for (const [machineId, all] of byMachine) {
    const inOrder = [...all].sort((a, b) => a.startedAt.localeCompare(b.startedAt));
    inOrder.forEach((of, k) => {
      const run = inOrder[side === 'before' ? k - 1 : k + 1];
      if (!traced.has(of.stepId) || !run || traced.has(run.stepId)) return;
      const [first, second] = side === 'before' ? [run, of] : [of, run];
      const from = first.endedAt ?? first.startedAt;
      const between = cleanings
        .filter((c) => c.machineId === machineId && c.at >= first.startedAt && c.at <= second.startedAt)
        .sort((a, b) => b.at.localeCompare(a.at));
      found.push({
        machineId,
        machine: of.machine,
        of,
        run,
        hoursBetween: Math.max(0, (Date.parse(second.startedAt) - Date.parse(from)) / HOUR),
        cleaned: between[0] ?? null,
      });
    });
  }
  return found.sort(
    (a, b) => a.machine.localeCompare(b.machine) || a.of.startedAt.localeCompare(b.of.startedAt),
  );
}
