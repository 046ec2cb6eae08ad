import type { Scribe } from './scribe.ts';

const DAY = 86_400_000;

/** What was done to the grinders: cleaned after milk, serviced, and Otto's stones dressed anew. */
export function writeMachines(scribe: Scribe, machines: Readonly<Record<string, string>>, now: number): void {
  const done = (machine: string, kind: string, note: string, daysAgo: number) =>
    scribe.write(
      'machine.event',
      scribe.id(),
      { machineId: machines[machine]!, kind, note },
      now - daysAgo * DAY,
      'JB',
    );
  done('otto', 'rebuilt', 'Stones dressed, new tension spring.', 430);
  done('otto', 'serviced', 'Belt and bearings.', 150);
  done('otto', 'cleaned', 'Warm sugar through, wiped dry.', 40);
  done('ida', 'serviced', 'Belt tightened.', 210);
  done('ida', 'cleaned', 'After the milk batch: butter through, washed, dried.', 170);
}

/** A trial that was decided: sugar early against late, tasted blind by all three. */
export function writeTrial(
  scribe: Scribe,
  recipes: Readonly<Record<string, { id: string }>>,
  now: number,
): void {
  const scores = (values: readonly number[]) =>
    (['AK', 'JB', 'MR', 'AK', 'JB', 'MR'] as const).map((by, i) => ({ by, score: values[i]!, note: '' }));
  scribe.write(
    'trial.put',
    scribe.id(),
    {
      name: 'When the sugar joins',
      factor: 'sugar at once, or once the liquor runs',
      arms: [
        {
          code: '417',
          label: 'Sugar at once',
          recipeId: recipes.seventy!.id,
          batchId: null,
          scores: scores([6, 5.5, 6, 6.5, 5, 6]),
        },
        {
          code: '862',
          label: 'Sugar once it runs',
          recipeId: recipes.seventy!.id,
          batchId: null,
          scores: scores([7.5, 7, 8, 7.5, 7, 7.5]),
        },
      ],
      kept: null,
      ifMatch: null,
    },
    now - 60 * DAY,
    'AK',
  );
}
