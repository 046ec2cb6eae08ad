import { planWorkshop, repairPlan, solveProject, verifyPlan, workshopProject } from '@wunsch/core/plan';
import { publishedShop } from '../../core/src/plan/testing/publishedShops.ts';
import { roomWith } from '../../core/src/plan/testing/room.ts';
import { ms, printTable } from './table.ts';

const SEARCH_MS = 10_000;

/** Forty orders over eight weeks for a workshop of three, as many batches as they need. */
const eightWeeks = () =>
  roomWith(
    Array.from({ length: 40 }, (_, k) => ({
      bars: 100 + ((k * 37) % 120),
      days: 12 + k * 1.2,
      recipe: k % 3 ? 'dark' : 'milk',
      weight: 1 + (k % 3),
    })),
    // So small that forty batches are made.
    {
      machines: roomWith([]).machines.map((m) => (m.id === 'otto' ? { ...m, minMg: 2e6, maxMg: 9e6 } : m)),
    },
  );

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

  const room = eightWeeks();
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
  const moved = kept.steps.find((s) => s.stage === 'winnow')!;
  const drag = performance.now();
  const { moves } = repairPlan(room, kept.steps, {
    draws: 0,
    budgetMs: 60,
    pins: [
      {
        step: moved.key,
        at: new Date(Date.parse(moved.start) + 7_200_000).toISOString(),
        how: 'not before',
      },
    ],
  });
  printTable('One step dragged by two hours: what gives way', [
    ['steps', 'moved', 'time'],
    [String(kept.steps.length), String(moves.length), ms(performance.now() - drag)],
  ]);
}
