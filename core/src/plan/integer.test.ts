import highsLoader from 'highs';
import { often } from '../testing/index.ts';
import { solveProject, verifyPlan, type PlanProject } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { randomProject } from './testing/randomProject.ts';

/**
 * The least end as a mixed-integer programme over unit times: x(a, t) = 1 where a starts at t. Written in the LP format and solved by an
 * independent solver.
 */
function programme({ activities, resources = [], waits = [] }: PlanProject, horizon: number): string {
  const x = (id: string, t: number) => `x_${id}_${t}`;
  const times = (duration: number) => Array.from({ length: horizon - duration + 1 }, (_, t) => t);
  const rows: string[] = [];
  const startOf = (id: string, sign: string) =>
    times(activities.find((a) => a.id === id)!.duration)
      .filter((t) => t > 0)
      .map((t) => `${sign} ${t} ${x(id, t)}`)
      .join(' ');
  for (const a of activities) {
    rows.push(
      `${times(a.duration)
        .map((t) => x(a.id, t))
        .join(' + ')} = 1`,
    );
    rows.push(`last ${startOf(a.id, '-')} >= ${a.duration}`);
    for (const t of times(a.duration)) if (t < (a.notBefore ?? 0)) rows.push(`${x(a.id, t)} = 0`);
  }
  for (const { from, to, least = 0, most } of waits) {
    const duration = activities.find((a) => a.id === from)!.duration;
    rows.push(`${startOf(to, '+')} ${startOf(from, '-')} >= ${duration + least}`);
    if (most !== undefined) rows.push(`${startOf(to, '+')} ${startOf(from, '-')} <= ${duration + most}`);
  }
  for (const r of resources)
    for (let t = 0; t < horizon; t += 1) {
      const running = activities.flatMap((a) =>
        (a.uses ?? []).flatMap((u) =>
          u.oneOf[0] === r.id
            ? times(a.duration).flatMap((s) =>
                s <= t && t < s + a.duration ? [`${u.amount ?? 1} ${x(a.id, s)}`] : [],
              )
            : [],
        ),
      );
      if (running.length > 0) rows.push(`${running.join(' + ')} <= ${r.capacity}`);
    }
  const binary = activities.flatMap((a) => times(a.duration).map((t) => x(a.id, t)));
  return `Minimize\n obj: last\nSubject To\n${rows.map((row, k) => ` c${k}: ${row}`).join('\n')}\nBounds\n 0 <= last\nBinary\n ${binary.join('\n ')}\nEnd`;
}

test('larger projects end where an independent mixed-integer solver says the least end is', async () => {
  const highs = await highsLoader();
  let [solved, proved] = [0, 0];
  const projects = often(4, 14);
  for (let seed = 1; seed <= projects; seed += 1) {
    const project = randomProject(seed * 31, { activities: 14, longest: 4, most: seed % 2 === 0 });
    let found;
    try {
      found = solveProject(project, { budgetMs: 2000, now: countingClock(0.4) });
    } catch {
      continue;
    }
    expect([seed, verifyPlan(project, found.plan)]).toEqual([seed, []]);
    const answer = highs.solve(programme(project, found.worth.end + 1), { time_limit: 20 });
    if (answer.Status !== 'Optimal') continue;
    solved += 1;
    expect([seed, found.worth.end]).toEqual([seed, Math.round(answer.ObjectiveValue)]);
    proved += Number(found.isProved);
    expect([seed, found.bound.end <= found.worth.end]).toEqual([seed, true]);
  }
  expect(solved).toBeGreaterThan(projects * 0.6);
  expect(proved).toBeGreaterThan(solved * 0.7);
}, 300_000);
