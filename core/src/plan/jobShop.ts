import { requireWhole } from '../numerics/index.ts';
import type { PlanProject } from './project.ts';

/**
 * A job shop as a project: each job runs over machines in its own order, one thing at a time on each.
 *
 * @param jobs operations of each job as pairs of machine and length
 * @returns activities `job.operation`, counted from 0, on resources named by their machine
 * @throws RangeError for a length or machine that is no whole number
 * @example jobShop([[[0, 3], [1, 2]]]).activities.length // 2
 */
export function jobShop(jobs: readonly (readonly (readonly [number, number])[])[]): PlanProject {
  const machines = new Set<number>();
  const activities = jobs.flatMap((job, j) =>
    job.map(([machine, duration], k) => {
      requireWhole(machine, 'a machine');
      requireWhole(duration, 'a length');
      machines.add(machine);
      return { id: `${j}.${k}`, duration, uses: [{ oneOf: [String(machine)] }] };
    }),
  );
  return {
    activities,
    resources: [...machines].sort((a, b) => a - b).map((m) => ({ id: String(m), capacity: 1 })),
    waits: jobs.flatMap((job, j) => job.slice(1).map((_, k) => ({ from: `${j}.${k}`, to: `${j}.${k + 1}` }))),
  };
}
