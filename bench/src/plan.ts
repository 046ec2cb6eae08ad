import {
  Dragging,
  planWorkshop,
  repairPlan,
  solveProject,
  verifyPlan,
  workshopProject,
} from '@wunsch/core/plan';
import { publishedShop } from '../../core/src/plan/testing/publishedShops.ts';
import { eightWeeksRoom } from '../../core/src/plan/testing/room.ts';
import { median, ms, printTable } from './table.ts';

const SEARCH_MS = 10_000;

/** Plans: the best of four plain priority rules beside what a search makes of it in ten seconds, in the same run. */
export function plan(): void {
  const rows = (['ft06', 'ft10'] as const).map((name) => {
    const project = publishedShop(name);
    const rule = solveProject(project, { budgetMs: 0 });
    const begun = performance.now();
    const found = solveProject(project, { budgetMs: SEARCH_MS });
    return [
      `job shop ${name}`,
      String(rule.worth.end),
      String(found.worth.end),
      `≥ ${found.bound.end}${found.isProved ? ', proved' : ''}`,
      ms(performance.now() - begun),
    ];
  });
  printTable('Job shops, end', [['', 'priority rule', 'search', 'bound', 'time'], ...rows]);

  const room = eightWeeksRoom();
  const { project, needs } = workshopProject(room);
  const begun = performance.now();
  let first = 0;
  const found = solveProject(project, {
    budgetMs: SEARCH_MS,
    onBetter: () => {
      first ||= performance.now() - begun;
    },
  });
  const rule = solveProject(project, { budgetMs: 0 });
  printTable(
    `Eight weeks: ${needs.batches.length} batches, ${project.activities.length} steps, ${verifyPlan(project, found.plan).length} rules broken`,
    [
      ['', 'late, weighted days', 'end, days', 'bound of the end', 'first plan'],
      ['priority rule', (rule.worth.lateness / 1440).toFixed(1), (rule.worth.end / 1440).toFixed(1), '', ''],
      [
        'search, 10 s',
        (found.worth.lateness / 1440).toFixed(1),
        (found.worth.end / 1440).toFixed(1),
        `${(found.bound.end / 1440).toFixed(1)} (${(found.gap * 100).toFixed(0)} %)`,
        ms(first),
      ],
    ],
  );

  const kept = planWorkshop(room, { budgetMs: 1000, draws: 0 });
  const winnows = kept.steps.filter((step) => step.stage === 'winnow');
  const pins = [0, 10, 20, 30].flatMap((nth) => {
    const step = winnows[nth % winnows.length]!;
    return [2, 24].map((hours) => ({
      step: step.key,
      at: new Date(Date.parse(step.start) + hours * 3_600_000).toISOString(),
      how: 'not before' as const,
    }));
  });
  const dragging = new Dragging(room, kept.steps, []);
  const of = (task: (pin: (typeof pins)[number]) => number) => {
    const runs = pins.map((pin) => {
      const from = performance.now();
      return { moved: task(pin), took: performance.now() - from };
    });
    return [
      String(median(runs.map((r) => r.moved))),
      ms(median(runs.map((r) => r.took))),
      ms(Math.max(...runs.map((r) => r.took))),
    ];
  };
  const starts = new Map(kept.steps.map((step) => [step.key, Date.parse(step.start)]));
  printTable(`One step of ${kept.steps.length} dragged by 2 and by 24 hours`, [
    ['', 'moved, median', 'time, median', 'longest'],
    [
      'planned anew, 1 s',
      ...of((pin) => {
        const anew = planWorkshop(room, { budgetMs: 1000, draws: 0, pins: [pin] });
        return anew.steps.filter(
          (x) => Math.abs(Date.parse(x.start) - (starts.get(x.key) ?? 0)) > 30 * 60_000,
        ).length;
      }),
    ],
    ['dragged', ...of((pin) => dragging.to(pin).repair.moves.length)],
    ['mended', ...of((pin) => repairPlan(room, kept.steps, { draws: 0, pins: [pin] }).moves.length)],
    [
      'mended, chances of 120 draws',
      ...of((pin) => repairPlan(room, kept.steps, { draws: 120, pins: [pin] }).moves.length),
    ],
  ]);
}
